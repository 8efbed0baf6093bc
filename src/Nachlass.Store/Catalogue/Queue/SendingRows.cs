using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Store.Catalogue.Letters;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Catalogue.Queue;

/// <summary>The queue as rows.</summary>
internal static class SendingRows
{
    private const string Columns =
        "SELECT s.number, s.piece, s.outlet, s.title, s.text, s.at, s.state, s.tries, s.next_try, s.problem, s.release FROM sending s";

    /// <summary>Sendings that meet a condition, the next first.</summary>
    public static IReadOnlyList<Sending> List(SqliteConnection db, string where, object? arguments)
    {
        var rows = db.Query<Sending>($"{Columns} WHERE {where} ORDER BY s.at, s.number", arguments).ToList();
        var numbers = new { numbers = Mapping.List(rows.Select(r => r.Number.Value)) };
        var parts = db.Query<(int Sending, int Nth, string Key, string Text, string State, string Address)>(
                "SELECT sending, nth, key, text, state, address FROM sending_part "
                    + "WHERE sending IN (SELECT value FROM json_each(@numbers)) ORDER BY nth",
                numbers
            )
            .ToLookup(
                p => p.Sending,
                p => new SendingPart(p.Nth, p.Key, p.Text, Enum.Parse<PartState>(p.State, ignoreCase: true), p.Address)
            );
        var tries = db.Query<(int Sending, int Nth, DateTimeOffset At, string Outcome, string Note)>(
                "SELECT sending, nth, at, outcome, note FROM sending_try "
                    + "WHERE sending IN (SELECT value FROM json_each(@numbers)) ORDER BY id",
                numbers
            )
            .ToLookup(t => t.Sending, t => new SendingTry(t.Nth, t.At, t.Outcome, t.Note));
        var pictures = SentPictureRows.Of(db, SentPictureRows.Sending, numbers.numbers);
        return
        [
            .. rows.Select(r =>
                r with
                {
                    Picture = pictures.GetValueOrDefault(r.Number.Value),
                    Parts = [.. parts[r.Number.Value]],
                    History = [.. tries[r.Number.Value]],
                    Letters = parts[r.Number.Value].FirstOrDefault() is { } first ? LetterStore.Count(db, first.Key) : null,
                }
            ),
        ];
    }

    /// <exception cref="NotThereException">There is none of that number.</exception>
    public static Sending Get(SqliteConnection db, SendingNumber number) =>
        List(db, "s.number = @number", new { number }).SingleOrDefault()
        ?? throw new NotThereException($"nothing with the number {number} in the queue");

    public static SendingNumber Put(SqliteConnection db, Sending sending, DateTimeOffset now)
    {
        var number = SendingNumber.Of(
            db.ExecuteScalar<int>(
                "INSERT INTO sending (piece, outlet, title, text, at, next_try, made_at) "
                    + "VALUES (@Piece, @Outlet, @Title, @Text, @At, @NextTry, @now) RETURNING number",
                new
                {
                    sending.Piece,
                    sending.Outlet,
                    sending.Title,
                    sending.Text,
                    sending.At,
                    sending.NextTry,
                    now,
                }
            )
        );
        foreach (var part in sending.Parts)
            db.Execute(
                "INSERT INTO sending_part (sending, nth, key, text) VALUES (@number, @Nth, @Key, @Text)",
                new
                {
                    number,
                    part.Nth,
                    part.Key,
                    part.Text,
                }
            );
        if (sending.Picture is { } picture)
            SentPictureRows.Put(db, SentPictureRows.Sending, number.Value, picture);
        return number;
    }

    public static void Remove(SqliteConnection db, SendingNumber number) =>
        db.Execute(
            "DELETE FROM sending_picture WHERE sending = @number; DELETE FROM sending_part WHERE sending = @number; "
                + "DELETE FROM sending WHERE number = @number",
            new { number }
        );

    /// <summary>Writes where a sending and its parts stand.</summary>
    public static void Stand(SqliteConnection db, Sending sending)
    {
        db.Execute(
            "UPDATE sending SET state = @state, tries = @Tries, next_try = @NextTry, problem = @Problem, release = @Release "
                + "WHERE number = @Number",
            new
            {
                state = sending.State.Kept(),
                sending.Tries,
                sending.NextTry,
                sending.Problem,
                sending.Release,
                sending.Number,
            }
        );
        foreach (var part in sending.Parts)
            db.Execute(
                "UPDATE sending_part SET state = @state, address = @Address WHERE sending = @Number AND nth = @Nth",
                new
                {
                    state = part.State.Kept(),
                    part.Address,
                    sending.Number,
                    part.Nth,
                }
            );
    }

    /// <summary>What of a command can't be taken back, since it reached somebody; null when nothing did.</summary>
    public static string? Reached(SqliteConnection db, CommandNumber command)
    {
        var sending = db.QueryFirstOrDefault<(int Number, string State)?>(
            """
            SELECT s.number, s.state FROM undo_log u JOIN sending s ON s.number = u.row
            WHERE u.command = @command AND u.tbl = 'sending'
                AND (s.state <> 'waits' OR EXISTS (SELECT 1 FROM sending_try t WHERE t.sending = s.number))
            """,
            new { command }
        );
        if (
            sending is null
            && db.ExecuteScalar<bool>(
                "SELECT EXISTS (SELECT 1 FROM undo_log u JOIN correction c ON c.id = u.row "
                    + "WHERE u.command = @command AND u.tbl = 'correction' AND c.there_at IS NOT NULL)",
                new { command }
            )
        )
            return "it stands where it went out, and that cannot be taken back from here. Put it right once more instead";
        return sending switch
        {
            null => null,
            { State: "sent" } => "it was sent, and what is out cannot be taken back from here. Put an error right in the Catalogue",
            _ => "it has been tried already. Take it out of the queue instead",
        };
    }
}
