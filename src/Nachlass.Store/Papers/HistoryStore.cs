using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Papers;

/// <summary>Something that was done.</summary>
/// <param name="Undone">Whether it has been taken back since.</param>
public sealed record HistoryLine(CommandNumber Command, DateTimeOffset At, string What, bool Undone);

/// <summary>What was done, and taking it back.</summary>
public sealed class HistoryStore(PapersFile papers)
{
    /// <summary>Takes a command back; taking back that, does it again.</summary>
    /// <exception cref="NotThereException">There is no such command.</exception>
    /// <exception cref="ClashException">It was taken back already, or something it changed has been changed since.</exception>
    public Done<HistoryLine> Undo(CommandNumber number, Once once) =>
        papers.Run(
            $"took back command {number}",
            once,
            change =>
            {
                var db = change.Db;
                change.IsAsItWas = true;
                var command =
                    db.QuerySingleOrDefault<(string What, int? Undoes, int? UndoneBy)?>(
                        "SELECT what, undoes, undone_by FROM command WHERE number = @number AND number < @running",
                        new { number, running = change.Number }
                    ) ?? throw new NotThereException($"command {number}");
                if (command.UndoneBy is not null)
                    throw new ClashException($"“{command.What}” was taken back already.");
                var since = db.QueryFirstOrDefault<string>(
                    """
                    SELECT c.what FROM undo_log mine
                    JOIN undo_log later ON later.tbl = mine.tbl AND later.row = mine.row AND later.command > mine.command
                    JOIN command c ON c.number = later.command
                    WHERE mine.command = @number AND c.number <> @running AND c.undone_by IS NULL AND c.undoes IS NULL
                    ORDER BY c.number DESC LIMIT 1
                    """,
                    new { number, running = change.Number }
                );
                if (since is not null)
                    throw new ClashException(
                        $"“{command.What}” can't be taken back by itself: the same thing was changed since by “{since}”. Take that "
                            + "back first."
                    );
                var inverses = db.Query<string>("SELECT inverse FROM undo_log WHERE command = @number ORDER BY id DESC", new { number })
                    .ToList();
                if (inverses.Count == 0)
                    throw new ClashException($"“{command.What}” changed nothing that can be taken back, or is too long ago.");
                db.Execute("PRAGMA defer_foreign_keys = ON");
                foreach (var inverse in inverses)
                    TakeBack(change, inverse);
                change.What = command.Undoes is null
                    ? $"took back: {command.What}"
                    : $"did again: {command.What.Replace("took back: ", "", StringComparison.Ordinal)}";
                db.Execute(
                    """
                    UPDATE command SET undoes = @number WHERE number = @running;
                    UPDATE command SET undone_by = @running WHERE number = @number;
                    UPDATE command SET undone_by = NULL WHERE number = @undoes;
                    """,
                    new
                    {
                        number,
                        running = change.Number,
                        undoes = command.Undoes,
                    }
                );
                return new HistoryLine(change.Number, change.Now, change.What, false);
            }
        );

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
            db.Query<(int Number, DateTimeOffset At, string What, bool Undone)>(
                    """
                    SELECT number, at, what, undone_by IS NOT NULL FROM command
                    WHERE number IN (SELECT command FROM undo_log
                        WHERE row = @Number AND (tbl = @table OR (@table = 'piece' AND tbl = 'draft')))
                    ORDER BY number DESC LIMIT @most
                    """,
                    new
                    {
                        thing.Number,
                        table,
                        most,
                    }
                )
                .Select(h => new HistoryLine(CommandNumber.Of(h.Number), h.At, h.What, h.Undone))
                .ToList()
        );
    }

    /// <summary>The latest commands, for stepping back several.</summary>
    public IReadOnlyList<HistoryLine> Latest(int most = 50) =>
        papers.Read(db =>
            db.Query<(int Number, DateTimeOffset At, string What, bool Undone)>(
                    "SELECT number, at, what, undone_by IS NOT NULL FROM command ORDER BY number DESC LIMIT @most",
                    new { most }
                )
                .Select(h => new HistoryLine(CommandNumber.Of(h.Number), h.At, h.What, h.Undone))
                .ToList()
        );
}
