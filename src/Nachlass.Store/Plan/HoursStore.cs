using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Plan;

/// <summary>The writer's hours.</summary>
/// <param name="ByWeekday">Seven, from Monday.</param>
/// <param name="AreSaid">Whether the writer has said them; else they are the usual ones.</param>
/// <param name="Away">Days without any, the earliest first.</param>
public sealed record HoursShown(IReadOnlyList<double> ByWeekday, bool AreSaid, IReadOnlyList<Away> Away);

/// <summary>When the writer works.</summary>
public sealed class HoursStore(PapersFile papers)
{
    public HoursShown Get() => papers.Read(Shown);

    /// <param name="hours">Hours of each weekday, seven from Monday; null for the usual ones.</param>
    public Done<HoursShown> Set(IReadOnlyList<double>? hours, Once once)
    {
        var set = hours is null ? null : new WorkingHours(hours).Checked();
        return papers.Run(
            set is null ? "took the usual hours" : "set the hours of the week",
            once,
            change =>
            {
                HoursRows.Put(change.Db, set);
                return Shown(change.Db);
            }
        );
    }

    public Done<HoursShown> AddAway(DateOnly from, DateOnly? to, string? name, Once once)
    {
        var away = new Away(default, from, to ?? from, name ?? "").Checked();
        return papers.Run(
            $"away: {away.Name}",
            once,
            change =>
            {
                change.Db.Execute("INSERT INTO away (from_day, to_day, name) VALUES (@From, @To, @Name)", away);
                return Shown(change.Db);
            }
        );
    }

    public Done<HoursShown> EditAway(AwayNumber number, DateOnly from, DateOnly? to, string? name, Once once)
    {
        var away = new Away(number, from, to ?? from, name ?? "").Checked();
        return papers.Run(
            $"changed the time away “{away.Name}”",
            once,
            change =>
                change.Db.Execute("UPDATE away SET from_day = @From, to_day = @To, name = @Name WHERE number = @Number", away) == 0
                    ? throw new NotThereException($"time away {number}")
                    : Shown(change.Db)
        );
    }

    public Done<HoursShown> RemoveAway(AwayNumber number, Once once) =>
        papers.Run(
            "took a time away out",
            once,
            change =>
                change.Db.Execute("DELETE FROM away WHERE number = @number", new { number }) == 0
                    ? throw new NotThereException($"time away {number}")
                    : Shown(change.Db)
        );

    private static HoursShown Shown(SqliteConnection db) =>
        new((HoursRows.Said(db) ?? WorkingHours.Usual).ByWeekday, HoursRows.Said(db) is not null, HoursRows.Away(db));
}

internal static class HoursRows
{
    public static WorkingHours? Said(SqliteConnection db) =>
        db.ExecuteScalar<string?>("SELECT hours FROM papers") is { } kept
            ? new WorkingHours(JsonSerializer.Deserialize<List<double>>(kept)!)
            : null;

    public static IReadOnlyList<Away> Away(SqliteConnection db) =>
        [
            .. db.Query<(AwayNumber Number, DateOnly From, DateOnly To, string Name)>(
                    "SELECT number, from_day, to_day, name FROM away ORDER BY from_day, number"
                )
                .Select(a => new Away(a.Number, a.From, a.To, a.Name)),
        ];

    public static WorkCalendar Calendar(SqliteConnection db) => new(Said(db) ?? WorkingHours.Usual, Away(db));

    public static void Put(SqliteConnection db, WorkingHours? hours) =>
        db.Execute("UPDATE papers SET hours = @kept", new { kept = hours is null ? null : JsonSerializer.Serialize(hours.ByWeekday) });

    public static void Put(SqliteConnection db, Away away) =>
        db.Execute("INSERT INTO away (number, from_day, to_day, name) VALUES (@Number, @From, @To, @Name)", away);
}
