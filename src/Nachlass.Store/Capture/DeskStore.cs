using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Capture;

/// <summary>One day on the desk.</summary>
/// <param name="Slips">Caught that day, in order.</param>
/// <param name="Moves">Written that day, or due or done on it.</param>
/// <param name="Earlier">The nearest earlier day with anything on it.</param>
/// <param name="Later">The nearest later day with anything on it, today at the latest.</param>
/// <param name="BackFromHold">Held slips that came back on this day.</param>
/// <param name="Blocks">What stands on its sheet, in order.</param>
public sealed record DayOnDesk(
    DateOnly Day,
    DateOnly Today,
    DaySheet Sheet,
    IReadOnlyList<SheetBlock> Blocks,
    IReadOnlyList<Slip> Slips,
    IReadOnlyList<Move> Moves,
    IReadOnlyList<Slip> BackFromHold,
    DateOnly? Earlier,
    DateOnly? Later
);

/// <summary>An idea as it is written on a ruled line.</summary>
/// <param name="Text">The idea.</param>
/// <param name="Title">A working title, which goes before it.</param>
/// <param name="Words">A few words of description, which go after it.</param>
/// <param name="Pull">1 to 5, or none.</param>
/// <param name="Effort">1 to 5, or none.</param>
public sealed record SheetLine(string? Text, string? Title = null, string? Words = null, int? Pull = null, int? Effort = null)
{
    public const int LongestTitle = 300;
}

/// <summary>The line that says what the writer is for.</summary>
public sealed record Purpose(string Text, int Version)
{
    public const int Longest = 300;
}

/// <summary>A change to a move; what is not set stays.</summary>
public sealed record MoveChange
{
    public int? Version { get; init; }
    public string? Text { get; init; }
    public Maybe<DateOnly?> Due { get; init; }
    public Maybe<PieceNumber?> Piece { get; init; }
    public bool? Done { get; init; }
    public string? Note { get; init; }

    /// <summary>The day from which it is to be seen.</summary>
    public Maybe<DateOnly?> Start { get; init; }

    /// <summary>When it is reminded of.</summary>
    public Maybe<DateTimeOffset?> RemindAt { get; init; }

    /// <summary>How often it comes again, in words or as a recurrence rule (RFC 5545).</summary>
    public Maybe<string?> Repeats { get; init; }
}

/// <summary>The desk: day sheets, moves and the purpose line.</summary>
public sealed class DeskStore(PapersFile papers)
{
    /// <summary>A day with what was caught, written and to be done on it.</summary>
    public DayOnDesk Day(DateOnly day) =>
        papers.Read(db =>
        {
            var today = papers.Today;
            var slips = db.Query<Slip>(
                $"SELECT {SlipRows.Columns} FROM slip s WHERE s.day = @day AND s.origin <> 'import' ORDER BY s.caught_at, s.number",
                new { day }
            );
            var moves = db.Query<Move>(
                $"SELECT {MoveRows.Columns} WHERE v.day = @day OR v.due = @day ORDER BY {MoveRows.Order}",
                new { day }
            );
            var back = db.Query<Slip>(
                $"SELECT {SlipRows.Columns} FROM slip s WHERE s.state = 'held' AND s.held_until = @day ORDER BY s.number",
                new { day }
            );
            // Each branch is one step in an index.
            var earlier = db.ExecuteScalar<string?>(
                """
                SELECT max(d) FROM (SELECT max(day) AS d FROM day_sheet WHERE day < @day UNION ALL SELECT max(day) FROM slip
                    WHERE day < @day
                UNION ALL SELECT max(day) FROM move WHERE day < @day)
                """,
                new { day }
            );
            var later = db.ExecuteScalar<string?>(
                """
                SELECT min(d) FROM (SELECT min(day) AS d FROM day_sheet WHERE day > @day UNION ALL SELECT min(day) FROM slip
                    WHERE day > @day
                UNION ALL SELECT min(day) FROM move WHERE day > @day UNION ALL SELECT @today WHERE @today > @day)
                """,
                new { day, today }
            );
            return new DayOnDesk(
                day,
                today,
                SheetRows.Sheet(db, day),
                SheetRows.Blocks(db, day, Now),
                [.. slips],
                [.. moves],
                [.. back],
                Mapping.Day(earlier),
                Mapping.Day(later)
            );
        });

    private DateTime Now => papers.Time.GetLocalNow().DateTime;

    /// <summary>Writes a day's free writing.</summary>
    /// <param name="left">Whether the writer has left the text; then its paragraphs with a topic become slips.</param>
    /// <param name="idea">A sentence or paragraph of it that becomes a slip, topic or not.</param>
    /// <exception cref="StaleException">It was written elsewhere since <paramref name="version"/>.</exception>
    /// <exception cref="BadInputException">The idea doesn't stand in the text.</exception>
    public Done<DaySheet> Write(DateOnly day, string? text, int? version, Once once, bool left = false, string? idea = null)
    {
        if (idea is not null && (idea.Trim().Length == 0 || text?.Contains(idea.Trim(), StringComparison.Ordinal) != true))
            throw new BadInputException("idea", "What is lifted out has to stand in the text.");
        var next = Check.Length("text", text, DaySheet.LongestText);
        var based = Check.Version(version);
        return papers.Run(
            $"wrote on the sheet of {day.Kept()}",
            once,
            change =>
            {
                var current = SheetRows.Sheet(change.Db, day);
                if (current.Version != based)
                    throw new StaleException("This day's sheet", current);
                SheetRows.Begin(change, day, Now);
                change.Db.Execute("UPDATE day_sheet SET text = @next, version = version + 1 WHERE day = @day", new { day, next });
                SheetRows.WriteLinks(change.Db, day);
                var lifted = Lifting.Run(change, Reference.To(day), next, left, idea?.Trim());
                if (!lifted.IsNothing)
                    change.What = $"lifted {lifted} out of the sheet of {day.Kept()}";
                return SheetRows.Sheet(change.Db, day);
            }
        );
    }

    /// <summary>Writes into a block of a day's sheet.</summary>
    /// <exception cref="NotThereException">The sheet has no such block, or not one that is written into.</exception>
    /// <exception cref="StaleException">It was written elsewhere since <paramref name="version"/>.</exception>
    public Done<SheetBlock> WriteBlock(DateOnly day, int block, string? text, int? version, Once once)
    {
        var next = Check.Length("text", text, DaySheet.LongestText);
        var based = Check.Version(version);
        return papers.Run(
            $"wrote on the sheet of {day.Kept()}",
            once,
            change =>
            {
                SheetRows.Begin(change, day, Now);
                var current = BlockOf(change.Db, day, block, b => b.IsWritten);
                if (current.Version != based)
                    throw new StaleException($"“{current.Heading}”", current);
                change.Db.Execute(
                    "UPDATE day_block SET text = @next, version = version + 1 WHERE day_number = @number AND block = @block",
                    new
                    {
                        number = day.DayNumber,
                        block,
                        next,
                    }
                );
                SheetRows.WriteLinks(change.Db, day);
                return current with { Text = next, Version = current.Version + 1 };
            }
        );
    }

    /// <summary>Catches what was written on a ruled line of a day's sheet.</summary>
    /// <exception cref="NotThereException">The sheet has no such lines.</exception>
    public Done<Slip> CatchLine(DateOnly day, int block, SheetLine line, Once once)
    {
        var idea = Check.Text("text", line.Text, Slip.LongestText);
        var title = Check.Length("title", line.Title?.Trim(), SheetLine.LongestTitle);
        var words = Check.Length("words", line.Words?.Trim(), Slip.LongestText);
        return papers.Run(
            "caught a slip",
            once,
            change =>
            {
                SheetRows.Begin(change, day, Now);
                var lines = BlockOf(change.Db, day, block, b => b.Kind == BlockKind.Lines);
                var reading = CaptureLine.Read(idea, change.Today, new Overruling(Move: false, Source: false));
                var slip = SlipRows.Add(
                    change,
                    new NewSlip(string.Join("\n\n", ((string[])[title, reading.Text, words]).Where(part => part.Length > 0)))
                    {
                        Kind = reading.Kind,
                        Origin = Origin.Sheet,
                        OriginNote = lines.Heading,
                        Day = day,
                        Block = block,
                        Pull = Check.Step("pull", line.Pull),
                        Effort = Check.Step("effort", line.Effort),
                        Topics = TopicRows.NumbersFor(change.Db, reading.Topics),
                    }
                );
                change.What = $"caught slip {slip.Number}";
                return slip;
            }
        );
    }

    private static SheetBlock BlockOf(SqliteConnection db, DateOnly day, int number, Func<SheetBlock, bool> fits) =>
        SheetRows.Sheet(db, day).Blocks.FirstOrDefault(b => b.Block == number && fits(b))
        ?? throw new NotThereException($"block {number} to write into on the sheet of {day.Kept()}");

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
        return papers.Run(
            "wrote the purpose line",
            once,
            change =>
            {
                var changed = change.Db.Execute(
                    "UPDATE papers SET purpose = @text, version = version + 1 WHERE version = @based",
                    new { text, based }
                );
                var current = PurposeOf(change.Db);
                return changed == 1 ? current : throw new StaleException("The purpose line", current);
            }
        );
    }

    /// <summary>All open moves, the earliest due first, undated last.</summary>
    public IReadOnlyList<Move> OpenMoves(int most = 2_000) =>
        papers.Read(db =>
            db.Query<Move>(
                    $"SELECT {MoveRows.Columns} WHERE v.done_at IS NULL ORDER BY v.due IS NULL, v.due, {MoveRows.Order} LIMIT @most",
                    new { most }
                )
                .ToList()
        );

    /// <summary>Adds a move.</summary>
    public Done<Move> AddMove(string? text, DateOnly? due, PieceNumber? piece, DateOnly? day, Once once)
    {
        var clean = Check.Text("text", text, Move.LongestText);
        return papers.Run(
            $"added the move “{clean}”",
            once,
            change =>
            {
                var reading = CaptureLine.Read(clean, change.Today, new Overruling(Move: true));
                return MoveRows.Add(change, reading.Text, due ?? reading.Date, piece, day ?? change.Today);
            }
        );
    }

    /// <summary>Changes a move. One that comes again and is done is followed by the next; taken up again, it has none.</summary>
    public Done<Move> EditMove(MoveNumber number, MoveChange edit, Once once)
    {
        var note = edit.Note is null ? null : Check.Length("note", edit.Note, Move.LongestNote);
        var text = edit.Text is null ? null : Check.Text("text", edit.Text, Move.LongestText);
        var based = Check.Version(edit.Version);
        if (edit.Due.Value is { } onDay && !Check.IsDay(onDay))
            throw new BadInputException("due", "The day is in the years 1000 to 8999.");
        return papers.Run(
            "changed a move",
            once,
            change =>
            {
                var move = MoveRows.Get(change.Db, number);
                if (move.Version != based)
                    throw new StaleException("This move", move);
                MoveRows.CheckPiece(change.Db, edit.Piece.Or(move.Piece));
                var due = edit.Due.Or(move.Due);
                var said = edit.Repeats.Or(move.Repeats);
                var after = move with
                {
                    Text = text ?? move.Text,
                    Note = note ?? move.Note,
                    Due = due,
                    Piece = edit.Piece.Or(move.Piece),
                    Start = edit.Start.Or(move.Start),
                    RemindAt = edit.RemindAt.Or(move.RemindAt),
                    Repeats = string.IsNullOrWhiteSpace(said) ? null : MoveRepeat.Read(said, due ?? change.Today),
                    DoneAt =
                        edit.Done is null ? move.DoneAt
                        : edit.Done.Value ? move.DoneAt ?? change.Now
                        : null,
                };
                if (edit.Start.IsSet && after.Start > after.Due)
                    throw new BadInputException("start", "It begins on the day it is due or before.");
                change.Db.Execute(
                    "UPDATE move SET text = @Text, due = @Due, piece = @Piece, done_at = @DoneAt, note = @Note, start = @Start, "
                        + "remind_at = @RemindAt, repeats = @Repeats, version = version + 1 WHERE number = @Number",
                    after
                );
                if (edit.Done is { } ticked)
                    Lifting.Tick(change, number, ticked);
                change.What = $"{(edit.Done is null ? "changed" : edit.Done.Value ? "did" : "took up again")} the move “{after.Text}”";
                if (edit.Done is { } done && done != move.DoneAt is not null)
                    MoveRows.ComeAgain(change, after, done);
                return MoveRows.Get(change.Db, number);
            }
        );
    }

    /// <summary>Puts a move before another one, or behind all.</summary>
    /// <param name="before">Behind all when null.</param>
    public Done<Move> PlaceMove(MoveNumber number, MoveNumber? before, Once once) =>
        papers.Run(
            "moved a move",
            once,
            change =>
            {
                var move = MoveRows.Get(change.Db, number);
                if (before is { } other)
                    MoveRows.Get(change.Db, other);
                // The places there are stay the same ones; only who has which changes, and only between here and there.
                var all = change
                    .Db.Query<(int Number, int Place)>(
                        $"SELECT v.number, coalesce(v.place, v.number) FROM move v ORDER BY {MoveRows.Order}"
                    )
                    .ToList();
                var order = all.Select(m => m.Number).Where(n => n != number.Value).ToList();
                var at = before is { } b ? order.IndexOf(b.Value) : order.Count;
                order.Insert(at < 0 ? order.Count : at, number.Value);
                for (var i = 0; i < order.Count; i++)
                    if (order[i] != all[i].Number)
                        change.Db.Execute(
                            "UPDATE move SET place = @Place, version = version + 1 WHERE number = @moved",
                            new { all[i].Place, moved = order[i] }
                        );
                change.What = $"put the move “{move.Text}” in another place";
                return MoveRows.Get(change.Db, number);
            }
        );

    /// <summary>Takes a move away; undo brings it back.</summary>
    public Done<Move> RemoveMove(MoveNumber number, Once once) =>
        papers.Run(
            "removed a move",
            once,
            change =>
            {
                var move = MoveRows.Get(change.Db, number);
                Lifting.Release(change.Db, number);
                // The step that it was made of is a step again.
                change.Db.Execute("UPDATE piece_step SET move = NULL WHERE move = @number", new { number });
                change.Db.Execute("DELETE FROM to_find WHERE move = @number", new { number });
                change.Db.Execute("UPDATE move SET follows = NULL WHERE follows = @number", new { number });
                change.Db.Execute("DELETE FROM move WHERE number = @number", new { number });
                change.What = $"removed the move “{move.Text}”";
                return move;
            }
        );
}
