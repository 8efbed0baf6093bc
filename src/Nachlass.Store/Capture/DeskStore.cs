using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;

namespace Nachlass.Store.Capture;

/// <summary>One day on the desk.</summary>
/// <param name="Slips">Caught that day, in order.</param>
/// <param name="Moves">Written that day, or due or done on it.</param>
/// <param name="Earlier">The nearest earlier day with anything on it.</param>
/// <param name="Later">The nearest later day with anything on it, today at the latest.</param>
/// <param name="BackFromHold">Held slips that came back on this day.</param>
public sealed record DayOnDesk(DateOnly Day, DateOnly Today, DaySheet Sheet, IReadOnlyList<Slip> Slips, IReadOnlyList<Move> Moves,
    IReadOnlyList<Slip> BackFromHold, DateOnly? Earlier, DateOnly? Later);

/// <summary>The line that says what the writer is for.</summary>
public sealed record Purpose(string Text, int Version)
{
    public const int Longest = 300;
}

/// <summary>The desk: day sheets, moves and the purpose line.</summary>
public sealed class DeskStore(PapersFile papers)
{
    /// <summary>A day with what was caught, written and to be done on it.</summary>
    public DayOnDesk Day(DateOnly day) => papers.Read(db =>
    {
        var today = papers.Today;
        var slips = db.Query<Slip>($"SELECT {SlipRows.Columns} FROM slip s WHERE s.day = @day AND s.origin <> 'import' ORDER BY s.caught_at, s.number", new { day });
        var moves = db.Query<Move>($"SELECT {MoveRows.Columns} WHERE v.day = @day OR v.due = @day ORDER BY v.caught_at, v.number", new { day });
        var back = db.Query<Slip>($"SELECT {SlipRows.Columns} FROM slip s WHERE s.state = 'held' AND s.held_until = @day ORDER BY s.number", new { day });
        // Each branch is one step in an index.
        var earlier = db.ExecuteScalar<string?>(
            """
            SELECT max(d) FROM (SELECT max(day) AS d FROM day_sheet WHERE day < @day UNION ALL SELECT max(day) FROM slip WHERE day < @day
            UNION ALL SELECT max(day) FROM move WHERE day < @day)
            """, new { day });
        var later = db.ExecuteScalar<string?>(
            """
            SELECT min(d) FROM (SELECT min(day) AS d FROM day_sheet WHERE day > @day UNION ALL SELECT min(day) FROM slip WHERE day > @day
            UNION ALL SELECT min(day) FROM move WHERE day > @day UNION ALL SELECT @today WHERE @today > @day)
            """, new { day, today });
        return new DayOnDesk(day, today, SheetOf(db, day), [.. slips], [.. moves], [.. back], Parse(earlier), Parse(later));
    });

    private static DateOnly? Parse(string? day) =>
        day is null ? null : DateOnly.ParseExact(day, "yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);

    private static DaySheet SheetOf(SqliteConnection db, DateOnly day) =>
        db.QuerySingleOrDefault<DaySheet>("SELECT day, text, version FROM day_sheet WHERE day = @day", new { day }) ?? new DaySheet { Day = day };

    /// <summary>Writes a day's sheet.</summary>
    /// <exception cref="StaleException">It was written elsewhere since <paramref name="version"/>.</exception>
    public Done<DaySheet> Write(DateOnly day, string? text, int? version, Once once)
    {
        Check.Length("text", text, DaySheet.LongestText);
        var based = Check.Version(version);
        return papers.Run($"wrote on the sheet of {day.Kept()}", once, change =>
        {
            var current = SheetOf(change.Db, day);
            if (current.Version != based) throw new StaleException("This day's sheet", current);
            change.Db.Execute(
                """
                INSERT INTO day_sheet (day_number, day, text) VALUES (@number, @day, @text)
                ON CONFLICT (day_number) DO UPDATE SET text = excluded.text, version = version + 1
                """, new { number = day.DayNumber, day, text = text ?? "" });
            Links.Write(change.Db, Reference.To(day), text ?? "");
            return SheetOf(change.Db, day);
        });
    }

    public Purpose Purpose() => papers.Read(PurposeOf);

    private static Purpose PurposeOf(SqliteConnection db)
    {
        var (text, version) = db.QuerySingle<(string, int)>("SELECT purpose, version FROM papers");
        return new Purpose(text, version);
    }

    /// <summary>Writes the purpose line.</summary>
    public Done<Purpose> Write(string? purpose, int? version, Once once)
    {
        var text = Check.Length("purpose", purpose?.Trim(), Capture.Purpose.Longest);
        var based = Check.Version(version);
        return papers.Run("wrote the purpose line", once, change =>
        {
            var changed = change.Db.Execute("UPDATE papers SET purpose = @text, version = version + 1 WHERE version = @based", new { text, based });
            var current = PurposeOf(change.Db);
            return changed == 1 ? current : throw new StaleException("The purpose line", current);
        });
    }

    /// <summary>All open moves, the earliest due first, undated last.</summary>
    public IReadOnlyList<Move> OpenMoves(int most = 200) => papers.Read(db => db.Query<Move>(
        $"SELECT {MoveRows.Columns} WHERE v.done_at IS NULL ORDER BY v.due IS NULL, v.due, v.number LIMIT @most", new { most }).ToList());

    /// <summary>Adds a move.</summary>
    public Done<Move> AddMove(string? text, DateOnly? due, PieceNumber? piece, DateOnly? day, Once once)
    {
        var clean = Check.Text("text", text, Move.LongestText);
        return papers.Run($"added the move “{clean}”", once, change =>
        {
            var reading = CaptureLine.Read(clean, change.Today, new Overruling(Move: true));
            return MoveRows.Add(change, reading.Text, due ?? reading.Date, piece, day ?? change.Today);
        });
    }

    /// <summary>Changes a move.</summary>
    /// <param name="done">Ticked or not; null leaves it.</param>
    public Done<Move> EditMove(MoveNumber number, int? version, string? text, Maybe<DateOnly?> due, Maybe<PieceNumber?> piece, bool? done, Once once)
    {
        if (text is not null) text = Check.Text("text", text, Move.LongestText);
        var based = Check.Version(version);
        return papers.Run("changed a move", once, change =>
        {
            var move = MoveRows.Get(change.Db, number);
            if (move.Version != based) throw new StaleException("This move", move);
            var doneAt = done is null ? move.DoneAt : done.Value ? move.DoneAt ?? change.Now : null;
            change.Db.Execute(
                "UPDATE move SET text = @text, due = @due, piece = @piece, done_at = @doneAt, version = version + 1 WHERE number = @number",
                new { number, text = text ?? move.Text, due = due.Or(move.Due), piece = piece.Or(move.Piece), doneAt });
            change.What = $"{(done is null ? "changed" : done.Value ? "did" : "took up again")} the move “{text ?? move.Text}”";
            return MoveRows.Get(change.Db, number);
        });
    }

    /// <summary>Takes a move away; undo brings it back.</summary>
    public Done<Move> RemoveMove(MoveNumber number, Once once) => papers.Run("removed a move", once, change =>
    {
        var move = MoveRows.Get(change.Db, number);
        change.Db.Execute("DELETE FROM move WHERE number = @number", new { number });
        change.What = $"removed the move “{move.Text}”";
        return move;
    });
}
