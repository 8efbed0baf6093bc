using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Plan;

/// <summary>A goal to be set, or a change to one; what is not set stays.</summary>
public sealed record GoalChange
{
    public GoalOf? Of { get; init; }
    public int? Target { get; init; }

    /// <summary>Counted from this day; today for a new one.</summary>
    public DateOnly? From { get; init; }

    public DateOnly? By { get; init; }

    /// <summary>Only pieces of this format count; empty for all.</summary>
    public string? Format { get; init; }

    /// <summary>Readers there are now.</summary>
    public int? Readers { get; init; }
}

/// <summary>A goal, and how it stands today.</summary>
public sealed record GoalShown(Goal Goal, GoalProgress Progress);

/// <summary>Figures to be reached by a day.</summary>
public sealed class GoalStore(PapersFile papers)
{
    public IReadOnlyList<GoalShown> List() => papers.Read(db => Shown(db, papers.Today));

    public Done<IReadOnlyList<GoalShown>> Add(GoalChange made, Once once) =>
        papers.Run(
            "set a goal",
            once,
            change =>
            {
                var blank = new Goal(default, GoalOf.Released, 0, change.Today, default) { ReadersBefore = made.Readers ?? 0 };
                var goal = Changed(change.Db, blank, made);
                Put(change.Db, goal with { Number = GoalNumber.Of(Next(change.Db)) });
                return Shown(change.Db, change.Today);
            }
        );

    public Done<IReadOnlyList<GoalShown>> Edit(GoalNumber number, GoalChange edit, Once once) =>
        papers.Run(
            "changed a goal",
            once,
            change =>
            {
                var goal = Changed(change.Db, Get(change.Db, number), edit);
                change.Db.Execute(
                    "UPDATE goal SET counts = @counts, target = @Target, from_day = @From, by_day = @By, format = @Format, "
                        + "readers = @Readers, version = version + 1 WHERE number = @Number",
                    Row(goal)
                );
                return Shown(change.Db, change.Today);
            }
        );

    public Done<IReadOnlyList<GoalShown>> Remove(GoalNumber number, Once once) =>
        papers.Run(
            "took a goal away",
            once,
            change =>
            {
                Get(change.Db, number);
                change.Db.Execute("DELETE FROM goal WHERE number = @number", new { number });
                return Shown(change.Db, change.Today);
            }
        );

    private static Goal Changed(SqliteConnection db, Goal before, GoalChange edit)
    {
        var format =
            edit.Format is null ? before.Format
            : edit.Format.Trim().Length == 0 ? null
            : FormatRows.Named(db, edit.Format).Key;
        var of = edit.Of ?? before.Of;
        return (
            before with
            {
                Of = of,
                Target = edit.Target ?? before.Target,
                From = edit.From ?? before.From,
                By = edit.By ?? before.By,
                Format = of == GoalOf.Released ? format : null,
                Readers = edit.Readers ?? before.Readers,
            }
        ).Checked();
    }

    private static int Next(SqliteConnection db) =>
        1 + db.ExecuteScalar<int>("SELECT coalesce((SELECT seq FROM sqlite_sequence WHERE name = 'goal'), 0)");

    private static Goal Get(SqliteConnection db, GoalNumber number) =>
        All(db).FirstOrDefault(g => g.Number == number) ?? throw new NotThereException($"goal {number}");

    internal static IReadOnlyList<Goal> All(SqliteConnection db) =>
        [
            .. db.Query<(int Number, string Of, int Target, DateOnly From, DateOnly By, string? Format, int Readers)>(
                    "SELECT number, counts, target, from_day, by_day, format, readers FROM goal ORDER BY number"
                )
                .Zip(db.Query<int>("SELECT readers_before FROM goal ORDER BY number"))
                .Select(g => new Goal(
                    GoalNumber.Of(g.First.Number),
                    Enum.Parse<GoalOf>(g.First.Of, true),
                    g.First.Target,
                    g.First.From,
                    g.First.By,
                    g.First.Format,
                    g.First.Readers,
                    g.Second
                )),
        ];

    internal static void Put(SqliteConnection db, Goal goal) =>
        db.Execute(
            "INSERT INTO goal (number, counts, target, from_day, by_day, format, readers, readers_before) "
                + "VALUES (@Number, @counts, @Target, @From, @By, @Format, @Readers, @ReadersBefore)",
            Row(goal)
        );

    private static object Row(Goal goal) =>
        new
        {
            goal.Number,
            counts = goal.Of.Kept(),
            goal.Target,
            goal.From,
            goal.By,
            goal.Format,
            goal.Readers,
            goal.ReadersBefore,
        };

    private IReadOnlyList<GoalShown> Shown(SqliteConnection db, DateOnly today) =>
        [.. All(db).Select(goal => new GoalShown(goal, goal.Progress(Reached(db, goal, today), today)))];

    private int Reached(SqliteConnection db, Goal goal, DateOnly today)
    {
        var last = goal.By < today ? goal.By : today;
        switch (goal.Of)
        {
            case GoalOf.Released:
                return db.ExecuteScalar<int>(
                    "SELECT count(*) FROM piece WHERE trashed_at IS NULL AND out_on BETWEEN @From AND @last "
                        + "AND (@Format IS NULL OR format = @Format)",
                    new
                    {
                        goal.From,
                        last,
                        goal.Format,
                    }
                );
            case GoalOf.Words:
                return db.Query<(DateTimeOffset At, int Written)>("SELECT started_at, written FROM sitting")
                    .Where(s =>
                        DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(s.At, papers.Time.LocalTimeZone).DateTime) is var day
                        && day >= goal.From
                        && day <= last
                    )
                    .Sum(s => s.Written);
            default:
                return goal.Readers;
        }
    }
}
