using Dapper;
using DbUp;
using DbUp.Engine;
using Microsoft.Data.Sqlite;

namespace Nachlass.Store.Papers;

/// <summary>The papers can't be opened; the message says in one line what is wrong. Nothing has been changed.</summary>
public sealed class CannotOpenException(string message, Exception? cause = null) : Exception(message, cause);

/// <summary>What happens to a file before it is used: claimed, checked, set aside, migrated.</summary>
internal static class Opening
{
    private const int ApplicationId = 0x4E61_636C;

    private const UnixFileMode OwnersOnly = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;

    /// <summary>Makes the folder and holds a lock in it for as long as the stream is open; a killed server lets go.</summary>
    public static FileStream Claim(string folder)
    {
        try
        {
            Directory.CreateDirectory(folder);
            // The papers are for their owner alone.
            if (!OperatingSystem.IsWindows() && File.GetUnixFileMode(folder) != OwnersOnly)
                File.SetUnixFileMode(folder, OwnersOnly);
            return new FileStream(Path.Combine(folder, "papers.lock"), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
        }
        catch (UnauthorizedAccessException error)
        {
            throw new CannotOpenException($"The folder {folder} can't be written: {error.Message}", error);
        }
        catch (IOException error)
        {
            throw new CannotOpenException(
                Directory.Exists(folder)
                    ? $"The papers in {folder} are open in another Nachlass."
                    : $"The folder {folder} can't be written: {error.Message}",
                error
            );
        }
    }

    /// <summary>Makes the papers, or brings those of an earlier program up to date.</summary>
    public static void Migrate(string path)
    {
        if (Directory.Exists(path))
            throw new CannotOpenException($"{path} is a folder, where the papers are a file of this name. It was left as it is.");
        var isNew = !File.Exists(path) || new FileInfo(path).Length == 0;
        if (isNew)
        {
            NotLost(path);
            Make(path);
        }
        else
        {
            CanBeWritten(path);
            BringUp(path, isNew: false);
        }
    }

    /// <summary>New papers are made beside their place and put there whole, so that a start that is broken off leaves nothing that looks
    /// like papers.</summary>
    private static void Make(string path)
    {
        var making = path + ".making";
        foreach (var left in (string[])[making, making + "-wal", making + "-shm", making + "-journal"])
            File.Delete(left);
        try
        {
            BringUp(making, isNew: true);
            File.Move(making, path, overwrite: true);
        }
        catch (SqliteException error) when (error.SqliteErrorCode is 8 or 10 or 13 or 14)
        {
            throw new CannotOpenException($"The papers can't be made in {Path.GetDirectoryName(path)}: {error.Message}", error);
        }
    }

    /// <summary>An empty file beside a log or attached files is no beginning: something took the papers away.</summary>
    private static void NotLost(string path)
    {
        var files = Path.Combine(Path.GetDirectoryName(path)!, "files");
        var log = path + "-wal";
        var beside =
            File.Exists(log) && new FileInfo(log).Length > 0 ? "its log"
            : File.Exists(path) && Directory.Exists(files) && Directory.EnumerateFileSystemEntries(files).Any() ? "attached files"
            : null;
        if (beside is not null)
            throw new CannotOpenException(
                $"The file {path} is {(File.Exists(path) ? "empty" : "not there")}, and {beside} lie beside it. Put the papers back from a "
                    + "copy, or take what is left out of the folder to begin anew. Nothing was changed."
            );
    }

    private static void CanBeWritten(string path)
    {
        try
        {
            new FileStream(path, FileMode.Open, FileAccess.ReadWrite, FileShare.ReadWrite).Dispose();
        }
        catch (Exception error) when (error is IOException or UnauthorizedAccessException)
        {
            throw new CannotOpenException($"The file {path} can't be written: {error.Message}", error);
        }
    }

    private static void BringUp(string path, bool isNew)
    {
        var connection = new SqliteConnectionStringBuilder { DataSource = path, Pooling = false }.ToString();
        if (!isNew)
            CheckSound(path, connection);
        var upgrade = DeployChanges
            .To.SqliteDatabase(connection)
            .WithScriptsEmbeddedInAssembly(typeof(Opening).Assembly)
            .WithTransactionPerScript()
            .LogToNowhere()
            .Build();
        if (!isNew)
            CheckNotNewer(path, upgrade);
        var pending = upgrade.GetScriptsToExecute();
        if (pending.Count == 0)
            return;
        if (!isNew)
        {
            SetAside(path, connection, pending[0].Name);
            UndoLog.Remove(connection);
        }
        var result = upgrade.PerformUpgrade();
        if (!result.Successful)
            throw new CannotOpenException($"The file {path} could not be brought up to date: {result.Error.Message}", result.Error);
        using var db = new SqliteConnection(connection);
        db.Open();
        db.Execute($"PRAGMA application_id = {ApplicationId}");
    }

    private static void CheckSound(string path, string connection)
    {
        using var db = new SqliteConnection(connection);
        try
        {
            db.Open();
            var found = db.ExecuteScalar<string>("PRAGMA quick_check(1)");
            if (found != "ok")
                throw new CannotOpenException($"The file {path} is damaged ({found}). It was left as it is.");
            if (
                db.ExecuteScalar<long>("PRAGMA application_id") != ApplicationId
                && db.ExecuteScalar<long>("SELECT count(*) FROM sqlite_master") > 0
            )
                throw new CannotOpenException($"The file {path} is a database, but not one of Nachlass. It was left as it is.");
        }
        catch (SqliteException error) when (error.SqliteErrorCode is 8 or 14)
        {
            throw new CannotOpenException($"The file {path} can't be written: {error.Message}", error);
        }
        catch (SqliteException error) when (error.SqliteErrorCode is 11 or 26)
        {
            throw new CannotOpenException($"The file {path} is damaged ({error.Message}). It was left as it is.", error);
        }
    }

    private static void CheckNotNewer(string path, UpgradeEngine upgrade)
    {
        var known = upgrade.GetDiscoveredScripts().Select(s => s.Name).ToHashSet();
        if (upgrade.GetExecutedScripts().Any(name => !known.Contains(name)))
            throw new CannotOpenException(
                $"The file {path} was written by a newer Nachlass. It was left as it is; start the newer program."
            );
    }

    private static void SetAside(string path, string connection, string script)
    {
        var copy = $"{path}.before-{script.Split('.').SkipLast(1).LastOrDefault() ?? "upgrade"}";
        if (File.Exists(copy))
            return;
        using var db = new SqliteConnection(connection);
        db.Open();
        db.Execute("VACUUM INTO @copy", new { copy });
    }
}
