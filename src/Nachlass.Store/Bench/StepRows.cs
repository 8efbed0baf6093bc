using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>The checklists of pieces as rows.</summary>
internal static class StepRows
{
    private const string Columns =
        "s.number, s.stage, s.text, s.instructions, s.address, s.who, s.done_at, s.move, v.due FROM piece_step s "
        + "LEFT JOIN move v ON v.number = s.move";

    public static IReadOnlyList<PieceStep> Of(SqliteConnection db, PieceNumber piece) =>
        [.. db.Query<PieceStep>($"SELECT {Columns} WHERE s.piece = @piece ORDER BY s.position, s.number", new { piece })];

    /// <exception cref="NotThereException">The piece has no such step.</exception>
    public static PieceStep Get(SqliteConnection db, PieceNumber piece, StepNumber number) =>
        db.QuerySingleOrDefault<PieceStep>($"SELECT {Columns} WHERE s.piece = @piece AND s.number = @number", new { piece, number })
        ?? throw new NotThereException($"step {number} of P {piece}");

    /// <summary>Lays steps of a format in, behind those that are there.</summary>
    public static void Lay(SqliteConnection db, PieceNumber piece, IEnumerable<FormatStep> steps)
    {
        foreach (var step in steps)
            Add(db, piece, step.Stage, step.Text, step.Instructions, step.Address, step.Who, null, null);
    }

    public static StepNumber Add(
        SqliteConnection db,
        PieceNumber piece,
        string stage,
        string text,
        string instructions,
        string address,
        string who,
        DateTimeOffset? doneAt,
        MoveNumber? move
    ) =>
        StepNumber.Of(
            db.ExecuteScalar<int>(
                """
                INSERT INTO piece_step (piece, stage, position, text, instructions, address, who, done_at, move)
                VALUES (@piece, @stage, (SELECT coalesce(max(position), 0) + 1 FROM piece_step WHERE piece = @piece), @text, @instructions,
                    @address, @who, @doneAt, @move)
                RETURNING number
                """,
                new
                {
                    piece,
                    stage,
                    text,
                    instructions,
                    address,
                    who,
                    doneAt,
                    move,
                }
            )
        );
}
