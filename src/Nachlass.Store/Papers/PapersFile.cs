using System.Data;
using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Papers;

/// <summary>A request that may be sent twice and must be done once.</summary>
/// <param name="Key">The sender's key; null when it gave none.</param>
/// <param name="Of">What was asked, so that a key used for something else is noticed.</param>
/// <param name="By">The tab that asks, so that it knows its own changes from those of others.</param>
public readonly record struct Once(string? Key, string Of, string? By = null)
{
    public static readonly Once Unkeyed = new(null, "");
}

/// <summary>What a command answered.</summary>
/// <param name="Command">Its number, for undo.</param>
/// <param name="Answer">What it made or changed.</param>
/// <param name="Repeated">Whether this was a retry of a request that had been done already.</param>
/// <param name="Followed">What rules did in the same step, in words; empty when none did anything.</param>
public sealed record Done<T>(CommandNumber Command, T Answer, bool Repeated = false, string Followed = "");

/// <summary>A row that a command touched.</summary>
public readonly record struct Touched(string Table, long Row);

/// <summary>A command that has been written to disk.</summary>
/// <param name="By">The tab that asked for it; null when it was no tab.</param>
public sealed record Committed(CommandNumber Command, string What, IReadOnlyList<Touched> Rows, string? By = null);

/// <summary>A running command: everything it writes is one transaction, logged for undo.</summary>
public sealed class Change
{
    private readonly TimeZoneInfo zone;

    internal Change(SqliteConnection db, Prepared hot, CommandNumber number, string what, DateTimeOffset now, TimeZoneInfo zone) =>
        (Db, Hot, Number, What, Now, this.zone) = (db, hot, number, what, now, zone);

    public SqliteConnection Db { get; }
    public CommandNumber Number { get; }

    /// <summary>For statements that run again and again.</summary>
    internal Prepared Hot { get; }

    /// <summary>The piece on whose page it was done, and in whose walk it is a step.</summary>
    public PieceNumber? OnPiece { get; set; }

    /// <summary>Whether it only brings back what was: undo, and whole papers coming in. Nothing follows from that.</summary>
    internal bool IsAsItWas { get; set; }

    /// <summary>What the history says was done; may be made more exact while running.</summary>
    public string What { get; set; }

    /// <summary>What rules did beside it, in words.</summary>
    public string Followed { get; set; } = "";

    public DateTimeOffset Now { get; }

    /// <summary>Where the writer is.</summary>
    public TimeZoneInfo Zone => zone;

    public DateOnly Today => DayOf(Now);

    /// <summary>The writer's own calendar day of an instant.</summary>
    public DateOnly DayOf(DateTimeOffset instant) => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(instant, zone).DateTime);
}

/// <summary>
/// One set of papers: an SQLite file in a folder. Any number of readers, one command at a time; a command that returned is
/// on disk. The folder is locked against a second server.
/// </summary>
public sealed class PapersFile : IDisposable
{
    public const string FileName = "papers.db";

    private readonly string readers;
    private readonly SqliteConnection writer;
    private readonly Lock gate = new();
    private readonly FileStream claim;
    private readonly OnDisk onDisk;

    // Around every command run the same few statements; each is prepared once and kept.
    private readonly SqliteCommand begin,
        start,
        say,
        finish,
        rollback;
    private readonly Prepared hot;

    private PapersFile(string folder, TimeProvider time, FileStream claim)
    {
        Folder = folder;
        Time = time;
        this.claim = claim;
        var path = Path.Combine(folder, FileName);
        readers = new SqliteConnectionStringBuilder
        {
            DataSource = path,
            ForeignKeys = true,
            DefaultTimeout = 10,
        }.ToString();
        writer = new SqliteConnection(
            new SqliteConnectionStringBuilder
            {
                DataSource = path,
                ForeignKeys = true,
                DefaultTimeout = 10,
                Pooling = false,
            }.ToString()
        );
        writer.Open();
        TextTurnedBack.Register(writer);
        writer.Execute("PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL; PRAGMA cache_size = -65536; PRAGMA temp_store = MEMORY;");
        begin = new SqliteCommand("BEGIN IMMEDIATE", writer);
        start = new SqliteCommand(
            """
            INSERT INTO command (at, what, request, request_of) VALUES (@at, @what, @key, @of);
            UPDATE undo_now SET command = last_insert_rowid();
            SELECT command FROM undo_now;
            """,
            writer
        );
        say = new SqliteCommand("UPDATE command SET what = @what, piece = @piece, answer = @answer WHERE number = @number", writer);
        finish = new SqliteCommand("UPDATE undo_now SET command = NULL; COMMIT", writer);
        rollback = new SqliteCommand("ROLLBACK TRANSACTION", writer);
        hot = new Prepared(writer);
        onDisk = new OnDisk(path);
    }

    /// <summary>Looks whether the papers can still be written.</summary>
    /// <exception cref="PapersGoneException">Their file was taken away, replaced or garbled.</exception>
    public void Check()
    {
        lock (gate)
            onDisk.Check();
    }

    public string Folder { get; }
    public TimeProvider Time { get; }

    /// <summary>The writer's calendar day.</summary>
    public DateOnly Today => DateOnly.FromDateTime(Time.GetLocalNow().DateTime);

    /// <summary>What makes SQL functions of ours on a connection, put in here by the stores that know the answers.</summary>
    internal List<Action<SqliteConnection>> Functions { get; } = [];

    /// <summary>Makes the functions of ours on a connection, before a statement that uses them.</summary>
    internal void Provide(SqliteConnection db)
    {
        foreach (var make in Functions)
            make(db);
    }

    /// <summary>Told at the end of each command, inside of it: what it does more belongs to the same step. Not told where
    /// <see cref="Change.IsAsItWas"/>.</summary>
    internal event Action<Change>? Ending;

    /// <summary>Told after each command is on disk, in order, before the next one runs.</summary>
    public event Action<Committed>? Written;

    /// <summary>Opens the papers in a folder, making or migrating them as needed.</summary>
    /// <exception cref="CannotOpenException">The folder can't be written, is in use, or the file is damaged or newer.</exception>
    public static PapersFile Open(string folder, TimeProvider time)
    {
        Mapping.Register();
        var claim = Opening.Claim(folder);
        try
        {
            Copies.TakePlace(Path.Combine(folder, FileName));
            Opening.Migrate(Path.Combine(folder, FileName));
            var papers = new PapersFile(folder, time, claim);
            Bench.FormatRows.Seed(papers.writer);
            Catalogue.ReleaseRows.Seed(papers.writer);
            UndoLog.Install(papers.writer);
            UndoLog.Trim(papers.writer);
            return papers;
        }
        catch (SqliteException error) when (error.SqliteErrorCode is 13)
        {
            claim.Dispose();
            throw new CannotOpenException($"The disk that {folder} lies on is full. Make room on it and start again.", error);
        }
        catch (SqliteException error) when (error.SqliteErrorCode is 11 or 26)
        {
            claim.Dispose();
            throw new CannotOpenException($"The file {FileName} in {folder} is damaged ({error.Message}). It was left as it is.", error);
        }
        catch
        {
            claim.Dispose();
            throw;
        }
    }

    /// <summary>Reads, seeing one state of the papers throughout.</summary>
    public T Read<T>(Func<SqliteConnection, T> read)
    {
        using var db = new SqliteConnection(readers);
        db.Open();
        db.Execute("PRAGMA cache_size = -16384; BEGIN DEFERRED");
        try
        {
            return read(db);
        }
        catch (SqliteException error)
        {
            onDisk.Heard(error);
            throw;
        }
        finally
        {
            if (SQLitePCL.raw.sqlite3_get_autocommit(db.Handle) == 0)
                db.Execute("ROLLBACK TRANSACTION");
        }
    }

    /// <summary>Runs a command: all of it or nothing.</summary>
    /// <param name="what">What the history says: "kept slip 214".</param>
    /// <param name="once">The request it answers.</param>
    /// <param name="act">What it does. Its answer is kept when the request has a key, and given again to a retry.</param>
    /// <exception cref="BadInputException">The key was used for another request.</exception>
    public Done<T> Run<T>(string what, Once once, Func<Change, T> act)
    {
        lock (gate)
        {
            onDisk.Check();
            begin.ExecuteNonQuery();
            Change change;
            T answer;
            try
            {
                if (once.Key is not null && Earlier<T>(once) is { } earlier)
                {
                    RollBack();
                    return earlier;
                }
                var now = Mapping.ToMillisecond(Time.GetUtcNow());
                Set(start, ("@at", now.Kept()), ("@what", what), ("@key", once.Key), ("@of", once.Key is null ? null : once.Of));
                var number = Convert.ToInt32(start.ExecuteScalar(), System.Globalization.CultureInfo.InvariantCulture);
                change = new Change(writer, hot, CommandNumber.Of(number), what, now, Time.LocalTimeZone);
                answer = act(change);
                if (!change.IsAsItWas)
                    Ending?.Invoke(change);
                if (change.What != what || once.Key is not null || change.OnPiece is not null)
                {
                    Set(
                        say,
                        ("@number", number),
                        ("@what", change.What),
                        ("@piece", change.OnPiece?.Value),
                        ("@answer", once.Key is null ? null : JsonSerializer.Serialize(answer, Answers.Json))
                    );
                    say.ExecuteNonQuery();
                }
                Invariants.Check(change);
                finish.ExecuteNonQuery();
            }
            catch (Exception error)
            {
                RollBack();
                onDisk.Heard(error);
                throw;
            }
            Tell(change, once.By);
            return new Done<T>(change.Number, answer, Followed: change.Followed);
        }
    }

    /// <summary>SQLite takes a transaction back by itself where the disk is full or fails; there is nothing left to take back
    /// then.</summary>
    private void RollBack()
    {
        if (SQLitePCL.raw.sqlite3_get_autocommit(writer.Handle) == 0)
            rollback.ExecuteNonQuery();
    }

    private static void Set(SqliteCommand command, params ReadOnlySpan<(string Name, object? Value)> values)
    {
        command.Parameters.Clear();
        foreach (var (name, value) in values)
            command.Parameters.AddWithValue(name, value ?? DBNull.Value);
    }

    /// <summary>Copies all of it into a new file, as it stands at one moment, while others read and write (SQLite's online
    /// backup).</summary>
    internal void CopyTo(string path)
    {
        using var from = new SqliteConnection(readers);
        from.Open();
        using var to = new SqliteConnection(new SqliteConnectionStringBuilder { DataSource = path, Pooling = false }.ToString());
        to.Open();
        from.BackupDatabase(to);
        // One file, without a log beside it.
        to.Execute("PRAGMA journal_mode = DELETE");
    }

    /// <summary>Runs work on the writing connection between commands, without logging it: for keeping the file in order.</summary>
    internal T Alone<T>(Func<SqliteConnection, T> act)
    {
        lock (gate)
        {
            onDisk.Check();
            return act(writer);
        }
    }

    /// <summary>Tells of a change that is no command, so that what shows it asks again.</summary>
    internal void Nudge(string table, long row)
    {
        lock (gate)
            Written?.Invoke(new Committed(CommandNumber.Of(1), "", [new Touched(table, row)]));
    }

    private Done<T>? Earlier<T>(Once once)
    {
        var row = writer.QuerySingleOrDefault<(int Number, string Of, string? Answer)?>(
            "SELECT number, request_of, answer FROM command WHERE request = @Key",
            new { once.Key }
        );
        if (row is not { } found)
            return null;
        if (found.Of != once.Of)
            throw new BadInputException("Idempotency-Key", "This Idempotency-Key was used for another request.");
        return new Done<T>(CommandNumber.Of(found.Number), JsonSerializer.Deserialize<T>(found.Answer ?? "null", Answers.Json)!, true);
    }

    private void Tell(Change change, string? by)
    {
        if (Written is not { } listeners)
            return;
        var rows = writer.Query<(string Table, long Row)>(
            "SELECT DISTINCT tbl, row FROM undo_log WHERE command = @command",
            new { command = change.Number }
        );
        listeners(new Committed(change.Number, change.What, [.. rows.Select(r => new Touched(r.Table, r.Row))], by));
    }

    public void Dispose()
    {
        foreach (var statement in (SqliteCommand[])[begin, start, say, finish, rollback])
            statement.Dispose();
        hot.Dispose();
        using (var pool = new SqliteConnection(readers))
            SqliteConnection.ClearPool(pool);
        // What lies in the log goes into the file, so that the one file is the papers.
        if (onDisk.Trouble is null)
            try
            {
                writer.Execute("PRAGMA wal_checkpoint(TRUNCATE)");
            }
            catch (SqliteException)
            {
                // The log stays beside it and is taken in at the next start.
            }
        writer.Dispose();
        onDisk.Dispose();
        claim.Dispose();
    }
}
