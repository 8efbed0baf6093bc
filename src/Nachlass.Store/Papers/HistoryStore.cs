using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Papers;

/// <summary>Something that was done, or several saves of one text that followed each other closely.</summary>
/// <param name="Command">The command; the first of them, when it stands for several.</param>
/// <param name="At">When.</param>
/// <param name="What">What was done, in words.</param>
/// <param name="Undone">Whether it has been taken back since.</param>
/// <param name="Times">How many saves it stands for.</param>
/// <param name="Thing">What it was about, to go there.</param>
public sealed record HistoryLine(
    CommandNumber Command,
    DateTimeOffset At,
    string What,
    bool Undone,
    int Times = 1,
    Reference? Thing = null
);

/// <summary>
/// What was done, taking it back, and doing it again. A command and every step back or forward over it are one chain: the command is
/// its root, and it is in effect or taken back, as the last of the chain left it. A step is only made from the very state its
/// predecessor left, so any sequence of steps leads to the state it names.
/// </summary>
public sealed class HistoryStore(PapersFile papers)
{
    /// <summary>Saves of one text that follow each other within this time are one line of the history.</summary>
    private static readonly TimeSpan OneStretch = TimeSpan.FromMinutes(5);

    /// <summary>Takes a command back; taking back that, does it again.</summary>
    /// <exception cref="NotThereException">There is no such command.</exception>
    /// <exception cref="ClashException">It was taken back already, or something stands in the way; names it.</exception>
    public Done<HistoryLine> Undo(CommandNumber number, Once once) =>
        papers.Run(
            $"took back command {number}",
            once,
            change =>
            {
                var asked =
                    number.Value < change.Number.Value ? Chain.Of(change.Db, number) : throw new NotThereException($"command {number}");
                // A step back and the doing-again after it are the same act seen from two sides: whichever is named, its effect is
                // reversed.
                if (asked.IsUndone != asked.NamesTakingBack)
                    throw new ClashException($"“{asked.What}” was {(asked.IsUndone ? "taken back" : "done again")} already.");
                return Reverse(change, asked);
            }
        );

    /// <summary>Takes back the latest step on a piece's page that is in effect.</summary>
    /// <exception cref="ClashException">There is none, or something stands in the way.</exception>
    public Done<HistoryLine> StepBack(PieceNumber piece, Once once) =>
        papers.Run(
            $"stepped back in P {piece}",
            once,
            change =>
                LatestStep(change.Db, piece, change.Number) is { } number
                    ? Reverse(change, Chain.Of(change.Db, number))
                    : throw new ClashException($"Nothing further back was done on P {piece} that can be taken back.")
        );

    /// <summary>Steps back on a piece's page until a command is taken back, each a step that can be walked forward again.</summary>
    /// <returns>How many steps it was.</returns>
    /// <exception cref="ClashException">Something stands in the way; the steps before it stay taken back.</exception>
    public Done<int> StepBackTo(PieceNumber piece, CommandNumber command, Once once)
    {
        var steps = 0;
        var last = command;
        while (papers.Read(db => LatestStep(db, piece, CommandNumber.Of(int.MaxValue))) is { } number && number.Value >= command.Value)
        {
            last = Undo(number, Once.Unkeyed with { By = once.By }).Command;
            steps++;
        }
        return new Done<int>(last, steps);
    }

    private static CommandNumber? LatestStep(SqliteConnection db, PieceNumber piece, CommandNumber running) =>
        db.QuerySingleOrDefault<int?>(
            """
            SELECT max(number) FROM command c WHERE piece = @piece AND root IS NULL AND undone_by IS NULL AND number < @running
                AND EXISTS (SELECT 1 FROM undo_log WHERE command = c.number)
            """,
            new { piece, running }
        )
            is { } number
            ? CommandNumber.Of(number)
            : null;

    /// <summary>Does again the step on a piece's page that was taken back last, as long as nothing new was done there since.</summary>
    /// <exception cref="ClashException">There is none, or something stands in the way.</exception>
    public Done<HistoryLine> StepForward(PieceNumber piece, Once once) =>
        papers.Run(
            $"stepped forward in P {piece}",
            once,
            change =>
            {
                var last = change.Db.QuerySingleOrDefault<int?>(
                    """
                    SELECT r.number FROM command r JOIN command step ON step.number = r.undone_by
                    WHERE r.piece = @piece AND r.root IS NULL
                        AND step.number > (SELECT max(number) FROM command WHERE piece = @piece AND root IS NULL AND number < @running)
                    ORDER BY step.number DESC LIMIT 1
                    """,
                    new { piece, running = change.Number }
                );
                return last is { } number
                    ? Reverse(change, Chain.Of(change.Db, CommandNumber.Of(number)))
                    : throw new ClashException($"Nothing on P {piece} was taken back that could be done again.");
            }
        );

    /// <summary>Turns a chain over: what is in effect is taken back, what is taken back is done again.</summary>
    private static HistoryLine Reverse(Change change, Chain chain)
    {
        var db = change.Db;
        change.IsAsItWas = true;
        if (InTheWay.Of(db, chain.Last, change.Number) is { } since)
            throw since.Refusal(chain);
        if (Catalogue.Queue.SendingRows.Reached(db, CommandNumber.Of(chain.Last)) is { } reached)
            throw new ClashException($"“{chain.What}” can't be taken back: {reached}.");
        var inverses = db.Query<string>("SELECT inverse FROM undo_log WHERE command = @Last ORDER BY id DESC", new { chain.Last }).ToList();
        if (inverses.Count == 0)
            throw new ClashException($"“{chain.What}” changed nothing that can be taken back, or is too long ago.");
        db.Execute("PRAGMA defer_foreign_keys = ON");
        try
        {
            foreach (var inverse in inverses)
                if (chain.Piece is null || !IsTopicInUse(db, inverse))
                    TakeBack(change, inverse);
        }
        catch (SqliteException error) when (error.SqliteErrorCode == 19)
        {
            var way = chain.IsUndone ? "done again" : "taken back";
            throw new ClashException($"“{chain.What}” can't be {way}: something else has its name or its place by now.");
        }
        if (InTheWay.Leaning(db, change.Number) is { } leaning)
            throw leaning.Refusal(chain);
        change.What = (chain.IsUndone ? "did again: " : "took back: ") + chain.What;
        change.OnPiece = chain.Piece;
        db.Execute(
            """
            UPDATE command SET undoes = @Last, root = @Root WHERE number = @running;
            UPDATE command SET undone_by = @running WHERE number = @Last;
            UPDATE command SET undone_by = @undoneBy WHERE number = @Root;
            """,
            new
            {
                chain.Last,
                chain.Root,
                running = change.Number,
                undoneBy = chain.IsUndone ? (int?)null : change.Number.Value,
            }
        );
        return new HistoryLine(change.Number, change.Now, change.What, false);
    }

    /// <summary>Whether an inverse takes away a topic that others are on by now. It was made in passing, as something was caught beside
    /// a piece; who steps back there means that, and what others use stays.</summary>
    private static bool IsTopicInUse(SqliteConnection db, string inverse)
    {
        const string takesAway = "DELETE FROM topic WHERE rowid=";
        return inverse.StartsWith(takesAway, StringComparison.Ordinal)
            && long.TryParse(inverse.AsSpan(takesAway.Length), out var topic)
            && Foreign
                .To(db, "topic")
                .Any(by => db.ExecuteScalar<bool>($"SELECT EXISTS (SELECT 1 FROM {by.Table} WHERE {by.Column} = @topic)", new { topic }));
    }

    /// <summary>Runs one inverse. What was made is taken away by a statement that is prepared once, since an import made many.</summary>
    private static void TakeBack(Change change, string inverse)
    {
        const string where = " WHERE rowid=";
        if (
            inverse.StartsWith("DELETE FROM ", StringComparison.Ordinal)
            && inverse.IndexOf(where, StringComparison.Ordinal) is var at
            && long.TryParse(inverse.AsSpan(at + where.Length), out var row)
        )
        {
            change.Hot.Run(inverse[..at] + where + "@row", ("@row", row));
            return;
        }
        // Not through Dapper, which would keep every one of these texts.
        using var command = new SqliteCommand(inverse, change.Db);
        command.ExecuteNonQuery();
    }

    /// <summary>What was done to a thing, the latest first.</summary>
    public IReadOnlyList<HistoryLine> Of(Reference thing, int most = 50)
    {
        var table = thing.Kind == ThingKind.Day ? "day_sheet" : thing.Kind.Kept();
        return papers.Read(db =>
            Lines(
                db,
                """
                number IN (SELECT command FROM undo_log WHERE row = @Number AND (tbl = @table OR (@table = 'piece' AND tbl = 'draft')))
                    OR (@table = 'piece' AND piece = @Number)
                """,
                new { thing.Number, table },
                most
            )
        );
    }

    /// <summary>The latest files and feeds that came in.</summary>
    public IReadOnlyList<HistoryLine> CameIn(int most = 30) =>
        papers.Read(db => Lines(db, "what LIKE 'brought in %' OR what LIKE 'took in %'", null, most));

    /// <summary>The latest commands, for stepping back several.</summary>
    public IReadOnlyList<HistoryLine> Latest(int most = 50) => papers.Read(db => Lines(db, "1", null, most));

    internal static List<HistoryLine> Lines(SqliteConnection db, string where, object? arguments, int most)
    {
        var rows = db.Query<(int Number, DateTimeOffset At, string What, bool Undone)>(
                "SELECT number, at, what, undone_by IS NOT NULL FROM command "
                    + $"WHERE root IS NULL AND ({where}) ORDER BY number DESC LIMIT {most * 20}",
                arguments
            )
            .ToList();
        var lines = new List<HistoryLine>();
        foreach (var row in rows)
        {
            if (
                lines.Count > 0
                && lines[^1] is var later
                && later.What == row.What
                && later.Undone == row.Undone
                && row.What.StartsWith("wrote ", StringComparison.Ordinal)
                && later.At - row.At < OneStretch
            )
                lines[^1] = later with { Command = CommandNumber.Of(row.Number), At = row.At, Times = later.Times + 1 };
            else if (lines.Count == most)
                break;
            else
                lines.Add(new HistoryLine(CommandNumber.Of(row.Number), row.At, row.What, row.Undone));
        }
        return lines.ConvertAll(line => line with { Thing = InTheWay.About(db, line.Command) });
    }
}
