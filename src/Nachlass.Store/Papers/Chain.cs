using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Papers;

/// <summary>A command with every step back and forward over it.</summary>
/// <param name="Root">The command as it was done first.</param>
/// <param name="Last">The last of the chain, whose log leads back to the state before it.</param>
/// <param name="What">What the root did, in words.</param>
/// <param name="IsUndone">Whether it is taken back now.</param>
/// <param name="NamesTakingBack">Whether the number by which it was asked for is that of a step back.</param>
/// <param name="Piece">The piece in whose walk it is a step.</param>
internal sealed record Chain(int Root, int Last, string What, bool IsUndone, bool NamesTakingBack, PieceNumber? Piece)
{
    /// <exception cref="NotThereException">There is no such command.</exception>
    public static Chain Of(SqliteConnection db, CommandNumber number)
    {
        var root =
            db.QuerySingleOrDefault<int?>("SELECT coalesce(root, number) FROM command WHERE number = @number", new { number })
            ?? throw new NotThereException($"command {number}");
        var steps = db.Query<int>("SELECT number FROM command WHERE root = @root ORDER BY number", new { root }).ToList();
        var (what, undoneBy, piece) = db.QuerySingle<(string, int?, int?)>(
            "SELECT what, undone_by, piece FROM command WHERE number = @root",
            new { root }
        );
        return new Chain(
            root,
            steps.Count > 0 ? steps[^1] : root,
            what,
            undoneBy is not null,
            steps.IndexOf(number.Value) % 2 == 0,
            piece is { } p ? PieceNumber.Of(p) : null
        );
    }
}

/// <summary>A later command because of which another can't be taken back.</summary>
internal sealed record InTheWay(CommandNumber Command, string What, bool IsUndone, Reference? Thing)
{
    public ClashException Refusal(Chain chain)
    {
        var since = IsUndone
            ? $"“{What}” was taken back since. Do that again first."
            : $"the same thing was changed since by “{What}”. Take that back first.";
        return new ClashException(
            $"“{chain.What}” can't be {(chain.IsUndone ? "done again" : "taken back")} by itself: {since}",
            Command,
            Thing
        );
    }

    /// <summary>
    /// What was done since to the rows a command touched and still holds. Later steps that cancel each other out leave a row as it was:
    /// they are laid on a stack, and a step that takes back the topmost takes it away again.
    /// </summary>
    public static InTheWay? Of(SqliteConnection db, int command, CommandNumber running)
    {
        var later = db.Query<(string Table, long Row, int Number, int? Undoes)>(
            """
            SELECT DISTINCT l.tbl, l.row, l.command, c.undoes
            FROM (SELECT DISTINCT tbl, row FROM undo_log WHERE command = @command) mine
            JOIN undo_log l ON l.tbl = mine.tbl AND l.row = mine.row AND l.command > @command AND l.command < @running
            JOIN command c ON c.number = l.command
            ORDER BY l.tbl, l.row, l.command
            """,
            new { command, running },
            buffered: false
        );
        var stack = new Stack<int>();
        (string, long) at = default;
        int? found = null;
        foreach (var (table, row, number, undoes) in later)
        {
            if ((table, row) != at)
            {
                Note();
                at = (table, row);
            }
            if (undoes is { } taken && stack.TryPeek(out var top) && top == taken)
                stack.Pop();
            else
                stack.Push(number);
        }
        Note();
        return found is { } blocking ? Named(db, blocking) : null;

        void Note()
        {
            if (stack.TryPeek(out var top) && (found is null || top > found))
                found = top;
            stack.Clear();
        }
    }

    /// <summary>What leans on something that the running step has just taken away; null when nothing does.</summary>
    public static InTheWay? Leaning(SqliteConnection db, CommandNumber running)
    {
        if (!Foreign.AnyOpen(db))
            return null;
        foreach (
            var (table, row) in db.Query<(string, long)>(
                    "SELECT DISTINCT tbl, row FROM undo_log WHERE command = @running AND inverse LIKE 'INSERT INTO %'",
                    new { running }
                )
                .ToList()
        )
        foreach (var (by, column) in Foreign.To(db, table))
        {
            var leaning = db.QueryFirstOrDefault<long?>($"SELECT rowid FROM {by} WHERE {column} = @row", new { row });
            if (leaning is not { } other)
                continue;
            var command = db.QuerySingleOrDefault<int?>(
                "SELECT max(command) FROM undo_log WHERE tbl = @by AND row = @other AND command < @running",
                new
                {
                    by,
                    other,
                    running,
                }
            );
            return command is { } number
                ? Named(db, number)
                : throw new ClashException("It can't be taken back: something else builds on it by now.");
        }
        throw new ClashException("It can't be taken back: what it belongs to is not there any more.");
    }

    private static InTheWay Named(SqliteConnection db, int command)
    {
        var (number, what, isUndone) = db.QuerySingle<(int, string, bool)>(
            """
            SELECT r.number, r.what, c.root IS NOT NULL AND r.undone_by IS NOT NULL
            FROM command c JOIN command r ON r.number = coalesce(c.root, c.number) WHERE c.number = @command
            """,
            new { command }
        );
        return new InTheWay(CommandNumber.Of(number), what, isUndone, About(db, CommandNumber.Of(number)));
    }

    /// <summary>What a command was about, to go there: the first numbered thing it touched.</summary>
    public static Reference? About(SqliteConnection db, CommandNumber command)
    {
        var row = db.QueryFirstOrDefault<(string Table, int Row)?>(
            """
            SELECT tbl, row FROM undo_log WHERE command = @command AND tbl IN ('piece', 'draft', 'slip', 'source', 'topic', 'day_sheet')
            UNION ALL SELECT 'piece', piece FROM command WHERE number = @command AND piece IS NOT NULL LIMIT 1
            """,
            new { command }
        );
        return row?.Table switch
        {
            null => null,
            "draft" => new Reference(ThingKind.Piece, row.Value.Row),
            "day_sheet" => new Reference(ThingKind.Day, row.Value.Row),
            var table => new Reference(Enum.Parse<ThingKind>(table, true), row.Value.Row),
        };
    }
}

/// <summary>The foreign keys of the papers.</summary>
internal static class Foreign
{
    /// <summary>SQLITE_DBSTATUS_DEFERRED_FKS (sqlite.org/c3ref/c_dbstatus_options.html): above 0 while a foreign key leads
    /// nowhere.</summary>
    private const int Deferred = 10;

    public static bool AnyOpen(SqliteConnection db)
    {
        SQLitePCL.raw.sqlite3_db_status(db.Handle, Deferred, out var now, out _, 0);
        return now > 0;
    }

    /// <summary>The columns that point at a table's rows.</summary>
    public static IReadOnlyList<(string Table, string Column)> To(SqliteConnection db, string table) =>
        db.Query<(string, string)>(
                """
                SELECT m.name, f."from" FROM sqlite_master m, pragma_foreign_key_list(m.name) f
                WHERE m.type = 'table' AND f."table" = @table
                """,
                new { table }
            )
            .AsList();
}
