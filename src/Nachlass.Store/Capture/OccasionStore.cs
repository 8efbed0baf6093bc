using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Capture;

/// <summary>An occasion with the next time it is.</summary>
public sealed record ComingOccasion(Occasion Occasion, DateOnly From, DateOnly To);

/// <summary>Dated events and seasons.</summary>
public sealed class OccasionStore(PapersFile papers)
{
    internal static IReadOnlyList<Occasion> All(SqliteConnection db) =>
        [
            .. db.Query<(int Number, string Name, DateOnly From, DateOnly To, bool EveryYear)>(
                    "SELECT number, name, from_day, to_day, every_year FROM occasion ORDER BY number"
                )
                .Select(o => new Occasion(OccasionNumber.Of(o.Number), o.Name, o.From, o.To, o.EveryYear)),
        ];

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
