using System.Globalization;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Papers;

/// <summary>A copy of the papers.</summary>
/// <param name="Name">Its file.</param>
/// <param name="Holds">What is in it; null when it can't be read.</param>
public sealed record BackupCopy(string Name, DateTimeOffset At, long Bytes, CopyHolds? Holds);

/// <summary>How the copies stand.</summary>
/// <param name="Folder">Where they lie.</param>
/// <param name="At">At what time of the day one is made, <c>HH:mm</c>; null while none is made by itself.</param>
/// <param name="Last">The last that was made and could be opened.</param>
/// <param name="NextAt">When the next is due.</param>
/// <param name="Problem">What went wrong with the last try; null when nothing did.</param>
/// <param name="Copies">All there are, the newest first.</param>
public sealed record BackupState(
    string Folder,
    string? At,
    DateTimeOffset? Last,
    DateTimeOffset? NextAt,
    string? Problem,
    IReadOnlyList<BackupCopy> Copies
);

/// <summary>
/// Copies the papers by itself once a day, while they are written, into a folder of the writer's; attached files go along, each once.
/// A copy is opened and looked through before it counts, and old ones are thinned (<see cref="Thinning"/>). A time at which the
/// program did not run is made up for when it does.
/// </summary>
internal sealed class Backups(SettingStore settings, PapersFile papers, Restart restart, ILogger<Backups> log) : BackgroundService
{
    private const string Usual = "03:30";
    private const string Stamp = "yyyy-MM-dd HH.mm.ss";
    private static readonly TimeSpan Between = TimeSpan.FromSeconds(20);
    private readonly Lock gate = new();
    private readonly Dictionary<(string, DateTime), CopyHolds?> seen = [];
    private string? problem;

    private string Folder => settings.Get(SettingStore.CopiesFolder) ?? Path.Combine(papers.Folder, "copies");

    private string? At => settings.Get(SettingStore.CopiesAt) is { } at ? (at.Length > 0 ? at : null) : Usual;

    private DateTime Now => papers.Time.GetLocalNow().DateTime;

    public BackupState State
    {
        get
        {
            lock (gate)
            {
                var copies = Made().OrderByDescending(c => c.At).ToList();
                return new BackupState(
                    Folder,
                    At,
                    copies.Count > 0 ? Instant(copies[0].At) : null,
                    At is { } at
                        ? Instant(Thinning.LastDue(TimeOnly.ParseExact(at, "HH:mm", CultureInfo.InvariantCulture), Now).AddDays(1))
                        : null,
                    problem,
                    [
                        .. copies.Select(c => new BackupCopy(
                            Path.GetFileName(c.Path),
                            Instant(c.At),
                            new FileInfo(c.Path).Length,
                            HoldsOf(c.Path)
                        )),
                    ]
                );
            }
        }
    }

    /// <summary>Chooses the folder and the time.</summary>
    /// <param name="folder">Beside the papers when empty.</param>
    /// <param name="at"><c>HH:mm</c>; none by itself when empty.</param>
    /// <exception cref="BadInputException">The folder can't be written, or there is no such time.</exception>
    public BackupState Choose(string? folder, string? at)
    {
        var time = (at ?? "").Trim();
        if (time.Length > 0 && !TimeOnly.TryParseExact(time, ["HH:mm", "H:mm"], CultureInfo.InvariantCulture, DateTimeStyles.None, out _))
            throw new BadInputException("at", "A time is written 03:30.");
        if (time.Length == 4)
            time = "0" + time;
        var chosen = string.IsNullOrWhiteSpace(folder) ? null : OwnFolder.Checked(folder, "folder", papers, settings);
        lock (gate)
        {
            settings.Set(SettingStore.CopiesFolder, chosen == Path.Combine(papers.Folder, "copies") ? null : chosen);
            settings.Set(SettingStore.CopiesAt, time);
            problem = null;
        }
        return State;
    }

    /// <summary>Makes a copy now.</summary>
    /// <exception cref="CopyException">It could not be made.</exception>
    public BackupState Make()
    {
        lock (gate)
        {
            try
            {
                Directory.CreateDirectory(Folder);
                Copies.Make(papers, Path.Combine(Folder, $"papers {Now.ToString(Stamp, CultureInfo.InvariantCulture)}.db"));
                KeepFiles(Path.Combine(papers.Folder, "files"), Path.Combine(Folder, "files"));
                var made = Made().ToList();
                foreach (var gone in Thinning.Gone([.. made.Select(c => c.At)], Now))
                    File.Delete(made.First(c => c.At == gone).Path);
                problem = null;
            }
            catch (Exception error) when (error is IOException or UnauthorizedAccessException or CopyException)
            {
                problem = error.Message;
                throw error as CopyException ?? new CopyException($"The copy could not be made: {error.Message}");
            }
        }
        return State;
    }

    /// <summary>Puts a copy in the papers' place: it is laid ready, a copy of the papers as they are is made, and the program begins
    /// anew.</summary>
    /// <exception cref="NotThereException">There is no such copy.</exception>
    /// <exception cref="CopyException">It can't be put back; nothing was changed.</exception>
    public BackupState PutBack(string name)
    {
        lock (gate)
        {
            var copy = Made().FirstOrDefault(c => Path.GetFileName(c.Path) == name).Path ?? throw new NotThereException($"copy {name}");
            Make();
            // The present ones may have been thinned meanwhile.
            if (!File.Exists(copy))
                throw new NotThereException($"copy {name}");
            KeepFiles(Path.Combine(Folder, "files"), Path.Combine(papers.Folder, "files"));
            Copies.LayReady(copy, papers);
        }
        restart.Ask();
        return State;
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Between);
        while (await timer.WaitForNextTickAsync(stoppingToken))
            try
            {
                if (IsDue())
                    Make();
            }
            catch (CopyException error)
            {
                log.LogWarning("No copy of the papers: {Reason}", error.Message);
            }
    }

    private bool IsDue()
    {
        lock (gate)
            return At is { } at
                && problem is null
                && !Made().Any(c => c.At >= Thinning.LastDue(TimeOnly.ParseExact(at, "HH:mm", CultureInfo.InvariantCulture), Now));
    }

    private IEnumerable<(string Path, DateTime At)> Made() =>
        Directory.Exists(Folder)
            ? Directory
                .EnumerateFiles(Folder, "papers *.db")
                .Select(path =>
                    (
                        path,
                        DateTime.TryParseExact(
                            Path.GetFileNameWithoutExtension(path)["papers ".Length..],
                            Stamp,
                            CultureInfo.InvariantCulture,
                            DateTimeStyles.None,
                            out var at
                        )
                            ? at
                            : default
                    )
                )
                .Where(copy => copy.Item2 != default)
            : [];

    private CopyHolds? HoldsOf(string path)
    {
        var key = (path, File.GetLastWriteTimeUtc(path));
        return seen.TryGetValue(key, out var holds) ? holds : seen[key] = Copies.Holds(path);
    }

    private DateTimeOffset Instant(DateTime local) => new(local, papers.Time.LocalTimeZone.GetUtcOffset(local));

    /// <summary>Files that are not there yet; they lie under their content's hash, so one that is there is the same.</summary>
    private static void KeepFiles(string from, string to)
    {
        if (!Directory.Exists(from))
            return;
        foreach (var file in Directory.EnumerateFiles(from, "*", SearchOption.AllDirectories))
        {
            var copy = Path.Combine(to, Path.GetRelativePath(from, file));
            if (File.Exists(copy) || Path.GetFileName(file).StartsWith("arriving-", StringComparison.Ordinal))
                continue;
            Directory.CreateDirectory(Path.GetDirectoryName(copy)!);
            File.Copy(file, copy + ".making", overwrite: true);
            File.Move(copy + ".making", copy);
        }
    }
}

/// <summary>A folder that the writer gives for the program to write into.</summary>
internal static class OwnFolder
{
    /// <summary>The folder, made when it is not there.</summary>
    /// <exception cref="BadInputException">It is no whole path, can't be written, or is one whose files come in.</exception>
    public static string Checked(string folder, string field, PapersFile papers, SettingStore settings)
    {
        var chosen = Path.TrimEndingDirectorySeparator(folder.Trim());
        if (!Path.IsPathFullyQualified(chosen))
            throw new BadInputException(field, "Name the folder by its whole path, such as /home/ines/copies.");
        chosen = Path.GetFullPath(chosen);
        if (settings.Get(SettingStore.DropFolder) is { } drop && Lies(chosen, drop))
            throw new BadInputException(field, "What lies in the drop folder comes in; choose another folder.");
        if (
            chosen == papers.Folder
            || Lies(chosen, Path.Combine(papers.Folder, "files"))
            || Lies(chosen, Path.Combine(papers.Folder, "incoming"))
        )
            throw new BadInputException(field, "The folder can't be the one of the papers themselves.");
        try
        {
            Directory.CreateDirectory(chosen);
            var trying = Path.Combine(chosen, $".trying-{Guid.NewGuid():N}");
            File.WriteAllText(trying, "");
            File.Delete(trying);
            return chosen;
        }
        catch (Exception error) when (error is IOException or UnauthorizedAccessException)
        {
            throw new BadInputException(field, $"Nachlass can't write in {chosen}: {error.Message}");
        }
    }

    private static bool Lies(string folder, string within) => (folder + "/").StartsWith(within + "/", StringComparison.Ordinal);
}
