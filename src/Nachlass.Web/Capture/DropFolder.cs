using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Web.Capture;

/// <summary>How the drop folder stands.</summary>
/// <param name="Folder">The folder that is watched; null while it is off.</param>
/// <param name="Problem">Why it can't be watched, when it can't.</param>
/// <param name="Last">What happened to the files put there last, the newest first.</param>
public sealed record DropFolderState(string? Folder, string? Problem, IReadOnlyList<DroppedFile> Last);

/// <summary>A file that was put into the drop folder.</summary>
/// <param name="Reason">Why it was refused; null when it was taken.</param>
public sealed record DroppedFile(string Name, DateTimeOffset At, string? Reason);

/// <summary>
/// Watches a folder of the writer's: what is put there comes in and is moved to its folder "taken", what can't be read to
/// "refused" beside a line that says why. A file is looked at only when it has stopped growing. Asked every two seconds
/// rather than told by the system, since network and synchronised folders tell nothing.
/// </summary>
internal sealed class DropFolder(SettingStore settings, ImportStore imports, Reader reader, PapersFile papers, ILogger<DropFolder> log)
    : BackgroundService
{
    private static readonly TimeSpan Between = TimeSpan.FromSeconds(2);
    private readonly Dictionary<string, (long Bytes, DateTime Changed)> seen = [];
    private readonly LinkedList<DroppedFile> last = [];
    private readonly Lock gate = new(),
        looking = new();
    private string? problem,
        begun;

    public DropFolderState State
    {
        get
        {
            lock (gate)
                return new DropFolderState(settings.Get(SettingStore.DropFolder), problem, [.. last]);
        }
    }

    /// <summary>Chooses the folder; none turns it off.</summary>
    /// <exception cref="BadInputException">There is no such folder, it can't be written, or it is the papers' own.</exception>
    public DropFolderState Choose(string? folder)
    {
        string? chosen = null;
        if (!string.IsNullOrWhiteSpace(folder))
        {
            chosen = Path.TrimEndingDirectorySeparator(folder.Trim());
            if (!Path.IsPathFullyQualified(chosen))
                throw new BadInputException("folder", "Name the folder by its whole path, such as /home/ines/drop.");
            if (!Directory.Exists(chosen))
                throw new BadInputException("folder", $"There is no folder {chosen}.");
            chosen = Path.GetFullPath(chosen);
            if (
                (chosen + "/").StartsWith(papers.Folder + "/", StringComparison.Ordinal)
                || (papers.Folder + "/").StartsWith(chosen + "/", StringComparison.Ordinal)
            )
                throw new BadInputException("folder", "The folder can't be the one of the papers, or lie in it or around it.");
            try
            {
                Directory.CreateDirectory(Path.Combine(chosen, "taken"));
                Directory.CreateDirectory(Path.Combine(chosen, "refused"));
            }
            catch (Exception error) when (error is IOException or UnauthorizedAccessException)
            {
                throw new BadInputException("folder", $"Nachlass can't write in {chosen}: {error.Message}");
            }
        }
        settings.Set(SettingStore.DropFolder, chosen);
        lock (gate)
            problem = null;
        return State;
    }

    protected override async Task ExecuteAsync(CancellationToken stop)
    {
        using var timer = new PeriodicTimer(Between, papers.Time);
        try
        {
            while (await timer.WaitForNextTickAsync(stop))
                try
                {
                    Look(stop);
                }
                catch (Exception error) when (error is not OperationCanceledException)
                {
                    // A full disk, or papers that are gone: it goes on when that is mended.
                    log.LogError(error, "The drop folder could not be looked into");
                    lock (gate)
                        problem = $"What is in the folder can't be taken: {error.Message}";
                }
        }
        catch (OperationCanceledException) { }
    }

    /// <summary>Looks once: files that are as they were at the last look are taken. A second look waits for the first.</summary>
    public void Look(CancellationToken stop)
    {
        lock (looking)
            LookNow(stop);
    }

    private void LookNow(CancellationToken stop)
    {
        if (settings.Get(SettingStore.DropFolder) is not { } folder)
            return;
        try
        {
            var here = new DirectoryInfo(folder).EnumerateFiles().Where(f => !f.Name.StartsWith('.') && f.LinkTarget is null).ToList();
            foreach (var file in here)
            {
                var now = (file.Length, file.LastWriteTimeUtc);
                var isStill = seen.TryGetValue(file.FullName, out var before) && before == now && file.Length > 0;
                seen[file.FullName] = now;
                if (!isStill || !CanBeOpened(file))
                    continue;
                seen.Remove(file.FullName);
                Take(folder, file, stop);
            }
            foreach (var gone in seen.Keys.Except(here.Select(f => f.FullName)).ToList())
                seen.Remove(gone);
            lock (gate)
                problem = null;
        }
        catch (Exception error) when (error is IOException or UnauthorizedAccessException)
        {
            lock (gate)
                problem = $"The folder can't be looked into: {error.Message}";
        }
    }

    /// <summary>A program that still writes may hold the file.</summary>
    private static bool CanBeOpened(FileInfo file)
    {
        try
        {
            using var stream = file.Open(FileMode.Open, FileAccess.Read, FileShare.Read);
            return true;
        }
        catch (IOException)
        {
            return false;
        }
    }

    private void Take(string folder, FileInfo file, CancellationToken stop)
    {
        string? reason;
        try
        {
            // What was being read when the program ended may have ended it, and is not read again.
            if (begun != file.FullName && settings.Get(SettingStore.BeingRead) == file.FullName)
                reason = "Nachlass ended while it was read. It was set aside, so that it can't happen again.";
            else
            {
                settings.Set(SettingStore.BeingRead, begun = file.FullName);
                reason = BringIn(file, stop);
            }
            settings.Set(SettingStore.BeingRead, null);
        }
        catch (OperationCanceledException)
        {
            settings.Set(SettingStore.BeingRead, null);
            throw;
        }
        catch (PapersGoneException)
        {
            throw;
        }
        catch (Exception error) when (error is UnreadableFileException or RefusedException)
        {
            settings.Set(SettingStore.BeingRead, null);
            reason = error.Message;
        }
        catch (Exception error) when (error is not IOException and not UnauthorizedAccessException and not SqliteException)
        {
            settings.Set(SettingStore.BeingRead, null);
            log.LogError(error, "{File} in the drop folder could not be taken", file.Name);
            reason = "Something went wrong in Nachlass; the server's log says more.";
        }
        var place = Free(Path.Combine(folder, reason is null ? "taken" : "refused"), file.Name);
        Directory.CreateDirectory(Path.GetDirectoryName(place)!);
        if (reason is not null)
            File.WriteAllText(place + ".why.txt", reason + "\n");
        // What was brought in already is known again, so a stop between that and this moves it the next time.
        file.MoveTo(place);
        lock (gate)
        {
            last.AddFirst(new DroppedFile(file.Name, papers.Time.GetUtcNow(), reason));
            while (last.Count > 20)
                last.RemoveLast();
        }
    }

    private string? BringIn(FileInfo file, CancellationToken stop)
    {
        var parcel = new Parcel(Path.Combine(papers.Folder, "incoming", Guid.NewGuid().ToString("N")));
        try
        {
            using (var content = file.OpenRead())
                parcel.Add(file.Name, content);
            if (parcel.Files.Count == 0 && parcel.Refused is [var (_, why), ..])
                return Sentence(new Found.Unread(0, why, ""));
            var reads = reader.Read(parcel, new ToRead(papers.Today), stop: stop);
            IEnumerable<(string, Found)> Finding() => reads.Things(parcel).Select(f => (f.File.Name, f.Found));
            Found.Unread? first = null;
            var counts = imports.Preview(Finding, (_, found, _) => first ??= found as Found.Unread, stop);
            if (counts.IsEmpty && counts.Known == 0)
                return first is null ? "There is nothing in it." : Sentence(first);
            if (!counts.IsEmpty)
                imports.Run($"took in “{file.Name}” from the drop folder", Origin.Folder, file.Name, Finding, Once.Unkeyed, stop: stop);
            return null;
        }
        finally
        {
            Directory.Delete(parcel.Folder, recursive: true);
        }
    }

    private static string Sentence(Found.Unread unread)
    {
        var reason = char.ToUpperInvariant(unread.Reason[0]) + unread.Reason[1..];
        return unread.Line > 0 ? $"Line {unread.Line}: {unread.Reason}" : reason;
    }

    /// <summary>A name that is not taken yet.</summary>
    private static string Free(string folder, string name)
    {
        var place = Path.Combine(folder, name);
        for (var i = 2; File.Exists(place); i++)
            place = Path.Combine(folder, $"{Path.GetFileNameWithoutExtension(name)} {i}{Path.GetExtension(name)}");
        return place;
    }
}
