using Dapper;
using Nachlass.Core.Capture;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Text;

namespace Nachlass.Store.Ideas;

/// <summary>An occasion with what could be made of it.</summary>
/// <param name="Occasion">Null for a public holiday.</param>
/// <param name="Ideas">One to three; none where it is on no topic.</param>
public sealed record OccasionIdeas(OccasionNumber? Occasion, string Name, DateOnly From, IReadOnlyList<IdeaComing> Ideas);

/// <summary>Makes ideas for what lies ahead, of what the papers have on its topics. Nothing is kept by that.</summary>
public sealed class OccasionIdeaStore(PapersFile papers, AheadStore ahead, SparkStore sparks, IdeaStore ideas, Nearby nearby)
{
    /// <summary>Ideas for an occasion, and terms of a topic that it is seen with.</summary>
    private const int Most = 3,
        MostTerms = 4;

    /// <summary>Ideas for each occasion of these days that is on a topic, the next first. The same papers give the same.</summary>
    /// <inheritdoc cref="AheadStore.Between"/>
    public IReadOnlyList<OccasionIdeas> Between(DateOnly? from, DateOnly? to)
    {
        var coming = ahead.Bare(from, to).Where(o => o.Topics.Count > 0).ToList();
        var topics = coming.SelectMany(o => o.Topics).Select(t => t.Number).Distinct().ToList();
        if (topics.Count == 0)
            return [];
        var terms = sparks
            .ByTopic(topics, null, atAGlance: true)
            .SelectMany(some => some)
            .Where(s => s.Kind == SparkKind.Term)
            .ToLookup(s => s.Topic!.Value);
        return papers.Read(db =>
        {
            var angles = AngleRows.Own(db) ?? Angles.Ready;
            var marks = db.Query<TopicMark>("SELECT number, name, colour FROM topic").ToDictionary(t => t.Number);
            var said = new SaidIdeas(db.Query<string>("SELECT text FROM offered_idea").AsList(), nearby.Rarity);
            return coming
                .Select(o => new OccasionIdeas(
                    o.Occasion,
                    o.Name,
                    o.From,
                    [
                        .. IdeaMaker
                            .Make(
                                [.. o.Topics.Select(t => Sparks(o, t, terms[t.Number]))],
                                angles,
                                new IdeaWish(Most, "", o.From.DayNumber),
                                said
                            )
                            .Select(made => ideas.Coming(db, made, marks)),
                    ]
                ))
                .ToList();
        });
    }

    /// <summary>The occasion beside each of a topic's terms, or beside the topic itself where it has none.</summary>
    private static IReadOnlyList<Spark> Sparks(OccasionAhead occasion, TopicMark topic, IEnumerable<Spark> terms)
    {
        IReadOnlyList<IdeaOrigin> own = occasion.Occasion is { } number
            ? [new IdeaOrigin(OriginKind.Occasion, number.Value, occasion.Name)]
            : [new IdeaOrigin(OriginKind.Topic, topic.Number.Value, topic.Name)];
        var when = $"It is on {SparkStore.Day(occasion.From)}, in {SparkStore.Counted(occasion.Days, "day")}.";
        // What the occasion or the topic is called by says nothing new of it.
        var known = Stems.Of($"{occasion.Name} {topic.Name}").Select(s => s.Root).ToHashSet();
        return
        [
            .. terms
                .Where(term => !Stems.Of((string)term.Words["word"]).All(s => known.Contains(s.Root)))
                .Take(MostTerms)
                .Select(term => One(term.Words["term"], [.. own, .. term.From], $"{when} {term.Because}"))
                .DefaultIfEmpty(One(topic.Name, own, when)),
        ];

        Spark One(object term, IReadOnlyList<IdeaOrigin> from, string because) =>
            new(
                SparkKind.Occasion,
                topic.Number,
                new Dictionary<string, object>
                {
                    ["occasion"] = SparkStore.Amid(occasion.Name),
                    ["month"] = occasion.From.ToString("MMMM", System.Globalization.CultureInfo.InvariantCulture),
                    ["topic"] = topic.Name,
                    ["term"] = term,
                },
                from,
                because
            );
    }
}
