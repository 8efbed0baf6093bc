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
/// <param name="Sorted">The thing already sorted there; null for a word, and when the text itself names the topic.</param>
/// <param name="Figure">Its share; below 0 where the writer refused the topic for that thing, or a word speaks against it.</param>
/// <param name="Word">The word of the text that carries it; null for a thing, and when the text itself names the topic.</param>
public sealed record TopicTerm(Reference? Sorted, double Figure, string? Word = null);

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

    /// <summary>The first few are offered down to this: three to see and refuse are quicker than one to type.</summary>
    public const double FloorOfFirst = 0.02;

    /// <summary>How many are the first few.</summary>
    public const int First = 3;

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
    /// <param name="weights">The weights of words learnt from earlier decisions.</param>
    /// <param name="most">How many to give at most.</param>
    public static IReadOnlyList<LikelyTopic> Of(
        string text,
        IReadOnlyList<SortedNear> nearest,
        IReadOnlyList<Topic> topics,
        IReadOnlySet<TopicNumber> already,
        Calibration? calibration = null,
        TopicWeights? weights = null,
        int most = 5
    )
    {
        var learnt = calibration ?? Calibration.None;
        return
        [
            .. Scores(text, nearest, topics, weights)
                .Where(s => !already.Contains(s.Topic.Number))
                .Select(s => new LikelyTopic(
                    new TopicMark(s.Topic.Number, s.Topic.Name, s.Topic.Colour),
                    learnt.Of(s.Score),
                    [.. s.Because.OrderByDescending(r => Math.Abs(r.Figure))],
                    learnt.IsLearnt
                ))
                .Where((likely, place) => likely.Figure >= FloorAt(place, learnt))
                .Take(most),
        ];
    }

    /// <summary>Decided texts from which on words are weighed; before, the near things alone say more.</summary>
    public const int FewestTexts = 60;

    /// <summary>What the near things' votes count beside a margin of 1. Between 0.4 and 1.5 it makes little difference, on real texts as on
    /// made ones (docs/performance.md).</summary>
    private const double OfVotes = 2.6;

    /// <summary>How steeply a margin, and its distance to the best other topic, rise to a score; a logistic fit to real texts, which the
    /// calibration to the writer's own decisions then mends.</summary>
    private const double OfMargin = 1.4,
        OfDistance = 2.4;

    private const int WordsShown = 6;

    /// <summary>The scores of all topics that have one, the highest first: by the weights of the words together with the votes of near
    /// things, once enough was decided; by the votes alone before.</summary>
    public static IEnumerable<(Topic Topic, double Score, IReadOnlyList<TopicTerm> Because)> Scores(
        string text,
        IReadOnlyList<SortedNear> nearest,
        IReadOnlyList<Topic> topics,
        TopicWeights? weights = null
    )
    {
        var votes = Votes(text, nearest, topics);
        if (weights is null || weights.Texts < FewestTexts)
            return votes;
        var margins = weights.Of(text);
        var voted = votes.ToDictionary(v => v.Topic.Number);
        var together = topics
            .Where(t => t.MergedInto is null)
            .Select(topic =>
            {
                var (_, vote, because) = voted.GetValueOrDefault(topic.Number, (topic, 0, []));
                return (Topic: topic, Sum: margins.GetValueOrDefault(topic.Number, -1) + OfVotes * vote, Because: because);
            })
            .OrderByDescending(t => t.Sum)
            .ThenBy(t => t.Topic.Name, StringComparer.OrdinalIgnoreCase)
            .ToList();
        return
        [
            .. together
                .Select(
                    (t, place) =>
                        (
                            t.Topic,
                            Score: Logistic(
                                OfMargin * t.Sum + OfDistance * (t.Sum - (together.Count == 1 ? -1 : together[place == 0 ? 1 : 0].Sum))
                            ),
                            t.Because
                        )
                )
                .Where(t => t.Score > 0.005)
                .Take(12)
                .Select(t =>
                    (
                        t.Topic,
                        t.Score,
                        (IReadOnlyList<TopicTerm>)
                            [
                                .. t.Because.Select(term => term with { Figure = OfVotes * term.Figure }),
                                .. weights
                                    .Because(text, t.Topic.Number)
                                    .Take(WordsShown)
                                    .Select(word => new TopicTerm(null, word.Part, word.Word)),
                            ]
                    )
                ),
        ];
    }

    /// <summary>How sure a guess must be to be offered at a place, from 0. What was not learnt from decisions yet is offered
    /// sparingly.</summary>
    public static double FloorAt(int place, Calibration calibration) => place < First && calibration.IsLearnt ? FloorOfFirst : Floor;

    private static double Logistic(double x) => 1 / (1 + Math.Exp(-x));

    private static IReadOnlyList<(Topic Topic, double Score, IReadOnlyList<TopicTerm> Because)> Votes(
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
        return [.. scored.OrderByDescending(s => s.Score).ThenBy(s => s.Topic.Name, StringComparer.OrdinalIgnoreCase)];
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
