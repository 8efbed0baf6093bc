using Microsoft.Data.Sqlite;
using Nachlass.Core.Plan;
using Nachlass.Core.Plan.Filling;

namespace Nachlass.Store.Plan;

/// <summary>Dates of cadences that have no piece yet.</summary>
internal static class OpenDates
{
    /// <summary>Those in some days, in the order of dates; of outlets that are in use.</summary>
    public static IReadOnlyList<Place> Of(SqliteConnection db, IReadOnlyList<Outlet> outlets, DateOnly first, DateOnly last, DateOnly today)
    {
        var filled = CadenceRows.Filled(db);
        return
        [
            .. CadenceRows
                .All(db)
                .Where(c => outlets.Any(o => o.Number == c.Outlet && !o.IsPutAway))
                .SelectMany(c =>
                    CadenceRows
                        .Dates(c, filled, first, last, today)
                        .Where(d => d.Piece is null && !d.IsMissed)
                        .Select(d => new Place(d.Date, c.Outlet, c.Format))
                )
                .OrderBy(p => p.Date)
                .ThenBy(p => p.Outlet.Value)
                .ThenBy(p => p.Format, StringComparer.Ordinal),
        ];
    }
}
