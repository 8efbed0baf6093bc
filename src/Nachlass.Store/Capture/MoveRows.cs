using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Capture;

internal static class MoveRows
{
    public const string Columns =
        "v.number, v.text, v.due, v.done_at, v.piece, p.title AS piece_title, v.caught_at, v.day, v.note, v.place, v.version "
        + "FROM move v LEFT JOIN piece p ON p.number = v.piece";

    /// <summary>The order of the writer's own.</summary>
    public const string Order = "coalesce(v.place, v.number), v.number";

    public static Move Get(SqliteConnection db, MoveNumber number) =>
        db.QuerySingleOrDefault<Move>($"SELECT {Columns} WHERE v.number = @number", new { number })
        ?? throw new NotThereException($"move {number}");

    public static Move Add(Change change, string text, DateOnly? due, PieceNumber? piece, DateOnly day)
    {
        CheckPiece(change.Db, piece);
        return Get(
            change.Db,
            MoveNumber.Of(
                change.Db.ExecuteScalar<int>(
                    "INSERT INTO move (text, due, piece, caught_at, day) VALUES (@text, @due, @piece, @Now, @day) RETURNING number",
                    new
                    {
                        text,
                        due,
                        piece,
                        change.Now,
                        day,
                    }
                )
            )
        );
    }

    /// <exception cref="BadInputException">There is no such piece.</exception>
    public static void CheckPiece(SqliteConnection db, PieceNumber? piece)
    {
        if (piece is { } number && db.ExecuteScalar<int>("SELECT count(*) FROM piece WHERE number = @number", new { number }) == 0)
            throw new BadInputException("piece", $"There is no P {number}.");
    }
}
