using Nachlass.Core.Text;

namespace Nachlass.Core.Topics;

/// <summary>A word or phrase that comes up.</summary>
/// <param name="Words">As it most often stands in the texts.</param>
/// <param name="Texts">In how many texts it stands.</param>
/// <param name="ByMonth">In how many texts of each month, from the first month asked about to the last.</param>
/// <param name="Rising">Share of its texts in the later half of the months, less what would be by chance: above 0 it comes up more
/// lately.</param>
public sealed record Phrase(string Words, int Texts, IReadOnlyList<int> ByMonth, double Rising);

/// <summary>Counts what keeps coming up.</summary>
public static class Phrases
{
    /// <summary>
    /// The words and pairs of neighbouring words that stand in two texts or more, those in the most texts first. A word that hardly ever
    /// stands
    /// without its neighbour is given as the pair only.
    /// </summary>
    /// <param name="texts">Texts with the month each is of, as months since year 0.</param>
    /// <param name="first">The first month that is shown.</param>
    /// <param name="last">The last one.</param>
    /// <param name="leftOut">Roots that say nothing here, such as the topic's own name.</param>
    /// <param name="most">How many to give at most.</param>
    public static IReadOnlyList<Phrase> Of(
        IEnumerable<(int Month, string Text)> texts,
        int first,
        int last,
        IReadOnlySet<string>? leftOut = null,
        int most = 40
    )
    {
        var seen = new Dictionary<string, Seen>();
        var months = last - first + 1;
        var inAll = new int[months];
        foreach (var (month, text) in texts)
        {
            if (month < first || month > last)
                continue;
            inAll[month - first]++;
            var stems = Stems.Of(PlainText.Of(text));
            var here = new HashSet<string>();
            for (var i = 0; i < stems.Count; i++)
            {
                if (leftOut?.Contains(stems[i].Root) == true || stems[i].Root.All(char.IsDigit))
                    continue;
                Count(stems[i].Root, stems[i].Word.ToLowerInvariant());
                if (i + 1 < stems.Count && leftOut?.Contains(stems[i + 1].Root) != true)
                    Count(stems[i].Root + " " + stems[i + 1].Root, (stems[i].Word + " " + stems[i + 1].Word).ToLowerInvariant());
            }

            void Count(string root, string word)
            {
                if (!seen.TryGetValue(root, out var entry))
                    seen[root] = entry = new Seen(months);
                entry.Words[word] = entry.Words.GetValueOrDefault(word) + 1;
                if (here.Add(root))
                    entry.ByMonth[month - first]++;
            }
        }
        var frequent = seen.Where(s => s.Value.Texts >= 2).ToDictionary();
        foreach (var (root, entry) in frequent.Where(s => s.Key.Contains(' ')).OrderByDescending(s => s.Value.Texts))
        foreach (var half in root.Split(' '))
            if (frequent.TryGetValue(half, out var alone) && entry.Texts >= 0.75 * alone.Texts)
                alone.IsPart = true;
        var lateShare = months < 2 ? 0.5 : (double)inAll.Skip(months / 2).Sum() / Math.Max(1, inAll.Sum());
        return
        [
            .. frequent
                .Values.Where(s => !s.IsPart)
                .Select(s => new Phrase(
                    s.Words.OrderByDescending(w => w.Value).ThenBy(w => w.Key, StringComparer.Ordinal).First().Key,
                    s.Texts,
                    s.ByMonth,
                    (double)s.ByMonth.Skip(months / 2).Sum() / s.Texts - lateShare
                ))
                .OrderByDescending(p => p.Texts)
                .ThenByDescending(p => p.Words.Contains(' ', StringComparison.Ordinal))
                .ThenBy(p => p.Words, StringComparer.Ordinal)
                .Take(most),
        ];
    }

    private sealed class Seen(int months)
    {
        public int[] ByMonth { get; } = new int[months];
        public Dictionary<string, int> Words { get; } = [];
        public bool IsPart { get; set; }
        public int Texts => ByMonth.Sum();
    }
}
