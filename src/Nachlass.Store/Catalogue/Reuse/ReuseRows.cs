using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue.Reuse;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Catalogue.Reuse;

/// <summary>What was used again, as rows.</summary>
internal static class ReuseRows
{
    private const string Select = "SELECT number, piece, title, from_ms, to_ms, passage, version FROM cut";

    /// <summary>Says of what a piece came; what was said first holds.</summary>
    public static void CameOf(SqliteConnection db, CameOf came)
    {
        if (came.Piece != came.Of)
            db.Execute(
                "INSERT OR IGNORE INTO came_of (piece, of_piece, how) VALUES (@Piece, @Of, @how)",
                new
                {
                    came.Piece,
                    came.Of,
                    how = came.How.Kept(),
                }
            );
    }

    public static IReadOnlyList<CameOf> AllCame(SqliteConnection db) =>
        [
            .. db.Query<(int Piece, int Of, string How)>("SELECT piece, of_piece, how FROM came_of ORDER BY id")
                .Select(c => new CameOf(PieceNumber.Of(c.Piece), PieceNumber.Of(c.Of), Enum.Parse<CameHow>(c.How, ignoreCase: true))),
        ];

    public static IReadOnlyList<Cut> Cuts(SqliteConnection db, string where, object? arguments) =>
        [
            .. db.Query<CutRow>($"{Select} WHERE {where} ORDER BY piece, from_ms, number", arguments)
                .Select(c => new Cut(c.Number, c.Piece, c.Title, c.FromMs, c.ToMs, c.Passage, c.Version)),
        ];

    /// <exception cref="NotThereException">There is none of that number.</exception>
    public static Cut Get(SqliteConnection db, CutNumber number) =>
        Cuts(db, "number = @number", new { number }) is [var cut] ? cut : throw new NotThereException($"cut {number}");

    public static CutNumber Put(SqliteConnection db, Cut cut) =>
        CutNumber.Of(
            db.ExecuteScalar<int>(
                "INSERT INTO cut (number, piece, title, from_ms, to_ms, passage) "
                    + "VALUES (@number, @Piece, @Title, @FromMs, @ToMs, @Passage) RETURNING number",
                new
                {
                    number = cut.Number.Value == 0 ? (int?)null : cut.Number.Value,
                    cut.Piece,
                    cut.Title,
                    cut.FromMs,
                    cut.ToMs,
                    cut.Passage,
                }
            )
        );

    public static DateTimeOffset? DoneAt(SqliteConnection db, PieceNumber piece) =>
        db.QuerySingleOrDefault<DateTimeOffset?>("SELECT done_at FROM reused WHERE piece = @piece", new { piece });

    public static void SetDone(SqliteConnection db, PieceNumber piece, DateTimeOffset? at)
    {
        if (at is null)
            db.Execute("DELETE FROM reused WHERE piece = @piece", new { piece });
        else
            db.Execute("INSERT OR IGNORE INTO reused (piece, done_at) VALUES (@piece, @at)", new { piece, at });
    }

    public static ReuseImage Image(SqliteConnection db) =>
        new(
            AllCame(db),
            Cuts(db, "true", null),
            [
                .. db.Query<(int Piece, DateTimeOffset At)>("SELECT piece, done_at FROM reused ORDER BY piece")
                    .Select(d => (PieceNumber.Of(d.Piece), d.At)),
            ]
        );

    public static void Put(SqliteConnection db, ReuseImage image)
    {
        foreach (var came in image.Came)
            CameOf(db, came);
        foreach (var cut in image.Cuts)
            Put(db, cut);
        foreach (var (piece, at) in image.Done)
            SetDone(db, piece, at);
    }

    private sealed record CutRow
    {
        public CutNumber Number { get; init; }
        public PieceNumber Piece { get; init; }
        public string Title { get; init; } = "";
        public int FromMs { get; init; }
        public int ToMs { get; init; }
        public string Passage { get; init; } = "";
        public int Version { get; init; }
    }
}
