using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Capture;

internal static class MoveRows
{
    public const string Columns =
        "v.number, v.text, v.due, v.done_at, v.piece, p.title AS piece_title, v.caught_at, v.day, v.note, v.place, v.version, "
        + "v.start, v.remind_at, v.repeats, v.follows "
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

    /// <summary>Lets the next of a move that repeats appear when it is done, and takes it away when it is taken up again, unless
    /// something was done to it meanwhile.</summary>
    public static void ComeAgain(Change change, Move move, bool done)
    {
        if (!done)
        {
            var next = change
                .Db.Query<Move>(
                    $"SELECT {Columns} WHERE v.follows = @Number AND v.version = 1 AND v.done_at IS NULL "
                        + "AND NOT EXISTS (SELECT 1 FROM piece_step WHERE move = v.number)",
                    new { move.Number }
                )
                .ToList();
            foreach (var untouched in next)
                change.Db.Execute("DELETE FROM move WHERE number = @Number", new { untouched.Number });
            return;
        }
        if (
            MoveRepeat.Next(move, change.Today, change.Zone) is not { } again
            || change.Db.ExecuteScalar<bool>("SELECT EXISTS (SELECT 1 FROM move WHERE follows = @Number)", new { move.Number })
        )
            return;
        change.Db.Execute(
            "INSERT INTO move (text, due, piece, caught_at, day, note, place, start, remind_at, repeats, follows) "
                + "VALUES (@Text, @Due, @Piece, @Now, @Day, @Note, @Place, @Start, @RemindAt, @Repeats, @Follows)",
            new
            {
                again.Text,
                again.Due,
                again.Piece,
                change.Now,
                again.Day,
                again.Note,
                again.Place,
                again.Start,
                again.RemindAt,
                again.Repeats,
                again.Follows,
            }
        );
        change.What += $"; it comes again on {again.Due:d MMMM}";
    }

    /// <exception cref="BadInputException">There is no such piece.</exception>
    public static void CheckPiece(SqliteConnection db, PieceNumber? piece)
    {
        if (piece is { } number && db.ExecuteScalar<int>("SELECT count(*) FROM piece WHERE number = @number", new { number }) == 0)
            throw new BadInputException("piece", $"There is no P {number}.");
    }
}
