using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Sift;

/// <summary>A topic that a text seems to belong to.</summary>
/// <param name="Topic">The topic.</param>
/// <param name="Figure">How sure, 0 to 1.</param>
/// <param name="Because">What the figure is made of.</param>
public sealed record LikelyTopic(TopicMark Topic, double Figure, IReadOnlyList<TopicTerm> Because);

/// <summary>One reason for a likely topic.</summary>
/// <param name="Sorted">The thing already sorted there; null when the text itself names the topic.</param>
/// <param name="Figure">Its share, 0 to 1.</param>
public sealed record TopicTerm(Reference? Sorted, double Figure);

/// <summary>Guesses topics from how earlier slips were sorted.</summary>
public static class LikelyTopics
{
    /// <summary>How many of the nearest sorted things are asked.</summary>
    public const int Neighbours = 20;

    /// <summary>Figures below this are not worth showing.</summary>
    public const double Floor = 0.15;

    /// <summary>What it counts when the text names the topic.</summary>
    public const double Named = 0.6;

    /// <summary>
    /// The likely topics, the surest first. Each neighbour sorted under a topic, and the topic's name in the text, is taken as
    /// an independent reason; reasons add up as 1 − ∏(1 − reason), the noisy-or of Pearl, <i>Probabilistic Reasoning in
    /// Intelligent Systems</i> (1988), section 4.3.
    /// </summary>
    /// <param name="text">The text asked about.</param>
    /// <param name="nearest">Its nearest sorted things, with their topics.</param>
    /// <param name="topics">All topics with their aliases.</param>
    /// <param name="already">Topics it has, which are not offered again.</param>
    /// <param name="most">How many to give at most.</param>
    public static IReadOnlyList<LikelyTopic> Of(string text, IReadOnlyList<(Nearness Near, IReadOnlyList<TopicNumber> Topics)> nearest,
        IReadOnlyList<Topic> topics, IReadOnlySet<TopicNumber> already, int most = 5)
    {
        var reasons = topics.ToDictionary(t => t.Number, _ => new List<TopicTerm>());
        foreach (var (near, sorted) in nearest)
            foreach (var topic in sorted)
                if (reasons.TryGetValue(topic, out var list)) list.Add(new TopicTerm(near.Thing, near.Likeness));
        var roots = Stems.Of(text).Select(s => s.Root).ToList();
        foreach (var topic in topics)
            if (topic.Aliases.Prepend(topic.Name).Any(name => Holds(roots, name))) reasons[topic.Number].Add(new TopicTerm(null, Named));
        return [.. topics
            .Where(topic => !already.Contains(topic.Number) && topic.MergedInto is null && reasons[topic.Number].Count > 0)
            .Select(topic => new LikelyTopic(new TopicMark(topic.Number, topic.Name, topic.Colour),
                1 - reasons[topic.Number].Aggregate(1.0, (left, reason) => left * (1 - reason.Figure)),
                [.. reasons[topic.Number].OrderByDescending(r => r.Figure)]))
            .Where(likely => likely.Figure >= Floor)
            .OrderByDescending(likely => likely.Figure).ThenBy(likely => likely.Topic.Name, StringComparer.OrdinalIgnoreCase)
            .Take(most)];
    }

    private static bool Holds(List<string> roots, string name)
    {
        var sought = Stems.Of(name).Select(s => s.Root).ToList();
        if (sought.Count == 0) return false;
        for (var at = 0; at + sought.Count <= roots.Count; at++)
            if (roots.GetRange(at, sought.Count).SequenceEqual(sought)) return true;
        return false;
    }
}

/// <summary>How near something must be before it is worth a line of the writer's attention.</summary>
public static class ReadsLike
{
    /// <summary>The least likeness shown, 0 to 1: below it two texts share a word or two by chance.</summary>
    public const double Floor = 0.09;

    public const int Most = 5;

    /// <summary>The least likeness at which a piece is offered. A draft is long, so its cosine with a slip is small even where they meet.</summary>
    public const double PieceFloor = 0.07;
}
