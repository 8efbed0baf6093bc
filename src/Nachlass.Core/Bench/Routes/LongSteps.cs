using Nachlass.Core.Text;

namespace Nachlass.Core.Bench.Routes;

/// <summary>Finds neighbours that share next to nothing, so that a reader has to jump.</summary>
/// <remarks>
/// After Hearst, "TextTiling: Segmenting text into multi-paragraph subtopic passages", <i>Computational Linguistics</i> 23 (1997): the
/// cosine of the words on either side of a gap; a gap counts where it lies under the mean of all gaps less half their standard deviation
/// (her liberal cut-off). Here the gaps are those between sections, and one has to be next to nothing by itself too, since in an even text
/// some gap is always the least.
/// </remarks>
public static class LongSteps
{
    /// <summary>Stems on each side, about half a page.</summary>
    public const int Block = 100;

    /// <summary>A section with fewer stems says too little to be compared.</summary>
    public const int Fewest = 25;

    /// <summary>A cosine under this is next to nothing.</summary>
    public const double NextToNothing = 0.05;

    /// <returns>The places of sections whose next written neighbour is a long step away, with that neighbour's.</returns>
    public static IReadOnlyList<(int From, int To)> In(IReadOnlyList<List<PlacedWord>> words)
    {
        var gaps = Enumerable
            .Range(0, Math.Max(0, words.Count - 1))
            .Where(i => words[i].Count >= Fewest && words[i + 1].Count >= Fewest)
            .Select(i => (From: i, To: i + 1, Near: Near(words[i].TakeLast(Block), words[i + 1].Take(Block))))
            .ToList();
        if (gaps.Count == 0)
            return [];
        var mean = gaps.Average(g => g.Near);
        var deviation = Math.Sqrt(gaps.Average(g => (g.Near - mean) * (g.Near - mean)));
        return
        [
            .. gaps.Where(g => g.Near < NextToNothing && (gaps.Count < 3 || g.Near <= mean - deviation / 2)).Select(g => (g.From, g.To)),
        ];
    }

    private static double Near(IEnumerable<PlacedWord> before, IEnumerable<PlacedWord> after)
    {
        var (a, b) = (before.CountBy(w => w.Root).ToDictionary(), after.CountBy(w => w.Root).ToDictionary());
        var product = a.Sum(t => b.GetValueOrDefault(t.Key) * (double)t.Value);
        return product / Math.Sqrt(a.Values.Sum(n => (double)n * n) * b.Values.Sum(n => (double)n * n));
    }
}
