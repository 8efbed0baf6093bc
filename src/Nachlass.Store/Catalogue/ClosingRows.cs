using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Catalogue;

/// <summary>What was learned, as rows.</summary>
internal static class ClosingRows
{
    private const string Select = "SELECT piece, learned, otherwise, closed_at, slip, version FROM closing";

    /// <summary>What was learned from a piece; nothing yet where nothing was said.</summary>
    public static Closing Of(SqliteConnection db, PieceNumber piece) =>
        db.QuerySingleOrDefault<Closing>($"{Select} WHERE piece = @piece", new { piece }) ?? new Closing { Piece = piece };

    public static IReadOnlyList<Closing> All(SqliteConnection db) => db.Query<Closing>($"{Select} ORDER BY piece").AsList();

    public static IReadOnlyList<KeptImage> KeptOf(SqliteConnection db, PieceNumber? piece = null) =>
        db.Query<KeptImage>(
                "SELECT piece, slip, passage FROM closing_kept WHERE @piece IS NULL OR piece = @piece ORDER BY id",
                new { piece = piece?.Value }
            )
            .AsList();

    public static void Put(SqliteConnection db, Closing closing) =>
        db.Execute(
            """
            INSERT INTO closing (piece, learned, otherwise, closed_at, slip) VALUES (@Piece, @Learned, @Otherwise, @ClosedAt, @Slip)
            ON CONFLICT (piece) DO UPDATE SET learned = @Learned, otherwise = @Otherwise, closed_at = @ClosedAt, slip = @Slip,
                version = version + 1
            """,
            closing
        );

    public static void Put(SqliteConnection db, KeptImage kept) =>
        db.Execute("INSERT INTO closing_kept (piece, passage, slip) VALUES (@Piece, @Passage, @Slip)", kept);
}
