using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Sift;

/// <summary>A topic that a text seems to belong to.</summary>
/// <param name="Topic">The topic.</param>
/// <param name="Figure">How sure, 0 to 1: once there is enough to learn from, how often such a guess has been right.</param>
/// <param name="Because">What the figure is made of, the strongest first.</param>
/// <param name="IsCalibrated">Whether the figure was learnt from the writer's own decisions.</param>
public sealed record LikelyTopic(TopicMark Topic, double Figure, IReadOnlyList<TopicTerm> Because, bool IsCalibrated = false);

/// <summary>One reason for a likely topic, or against it.</summary>
/// <param name="Sorted">The thing already sorted there; null when the text itself names the topic.</param>
/// <param name="Figure">Its share; below 0 where the writer refused the topic for that thing.</param>
public sealed record TopicTerm(Reference? Sorted, double Figure);

/// <summary>Something near that the writer has sorted.</summary>
/// <param name="Refused">Topics that were offered for it and refused.</param>
public sealed record SortedNear(Nearness Near, IReadOnlyList<TopicNumber> Topics, IReadOnlyList<TopicNumber> Refused);

/// <summary>Guesses topics from how earlier things were sorted.</summary>
public static class LikelyTopics
{
    /// <summary>How many of the nearest sorted things are asked.</summary>
    public const int Neighbours = 24;

    /// <summary>Figures below this are not worth showing.</summary>
    public const double Floor = 0.15;

    /// <summary>What it counts when the text names the topic.</summary>
    public const double Named = 0.6;

    /// <summary>
    /// Likenesses at or below this say nothing, so near things count by how far above it they are; what is nearly the same text counts
    /// wholly.
    /// </summary>
    public const double Chance = 0.04;

    /// <summary>
    /// The likely topics, the surest first. The nearest things vote for their topics, each with its likeness (weighted nearest
    /// neighbours, Yang and Chute, <i>ACM Transactions on Information Systems</i> 12 (1994)); a refusal votes against. The share of
    /// the votes counts as far as the nearest is near, and the topic's name in the text is an independent reason, added as
    /// 1 − (1 − a)(1 − b). What comes out is a score; <paramref name="calibration"/> turns it into how often such a score was right.
    /// </summary>
    /// <param name="text">The text asked about.</param>
    /// <param name="nearest">Its nearest things, with their topics.</param>
    /// <param name="topics">All topics with their aliases.</param>
    /// <param name="already">Topics it has or was refused, which are not offered again.</param>
    /// <param name="calibration">What was learnt from earlier decisions.</param>
    /// <param name="most">How many to give at most.</param>
    public static IReadOnlyList<LikelyTopic> Of(
        string text,
        IReadOnlyList<SortedNear> nearest,
        IReadOnlyList<Topic> topics,
        IReadOnlySet<TopicNumber> already,
        Calibration? calibration = null,
        int most = 5
    )
    {
        var learnt = calibration ?? Calibration.None;
        return
        [
            .. Scores(text, nearest, topics)
                .Where(s => !already.Contains(s.Topic.Number))
                .Select(s => new LikelyTopic(
                    new TopicMark(s.Topic.Number, s.Topic.Name, s.Topic.Colour),
                    learnt.Of(s.Score),
                    [.. s.Because.OrderByDescending(r => Math.Abs(r.Figure))],
                    learnt.IsLearnt
                ))
                .Where(likely => likely.Figure >= Floor)
                .Take(most),
        ];
    }

    /// <summary>The scores of all topics that have one, the highest first.</summary>
    public static IEnumerable<(Topic Topic, double Score, IReadOnlyList<TopicTerm> Because)> Scores(
        string text,
        IReadOnlyList<SortedNear> nearest,
        IReadOnlyList<Topic> topics
    )
    {
        var votes = topics.Where(t => t.MergedInto is null).ToDictionary(t => t.Number, _ => new List<TopicTerm>());
        var asked = nearest
            .Where(n => n.Topics.Count + n.Refused.Count > 0)
            .Take(Neighbours)
            .Select(n => (n, Weight: Math.Max(0, n.Near.Likeness - Chance)))
            .ToList();
        // Votes are compared with the whole near company, so that many who agree are surer than one alone.
        var whole = asked.Sum(n => n.Weight) + Chance;
        foreach (var (near, weight) in asked)
        {
            foreach (var topic in near.Topics)
                if (votes.TryGetValue(topic, out var list))
                    list.Add(new TopicTerm(near.Near.Thing, weight / whole));
            foreach (var topic in near.Refused)
                if (votes.TryGetValue(topic, out var list))
                    list.Add(new TopicTerm(near.Near.Thing, -weight / whole));
        }
        // A best neighbour at half the words makes its company's word count in full.
        var reach = Math.Min(1, asked.Count == 0 ? 0 : 0.35 + asked.Max(a => a.n.Near.Likeness) * 1.3);
        var roots = Stems.Of(text).Select(s => s.Root).ToList();
        var scored = new List<(Topic Topic, double Score, IReadOnlyList<TopicTerm> Because)>();
        foreach (var topic in topics.Where(t => t.MergedInto is null))
        {
            var own = votes[topic.Number];
            var score = Math.Max(0, own.Sum(v => v.Figure)) * reach;
            if (topic.Aliases.Prepend(topic.Name).Any(name => Holds(roots, name)))
            {
                own.Add(new TopicTerm(null, Named));
                score = 1 - (1 - score) * (1 - Named);
            }
            if (score > 0)
                scored.Add((topic, score, (IReadOnlyList<TopicTerm>)own));
        }
        return scored.OrderByDescending(s => s.Score).ThenBy(s => s.Topic.Name, StringComparer.OrdinalIgnoreCase);
    }

    private static bool Holds(List<string> roots, string name)
    {
        var sought = Stems.Of(name).Select(s => s.Root).ToList();
        if (sought.Count == 0)
            return false;
        for (var at = 0; at + sought.Count <= roots.Count; at++)
            if (roots.GetRange(at, sought.Count).SequenceEqual(sought))
                return true;
        return false;
    }
}
