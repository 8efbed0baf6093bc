using Nachlass.Core.Text;

namespace Nachlass.Core.Bench.Routes;

/// <summary>Two sections that say the same.</summary>
/// <param name="First">Place of the earlier section.</param>
/// <param name="Second">Place of the later one.</param>
/// <param name="Phrases">What both say, as it stands in the later one; the longest first.</param>
/// <param name="At">Where in the later section's text the longest of them stands, in UTF-16 units.</param>
public sealed record Repetition(int First, int Second, IReadOnlyList<string> Phrases, int At);

/// <summary>Finds sections that say again what another said.</summary>
/// <remarks>
/// By the pairs of neighbouring stems that stand in exactly these two sections of the text, as in the shingling of Broder, <i>On the
/// resemblance and containment of documents</i> (1997): a pair that stands in many is what the piece is about, one in two is what these
/// two share. Names are left out; that two sections speak of the same person says little.
/// </remarks>
public static class SaidTwice
{
    /// <summary>So many shared pairs at least, and so large a share of the shorter section's pairs.</summary>
    public const int FewestPairs = 3;
    public const double LeastShare = 0.03;
    private const int MostPhrases = 4,
        MostWords = 7;

    /// <param name="texts">The sections' texts without marks.</param>
    /// <param name="words">Their words.</param>
    public static IReadOnlyList<Repetition> In(IReadOnlyList<string> texts, IReadOnlyList<List<PlacedWord>> words)
    {
        var holders = new Dictionary<(string, string), (int First, int Second, bool InMore)>();
        var pairs = words.Select(PairsOf).ToList();
        for (var at = 0; at < pairs.Count; at++)
            foreach (var pair in pairs[at])
                holders[pair] = !holders.TryGetValue(pair, out var held)
                    ? (at, -1, false)
                    : (held.First, held.Second < 0 ? at : held.Second, held.Second >= 0);
        return
        [
            .. holders
                .Where(h => h.Value is { Second: >= 0, InMore: false })
                .GroupBy(h => (h.Value.First, h.Value.Second), h => h.Key)
                .Where(g => g.Count() >= Math.Max(FewestPairs, LeastShare * Math.Min(pairs[g.Key.First].Count, pairs[g.Key.Second].Count)))
                .OrderBy(g => g.Key)
                .Select(g => Found(g.Key.First, g.Key.Second, g.ToHashSet())),
        ];

        Repetition Found(int first, int second, HashSet<(string, string)> shared)
        {
            var runs = new List<(int From, int To)>();
            var own = words[second];
            for (var i = 0; i + 1 < own.Count; i++)
                if (shared.Contains((own[i].Root, own[i + 1].Root)))
                {
                    if (runs.Count > 0 && runs[^1].To == i)
                        runs[^1] = (runs[^1].From, i + 1);
                    else
                        runs.Add((i, i + 1));
                }
            var longest = runs.OrderByDescending(r => r.To - r.From).ThenBy(r => r.From).ToList();
            return new Repetition(
                first,
                second,
                [
                    .. longest
                        // Two words by themselves say little beside a longer phrase.
                        .Where((r, at) => at == 0 || r.To - r.From > 1 || longest[0].To - longest[0].From == 1)
                        .Select(r =>
                            texts[second][own[r.From].Start..own[Math.Min(r.To, r.From + MostWords - 1)].End].ReplaceLineEndings(" ")
                        )
                        .Distinct(StringComparer.OrdinalIgnoreCase)
                        .Take(MostPhrases),
                ],
                own[longest[0].From].Start
            );
        }
    }

    private static HashSet<(string, string)> PairsOf(List<PlacedWord> words)
    {
        var pairs = new HashSet<(string, string)>();
        for (var i = 0; i + 1 < words.Count; i++)
            if (words[i].Root != words[i + 1].Root && !(words[i].IsCapital && words[i + 1].IsCapital))
                pairs.Add((words[i].Root, words[i + 1].Root));
        return pairs;
    }
}
