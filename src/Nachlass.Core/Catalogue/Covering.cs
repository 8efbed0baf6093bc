using Nachlass.Core.Text;

namespace Nachlass.Core.Catalogue;

/// <summary>The place in a text that says most of what was asked.</summary>
/// <param name="Passage">A few sentences of the text, without marks.</param>
/// <param name="Share">How much of what was asked stands there, 0 to 1, the rare words counting most.</param>
/// <param name="Words">The words asked for that stand there, the weightiest first.</param>
public sealed record Covered(string Passage, double Share, IReadOnlyList<string> Words);

/// <summary>Answers "have I written about this already?" with the very passage.</summary>
public static class Covering
{
    /// <summary>From this share on a passage is an answer: more than half of what was asked stands in it.</summary>
    public const double Floor = 0.5;

    /// <summary>How long a passage is shown at most, in characters.</summary>
    public const int Longest = 320;

    /// <summary>
    /// The paragraph in which the most of what is asked stands; null when none reaches <paramref name="floor"/>. Each asked word counts by
    /// how rare it is (inverse document frequency), once, however often it is said: the coverage of a query, as in the passage
    /// retrieval of Salton, Allan and Buckley, <i>Approaches to passage retrieval in full text information systems</i> (SIGIR 1993).
    /// </summary>
    /// <param name="asked">A question, some words, or a whole slip.</param>
    /// <param name="text">The Markdown text of a piece.</param>
    /// <param name="weight">What a stem weighs, above 0.</param>
    /// <param name="floor">The least share that is an answer, 0 to 1.</param>
    public static Covered? Best(string asked, string text, Func<string, double> weight, double floor = Floor)
    {
        var wanted = new Dictionary<string, (double Weight, string Word)>();
        foreach (var stem in Stems.Of(asked))
            wanted.TryAdd(stem.Root, (weight(stem.Root), stem.Word));
        var whole = wanted.Values.Sum(w => w.Weight);
        if (whole == 0)
            return null;
        var (best, bestShare) = ("", 0.0);
        foreach (var paragraph in Paragraphs.Of(text))
        {
            var share = Share(paragraph);
            if (share > bestShare)
                (best, bestShare) = (paragraph, share);
        }
        if (bestShare < floor)
            return null;
        var there = Stems.Of(best).Select(s => s.Root).ToHashSet();
        return new Covered(
            Shortened(best),
            bestShare,
            [.. wanted.Where(w => there.Contains(w.Key)).OrderByDescending(w => w.Value.Weight).Select(w => w.Value.Word)]
        );

        double Share(string part) =>
            Stems.Of(part).Select(s => s.Root).Distinct().Sum(root => wanted.TryGetValue(root, out var w) ? w.Weight : 0) / whole;

        // The sentence that says the most, and as much of what surrounds it as there is room for.
        string Shortened(string paragraph)
        {
            if (paragraph.Length <= Longest)
                return paragraph;
            var sentences = Paragraphs.Sentences(paragraph);
            var at = Enumerable.Range(0, sentences.Count).MaxBy(i => Share(sentences[i]));
            var (from, to) = (at, at);
            while (true)
            {
                if (to + 1 < sentences.Count && Length(from, to + 1) <= Longest)
                    to++;
                else if (from > 0 && Length(from - 1, to) <= Longest)
                    from--;
                else
                    break;
            }
            var shown = string.Join(' ', sentences.GetRange(from, to - from + 1));
            return shown.Length <= Longest ? shown : shown[..(Longest - 1)].TrimEnd() + "…";

            int Length(int first, int last) => sentences.GetRange(first, last - first + 1).Sum(s => s.Length + 1);
        }
    }
}
