using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;

namespace Nachlass.Store.Papers;

/// <summary>What a copy of the papers holds.</summary>
public sealed record CopyHolds(int Slips, int Sources, int Pieces, int Days);

/// <summary>Copies of the papers' file: made while it is written, checked by opening them, and put back.</summary>
public static class Copies
{
    /// <summary>The copy that takes the papers' place at the next start.</summary>
    internal const string Next = ".next";

    /// <summary>The papers as they were before a copy was put back.</summary>
    public const string Before = ".before-restore";

    /// <summary>Makes a copy at a path. It stands there only once it is whole and could be opened.</summary>
    /// <exception cref="CopyException">It could not be made, or is not sound.</exception>
    public static CopyHolds Make(PapersFile papers, string path)
    {
        var making = path + ".making";
        try
        {
            Clear(making);
            papers.CopyTo(making);
            var holds = Check(making);
            File.Move(making, path, overwrite: true);
            return holds;
        }
        catch (Exception error) when (error is IOException or UnauthorizedAccessException or SqliteException)
        {
            Clear(making);
            throw new CopyException($"The copy {path} could not be made: {error.Message}");
        }
    }

    /// <summary>Opens a copy and looks through all of it.</summary>
    /// <exception cref="CopyException">It is no sound copy of papers.</exception>
    public static CopyHolds Check(string path)
    {
        try
        {
            using var db = Opened(path);
            var found = db.ExecuteScalar<string>("PRAGMA integrity_check(1)");
            return found == "ok" ? Holds(db) : throw new CopyException($"The copy {path} is damaged ({found}).");
        }
        catch (SqliteException error)
        {
            throw new CopyException($"The copy {path} can't be opened: {error.Message}");
        }
    }

    /// <summary>What a copy holds; null when it can't be read.</summary>
    public static CopyHolds? Holds(string path)
    {
        try
        {
            using var db = Opened(path);
            return Holds(db);
        }
        catch (SqliteException)
        {
            return null;
        }
    }

    /// <summary>Lays a copy ready to be the papers at the next start, brought up to date already, so that what is wrong with it is said
    /// now.</summary>
    /// <exception cref="CopyException">It is damaged, or of a newer program. Nothing was changed.</exception>
    public static void LayReady(string copy, PapersFile papers)
    {
        Check(copy);
        var folder = papers.Folder;
        var next = Path.Combine(folder, PapersFile.FileName + Next);
        var trying = Path.Combine(folder, "copy-" + PapersFile.FileName);
        Clear(trying);
        try
        {
            File.Copy(copy, trying);
            Opening.Migrate(trying);
            KeepSettings(papers, trying);
            File.Move(trying, next, overwrite: true);
        }
        catch (CannotOpenException error)
        {
            throw new CopyException(error.Message.Replace(trying, copy, StringComparison.Ordinal));
        }
        catch (IOException error)
        {
            throw new CopyException($"The copy {copy} can't be read: {error.Message}");
        }
        finally
        {
            Clear(trying);
            foreach (var aside in Directory.EnumerateFiles(folder, "copy-" + PapersFile.FileName + ".before-*"))
                File.Delete(aside);
        }
    }

    /// <summary>Settings belong to the installation and not to the papers: where copies lie and what the passphrase is stays as it
    /// is.</summary>
    private static void KeepSettings(PapersFile papers, string path)
    {
        var settings = papers.Read(db => db.Query<(string Name, string Value)>("SELECT name, value FROM setting").ToList());
        using var db = new SqliteConnection(new SqliteConnectionStringBuilder { DataSource = path, Pooling = false }.ToString());
        db.Open();
        db.Execute("DELETE FROM setting");
        foreach (var (name, value) in settings)
            db.Execute("INSERT INTO setting (name, value) VALUES (@name, @value)", new { name, value });
        db.Execute("PRAGMA wal_checkpoint(TRUNCATE)");
    }

    /// <summary>Puts a copy that lies ready in the papers' place; what stood there stays beside it.</summary>
    internal static void TakePlace(string path)
    {
        var next = path + Next;
        if (!File.Exists(next))
            return;
        if (File.Exists(path))
        {
            // The log of papers that were not closed is taken in first.
            using (var db = new SqliteConnection(new SqliteConnectionStringBuilder { DataSource = path, Pooling = false }.ToString()))
            {
                db.Open();
                db.Execute("PRAGMA wal_checkpoint(TRUNCATE)");
            }
            File.Move(path, path + Before, overwrite: true);
        }
        foreach (var log in (string[])[path + "-wal", path + "-shm"])
            File.Delete(log);
        File.Move(next, path);
    }

    private static SqliteConnection Opened(string path)
    {
        var db = new SqliteConnection(
            new SqliteConnectionStringBuilder
            {
                DataSource = path,
                Mode = SqliteOpenMode.ReadOnly,
                Pooling = false,
            }.ToString()
        );
        db.Open();
        return db;
    }

    private static CopyHolds Holds(SqliteConnection db) =>
        db.QuerySingle<(int Slips, int Sources, int Pieces, int Days)>(
            "SELECT (SELECT count(*) FROM slip), (SELECT count(*) FROM source), (SELECT count(*) FROM piece), "
                + "(SELECT count(*) FROM day_sheet)"
        )
            is var (slips, sources, pieces, days)
            ? new CopyHolds(slips, sources, pieces, days)
            : throw new InvalidOperationException();

    private static void Clear(string path)
    {
        foreach (var left in (string[])[path, path + "-wal", path + "-shm", path + "-journal"])
            if (File.Exists(left))
                File.Delete(left);
    }
}

/// <summary>A copy could not be made, or is none; the message says why.</summary>
public sealed class CopyException(string message) : RefusedException(message);
