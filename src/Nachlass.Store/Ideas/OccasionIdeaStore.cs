using Dapper;
using Nachlass.Core.Capture;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Ideas;

/// <summary>An occasion with what could be made of it.</summary>
/// <param name="Occasion">Null for a public holiday.</param>
/// <param name="Ideas">One to three; one where it is on no topic, and none where there is no topic at all.</param>
public sealed record OccasionIdeas(OccasionNumber? Occasion, string Name, DateOnly From, IReadOnlyList<IdeaComing> Ideas);

/// <summary>Makes ideas for what lies ahead, of what the papers have on its topics. Nothing is kept by that.</summary>
public sealed class OccasionIdeaStore(
    PapersFile papers,
    AheadStore ahead,
    TopicStore topics,
    SparkStore sparks,
    IdeaStore ideas,
    Nearby nearby
)
{
    /// <summary>Ideas for an occasion, terms of a topic that it is seen with, and slips that are nearest to its name.</summary>
    private const int Most = 3,
        MostTerms = 4,
        MostNear = 5;

    /// <summary>From which likeness a slip has to do with a name of a few words; ours, by what it gave for public holidays.</summary>
    private const double Near = 0.3;

    /// <summary>A topic that an occasion is seen with.</summary>
    /// <param name="Why">Why just that, as a sentence; empty where the writer put the occasion on it.</param>
    private sealed record Fitting(TopicMark Topic, string Why = "");

    /// <summary>Ideas for each occasion of these days, the next first. The same papers give the same.</summary>
    /// <inheritdoc cref="AheadStore.Between"/>
    public IReadOnlyList<OccasionIdeas> Between(DateOnly? from, DateOnly? to)
    {
        var coming = Fitted(ahead.Bare(from, to));
        if (coming.Count == 0)
            return [];
        var terms = sparks
            .ByTopic([.. coming.SelectMany(o => o.On).Select(f => f.Topic.Number).Distinct()], null, atAGlance: true)
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
                    o.Ahead.Occasion,
                    o.Ahead.Name,
                    o.Ahead.From,
                    [
                        .. IdeaMaker
                            .Make(
                                [.. o.On.Select(f => Sparks(o.Ahead, f, terms[f.Topic.Number]))],
                                angles,
                                new IdeaWish(o.Ahead.Topics.Count > 0 ? Most : 1, "", o.Ahead.From.DayNumber),
                                said
                            )
                            .Select(made => ideas.Coming(db, made, marks)),
                    ]
                ))
                .ToList();
        });
    }

    /// <summary>Occasions with their topics. One that is on none is seen with the topic of what its name is nearest to, or else with one
    /// on which most waits to be used, each with another.</summary>
    private List<(OccasionAhead Ahead, IReadOnlyList<Fitting> On)> Fitted(IReadOnlyList<OccasionAhead> coming)
    {
        var waiting = topics
            .List()
            .Where(t => t.Kept > t.Used)
            .OrderByDescending(t => t.Kept - t.Used)
            .ThenBy(t => t.Number.Value)
            .ToList();
        var marks = waiting.ToDictionary(t => t.Number, t => new TopicMark(t.Number, t.Name, t.Colour));
        var others = 0;
        return
        [
            .. coming
                .Select(o =>
                    (
                        Ahead: o,
                        On: (IReadOnlyList<Fitting>)(o.Topics.Count > 0 ? [.. o.Topics.Select(t => new Fitting(t))] : [.. One(o.Name)])
                    )
                )
                .Where(o => o.On.Count > 0),
        ];

        IEnumerable<Fitting> One(string name)
        {
            var near = nearby.Nearest(name, MostNear, Near, thing => thing.Kind == ThingKind.Slip).Select(n => n.Thing.Number);
            var named = papers
                .Read(db =>
                    db.Query<TopicNumber>(
                            "SELECT topic FROM slip_topic WHERE slip IN (SELECT value FROM json_each(@slips))",
                            new { slips = Mapping.List(near) }
                        )
                        .AsList()
                )
                .Where(marks.ContainsKey)
                .CountBy(n => n)
                .OrderByDescending(n => n.Value)
                .ThenBy(n => n.Key.Value)
                .ToList();
            if (named.Count > 0)
                yield return new Fitting(
                    marks[named[0].Key],
                    $"You put it on no topic; what you have that is nearest to it is on {marks[named[0].Key].Name}."
                );
            else if (waiting.Count > 0)
            {
                var most = waiting[others++ % waiting.Count];
                var slips = most.Kept - most.Used;
                yield return new Fitting(
                    marks[most.Number],
                    $"You put it on no topic; on {most.Name}, {(slips == 1 ? "1 slip waits" : $"{slips} slips wait")} to be used."
                );
            }
        }
    }

    /// <summary>The occasion beside each of a topic's terms, or beside the topic itself where it has none.</summary>
    private static IReadOnlyList<Spark> Sparks(OccasionAhead occasion, Fitting fitting, IEnumerable<Spark> terms)
    {
        var topic = fitting.Topic;
        IReadOnlyList<IdeaOrigin> own = occasion.Occasion is { } number
            ? [new IdeaOrigin(OriginKind.Occasion, number.Value, occasion.Name)]
            : [new IdeaOrigin(OriginKind.Topic, topic.Number.Value, topic.Name)];
        var when = $"It is on {SparkStore.Day(occasion.From)}, in {SparkStore.Counted(occasion.Days, "day")}. {fitting.Why}".TrimEnd();
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
