using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Topics;
using Nachlass.Store.Papers;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Capture;

/// <summary>An occasion with the next time it is.</summary>
public sealed record ComingOccasion(Occasion Occasion, DateOnly From, DateOnly To);

/// <summary>An occasion to be made, or a change to one; what is not set stays.</summary>
public sealed record OccasionChange
{
    public string? Name { get; init; }
    public DateOnly? From { get; init; }

    /// <summary>Its last day; the first when nothing is said.</summary>
    public DateOnly? To { get; init; }

    /// <summary>Whether it comes again each year on its dates.</summary>
    public bool? EveryYear { get; init; }

    /// <summary>How it comes again where its date moves, in words or as a recurrence rule; empty for not.</summary>
    public string? Recurs { get; init; }

    public IReadOnlyList<string>? Topics { get; init; }
}

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
            .. db.Query<(int Number, string Name, DateOnly From, DateOnly To, bool EveryYear, string? Recurs)>(
                    "SELECT number, name, from_day, to_day, every_year, recurs FROM occasion ORDER BY number"
                )
                .Select(o => new Occasion(OccasionNumber.Of(o.Number), o.Name, o.From, o.To, o.EveryYear)
                {
                    Recurs = o.Recurs,
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

    /// <summary>Makes an occasion: on a day or some days, once or again.</summary>
    public Done<Occasion> Add(OccasionChange made, Once once) =>
        papers.Run(
            "made an occasion",
            once,
            change =>
            {
                var blank = new Occasion(default, "", made.From ?? change.Today, made.To ?? made.From ?? change.Today, false);
                var occasion = Changed(blank, made, change.Today);
                var number = change.Db.ExecuteScalar<int>(
                    "INSERT INTO occasion (name, from_day, to_day, every_year, recurs) VALUES (@Name, @From, @To, @EveryYear, @Recurs) "
                        + "RETURNING number",
                    occasion
                );
                PutTopics(change.Db, OccasionNumber.Of(number), TopicRows.NumbersFor(change.Db, made.Topics ?? []));
                change.What = $"made the occasion “{occasion.Name}”";
                return All(change.Db).First(o => o.Number.Value == number);
            }
        );

    public Done<Occasion> Edit(OccasionNumber number, OccasionChange edit, Once once) =>
        papers.Run(
            "changed an occasion",
            once,
            change =>
            {
                var before = All(change.Db).FirstOrDefault(o => o.Number == number) ?? throw new NotThereException($"occasion {number}");
                var occasion = Changed(before, edit, change.Today);
                change.Db.Execute(
                    "UPDATE occasion SET name = @Name, from_day = @From, to_day = @To, every_year = @EveryYear, recurs = @Recurs, "
                        + "version = version + 1 WHERE number = @Number",
                    occasion
                );
                if (edit.Topics is not null)
                    PutTopics(change.Db, number, TopicRows.NumbersFor(change.Db, edit.Topics));
                change.What = $"changed the occasion “{occasion.Name}”";
                return All(change.Db).First(o => o.Number == number);
            }
        );

    private static Occasion Changed(Occasion before, OccasionChange edit, DateOnly today)
    {
        var length = before.To.DayNumber - before.From.DayNumber;
        var from = edit.From ?? before.From;
        var to = edit.To ?? from.AddDays(length);
        if (!Check.IsDay(from) || !Check.IsDay(to))
            throw new BadInputException("from", "An occasion is in the years 1000 to 8999.");
        if (to < from)
            throw new BadInputException("to", "It ends on the day it begins or later.");
        if (to.DayNumber - from.DayNumber > 366)
            throw new BadInputException("to", "It lasts a year at most.");
        var recurs =
            edit.Recurs is null ? before.Recurs
            : edit.Recurs.Trim().Length == 0 ? null
            : OccasionDates.Read(edit.Recurs);
        if (recurs is not null)
        {
            // Its first day is one that the rule gives.
            foreach (var first in OccasionDates.From(recurs, from, from < today ? from : today))
            {
                (from, to) = (first, first.AddDays(to.DayNumber - from.DayNumber));
                break;
            }
        }
        return before with
        {
            Name = Check.Text("name", edit.Name ?? before.Name, Occasion.LongestName).ReplaceLineEndings(" "),
            From = from,
            To = to,
            EveryYear = recurs is null && (edit.EveryYear ?? before.EveryYear),
            Recurs = recurs,
        };
    }

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
