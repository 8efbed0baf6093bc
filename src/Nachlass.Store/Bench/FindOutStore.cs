using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Bench;

/// <summary>Something a piece has to find out, or to get.</summary>
/// <param name="Slip">The question; null for a thing to get.</param>
/// <param name="Move">The move; null for a question.</param>
/// <param name="Answer">The passage that answers the question.</param>
public sealed record ToFind(ToFindNumber Number, Slip? Slip, Move? Move, Slip? Answer)
{
    public bool IsSettled => Answer is not null || Move?.DoneAt is not null;
}

/// <summary>Something to find out or to get that is added.</summary>
/// <param name="Text">The question, or the thing to get.</param>
/// <param name="Slip">A question that is a slip already.</param>
/// <param name="Get">Whether it is a thing to get, which becomes a move.</param>
/// <param name="Due">When the move is due.</param>
public sealed record NewToFind(string? Text = null, SlipNumber? Slip = null, bool Get = false, DateOnly? Due = null);

/// <summary>The passage that answers; null takes the answer away.</summary>
/// <param name="Section">Where the passage is placed.</param>
public sealed record ToFindAnswer(SlipNumber? Slip, SectionNumber? Section = null);

/// <summary>What pieces have to find out.</summary>
public sealed class FindOutStore(PapersFile papers)
{
    public IReadOnlyList<ToFind> Of(PieceNumber piece) => papers.Read(db => Of(db, piece));

    internal static IReadOnlyList<ToFind> Of(SqliteConnection db, PieceNumber piece)
    {
        PieceRows.Get(db, piece);
        var rows = Rows(db, piece);
        var slips = SlipRows.All(db, [.. rows.SelectMany(r => new[] { r.Slip, r.Answer }).OfType<int>().Distinct()]);
        return
        [
            .. rows.Select(r => new ToFind(
                r.Number,
                r.Slip is { } slip ? slips[slip] : null,
                r.Move is { } move ? MoveRows.Get(db, MoveNumber.Of(move)) : null,
                r.Answer is { } answer ? slips[answer] : null
            )),
        ];
    }

    internal static IReadOnlyList<ToFindRow> Rows(SqliteConnection db, PieceNumber piece) =>
        db.Query<ToFindRow>("SELECT number, slip, move, answer FROM to_find WHERE piece = @piece ORDER BY position, number", new { piece })
            .AsList();

    internal static void Put(SqliteConnection db, PieceNumber piece, int? slip, int? move, int? answer) =>
        db.Execute(
            """
            INSERT INTO to_find (piece, position, slip, move, answer)
            VALUES (@piece, (SELECT coalesce(max(position), 0) + 1 FROM to_find WHERE piece = @piece), @slip, @move, @answer)
            """,
            new
            {
                piece,
                slip,
                move,
                answer,
            }
        );

    private static ToFindRow Get(SqliteConnection db, PieceNumber piece, ToFindNumber number) =>
        Rows(db, piece).FirstOrDefault(r => r.Number == number) ?? throw new NotThereException($"question {number} of P {piece}");

    /// <summary>Adds a question, which becomes a kept slip on the piece's topics, or a thing to get, which becomes a move.</summary>
    public Done<IReadOnlyList<ToFind>> Add(PieceNumber number, NewToFind made, Once once)
    {
        var text = made.Slip is null ? Check.Text("text", made.Text, Slip.LongestText) : "";
        return papers.Run(
            made.Get ? $"noted what P {number} needs" : $"noted a question of P {number}",
            once,
            change =>
            {
                var piece = PieceRows.Get(change.Db, number);
                if (made.Get)
                {
                    var move = MoveRows.Add(change, text, made.Due, number, change.Today);
                    Put(change.Db, number, null, move.Number.Value, null);
                    return Of(change.Db, number);
                }
                var slip = made.Slip ?? Question(change, piece, text);
                if (SlipRows.Find(change.Db, slip) is not { } found || found.Kind != SlipKind.Question)
                    throw new BadInputException("slip", $"Slip {slip} is no question.");
                if (Rows(change.Db, number).Any(r => r.Slip == slip.Value))
                    throw new BadInputException("slip", $"The question of slip {slip} stands here already.");
                Put(change.Db, number, slip.Value, null, null);
                return Of(change.Db, number);
            }
        );
    }

    private static SlipNumber Question(Change change, Piece piece, string text)
    {
        var slip = SlipRows.Add(
            change,
            new NewSlip(text)
            {
                Kind = SlipKind.Question,
                State = SlipState.Kept,
                Origin = Origin.Sheet,
                OriginNote = Reference.To(piece.Number).ToString(),
                Topics = [.. piece.Topics.Select(t => t.Number)],
            }
        );
        Links.Write(change.Db, Reference.To(slip.Number), text, isNew: true);
        return slip.Number;
    }

    /// <summary>Answers a question by a passage, which is placed in the piece; or takes the answer away.</summary>
    public Done<IReadOnlyList<ToFind>> Answer(PieceNumber piece, ToFindNumber number, ToFindAnswer asked, Once once) =>
        papers.Run(
            $"answered a question of P {piece}",
            once,
            change =>
            {
                var row = Get(change.Db, piece, number);
                if (row.Slip is null)
                    throw new BadInputException("slip", "A thing to get is ticked, not answered.");
                if (asked.Slip is { } answer)
                {
                    if (answer.Value == row.Slip)
                        throw new BadInputException("slip", "A question can't answer itself.");
                    var had = change.Db.ExecuteScalar<int?>(
                        "SELECT section FROM material WHERE piece = @piece AND slip = @answer",
                        new { piece, answer }
                    );
                    MaterialRows.Add(change, piece, Reference.To(answer), asked.Section ?? (had is { } at ? SectionNumber.Of(at) : null));
                    MaterialRows.Settle(change, answer);
                }
                else
                    change.What = $"opened a question of P {piece} again";
                change.Db.Execute("UPDATE to_find SET answer = @Slip WHERE number = @number", new { asked.Slip, number });
                return Of(change.Db, piece);
            }
        );

    /// <summary>Takes something from the list; its slip or move stays.</summary>
    public Done<IReadOnlyList<ToFind>> Remove(PieceNumber piece, ToFindNumber number, Once once) =>
        papers.Run(
            $"took a question from P {piece}",
            once,
            change =>
            {
                Get(change.Db, piece, number);
                change.Db.Execute("DELETE FROM to_find WHERE number = @number", new { number });
                return Of(change.Db, piece);
            }
        );
}

internal sealed record ToFindRow
{
    public ToFindNumber Number { get; init; }
    public int? Slip { get; init; }
    public int? Move { get; init; }
    public int? Answer { get; init; }
}
