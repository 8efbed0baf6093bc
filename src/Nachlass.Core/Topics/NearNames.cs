using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Topics;

/// <summary>Why two topics may be one.</summary>
public enum NearReason
{
    Inflected,
    SameWords,
    Spelling,
}

/// <summary>Two topics that may be one.</summary>
/// <param name="First">The one with the lower number.</param>
public sealed record NearNames(TopicNumber First, TopicNumber Second, NearReason Reason)
{
    /// <summary>
    /// Pairs of topics whose names, or other names, differ only by an ending (<i>bell</i>, <i>bells</i>), by joining words or order
    /// (<i>women of the
    /// river</i>, <i>river women</i>), or by a letter or two (<i>ferrys</i>, <i>feries</i>): one change in a name of five letters or more,
    /// two in one of nine or more.
    /// </summary>
    public static IReadOnlyList<NearNames> Among(IReadOnlyList<Topic> topics)
    {
        var names = topics
            .Where(t => t.MergedInto is null)
            .OrderBy(t => t.Number.Value)
            .SelectMany(t =>
                t.Aliases.Prepend(t.Name).Select(name => new Named(t.Number, Stems.Fold(name), [.. Stems.Of(name).Select(s => s.Root)]))
            )
            .ToList();
        var found = new Dictionary<(TopicNumber, TopicNumber), NearReason>();
        foreach (var group in names.Where(n => n.Roots.Length > 0).GroupBy(n => string.Join(' ', n.Roots)))
        foreach (var (a, b) in Pairs([.. group]))
            Keep(a, b, NearReason.Inflected);
        foreach (var group in names.Where(n => n.Roots.Length > 1).GroupBy(n => string.Join(' ', n.Roots.Order(StringComparer.Ordinal))))
        foreach (var (a, b) in Pairs([.. group]))
            Keep(a, b, NearReason.SameWords);
        // By length, so that only names that can be near are measured against each other.
        var byLength = names.OrderBy(n => n.Folded.Length).ToList();
        for (var i = 0; i < byLength.Count; i++)
        for (var j = i + 1; j < byLength.Count && byLength[j].Folded.Length - byLength[i].Folded.Length <= 2; j++)
        {
            var (a, b) = (byLength[i], byLength[j]);
            var allowed =
                a.Folded.Length >= 9 ? 2
                : a.Folded.Length >= 5 ? 1
                : 0;
            // "Letter 1" and "Letter 11" are two, however near.
            if (
                a.Topic != b.Topic
                && allowed > 0
                && Digits(a) == Digits(b)
                && b.Folded.Length - a.Folded.Length <= allowed
                && Spelling.Distance(a.Folded, b.Folded) <= allowed
            )
                Keep(a, b, NearReason.Spelling);
        }
        return
        [
            .. found
                .Select(f => new NearNames(f.Key.Item1, f.Key.Item2, f.Value))
                .OrderBy(f => f.Reason)
                .ThenBy(f => f.First.Value)
                .ThenBy(f => f.Second.Value),
        ];

        void Keep(Named a, Named b, NearReason reason)
        {
            if (a.Topic == b.Topic)
                return;
            found.TryAdd(a.Topic.Value < b.Topic.Value ? (a.Topic, b.Topic) : (b.Topic, a.Topic), reason);
        }
    }

    private static string Digits(Named name) => string.Concat(name.Folded.Where(char.IsDigit));

    private static IEnumerable<(Named, Named)> Pairs(List<Named> group)
    {
        for (var i = 0; i < group.Count; i++)
        for (var j = i + 1; j < group.Count; j++)
            yield return (group[i], group[j]);
    }

    private sealed record Named(TopicNumber Topic, string Folded, string[] Roots);
}
