using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Plan;

/// <summary>What is never to be offered for open dates.</summary>
internal static class NeverRows
{
    public static IReadOnlyList<Reference> All(SqliteConnection db) =>
        [
            .. db.Query<(int? Slip, int? Piece)>("SELECT slip, piece FROM never_for_dates ORDER BY id")
                .Select(n => n.Slip is { } slip ? new Reference(ThingKind.Slip, slip) : new Reference(ThingKind.Piece, n.Piece!.Value)),
        ];

    public static void Remove(SqliteConnection db, Reference thing) =>
        db.Execute(
            thing.Kind == ThingKind.Slip
                ? "DELETE FROM never_for_dates WHERE slip = @Number"
                : "DELETE FROM never_for_dates WHERE piece = @Number",
            new { thing.Number }
        );

    public static void Put(SqliteConnection db, Reference thing) =>
        db.Execute(
            thing.Kind == ThingKind.Slip
                ? "INSERT OR IGNORE INTO never_for_dates (slip) SELECT number FROM slip WHERE number = @Number"
                : "INSERT OR IGNORE INTO never_for_dates (piece) SELECT number FROM piece WHERE number = @Number",
            new { thing.Number }
        );
}
