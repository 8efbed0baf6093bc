using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;
using Nachlass.Store.Papers;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Capture;

/// <summary>An occasion with the next time it is.</summary>
public sealed record ComingOccasion(Occasion Occasion, DateOnly From, DateOnly To);

/// <summary>Dated events and seasons.</summary>
public sealed class OccasionStore(PapersFile papers)
{
    internal static IReadOnlyList<Occasion> All(SqliteConnection db)
    {
        var topics = db.Query<(int Occasion, int Number, string Name, TopicColour Colour)>(
                "SELECT o.occasion, t.number, t.name, t.colour FROM occasion_topic o JOIN topic t ON t.number = o.topic ORDER BY o.id"
            )
            .ToLookup(t => t.Occasion, t => new TopicMark(TopicNumber.Of(t.Number), t.Name, t.Colour));
        return
        [
            .. db.Query<(int Number, string Name, DateOnly From, DateOnly To, bool EveryYear)>(
                    "SELECT number, name, from_day, to_day, every_year FROM occasion ORDER BY number"
                )
                .Select(o => new Occasion(OccasionNumber.Of(o.Number), o.Name, o.From, o.To, o.EveryYear)
                {
                    Topics = [.. topics[o.Number]],
                }),
        ];
    }

    public IReadOnlyList<Occasion> All() => papers.Read(All);

    /// <summary>What comes, or is, within some days from a day on, the next first.</summary>
    public IReadOnlyList<ComingOccasion> Coming(DateOnly day, int days) =>
        [
            .. All()
                .Select(o => (Occasion: o, Next: o.Next(day)))
                .Where(o => o.Next is { } next && next.From <= day.AddDays(days))
                .Select(o => new ComingOccasion(o.Occasion, o.Next!.Value.From, o.Next.Value.To))
                .OrderBy(o => o.From)
                .ThenBy(o => o.Occasion.Name, StringComparer.Ordinal),
        ];

    /// <summary>Says which topics an occasion is on.</summary>
    public Done<Occasion> SetTopics(OccasionNumber number, IReadOnlyList<string> topics, Once once) =>
        papers.Run(
            "put an occasion under topics",
            once,
            change =>
            {
                var occasion = All(change.Db).FirstOrDefault(o => o.Number == number) ?? throw new NotThereException($"occasion {number}");
                PutTopics(change.Db, number, TopicRows.NumbersFor(change.Db, topics));
                change.What = $"put the occasion “{occasion.Name}” under topics";
                return All(change.Db).First(o => o.Number == number);
            }
        );

    internal static void PutTopics(SqliteConnection db, OccasionNumber occasion, IReadOnlyList<TopicNumber> topics)
    {
        db.Execute(
            "DELETE FROM occasion_topic WHERE occasion = @occasion AND topic NOT IN @topics",
            new { occasion, topics = topics.Select(t => t.Value) }
        );
        foreach (var topic in topics)
            db.Execute("INSERT OR IGNORE INTO occasion_topic (occasion, topic) VALUES (@occasion, @topic)", new { occasion, topic });
    }

    public Done<Occasion> Remove(OccasionNumber number, Once once) =>
        papers.Run(
            "took an occasion away",
            once,
            change =>
            {
                var occasion = All(change.Db).FirstOrDefault(o => o.Number == number) ?? throw new NotThereException($"occasion {number}");
                // What waited for it waits for nothing any more, and comes back to be decided.
                var back = change.Db.Execute(
                    "UPDATE slip SET state = 'waiting', held_occasion = NULL, held_until = NULL, settled_at = NULL, version = version + 1 "
                        + "WHERE state = 'held' AND held_occasion = @number",
                    new { number }
                );
                change.Db.Execute(
                    "UPDATE slip SET held_occasion = NULL, version = version + 1 WHERE held_occasion = @number",
                    new { number }
                );
                change.Db.Execute("DELETE FROM occasion_topic WHERE occasion = @number", new { number });
                change.Db.Execute("DELETE FROM occasion WHERE number = @number", new { number });
                change.What =
                    $"took the occasion “{occasion.Name}” away"
                    + (
                        back == 0 ? ""
                        : back == 1 ? "; a slip that waited for it waits to be sifted"
                        : $"; {back} slips that waited for it wait to be sifted"
                    );
                return occasion;
            }
        );
}
