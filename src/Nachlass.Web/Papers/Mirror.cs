using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Web.Papers;

/// <summary>How the mirror stands.</summary>
/// <param name="Folder">Where it lies; null while there is none.</param>
/// <param name="Last">When it was last the same as the papers.</param>
/// <param name="Files">How many files it has.</param>
/// <param name="Aside">Files that another program changed; they were kept beside ours before ours was written again.</param>
/// <param name="Problem">Why it is not in step; null when it is.</param>
public sealed record MirrorState(string? Folder, DateTimeOffset? Last, int Files, IReadOnlyList<string> Aside, string? Problem);

/// <summary>
/// Keeps the papers as Markdown files in a folder, for other programs to read, in step with them: only what changed is written. It
/// goes one way. A file that another program changed is kept beside ours under another name, and nothing that is not ours is touched.
/// </summary>
internal sealed class Mirror : BackgroundService
{
    private const string ManifestName = ".nachlass-mirror.json";

    /// <summary>It is written once nothing has changed for so long, or after so much longer all the same.</summary>
    private static readonly TimeSpan Rest = TimeSpan.FromSeconds(2),
        Longest = TimeSpan.FromSeconds(20);

    private readonly SettingStore settings;
    private readonly PapersFile papers;
    private readonly ImageStore images;
    private readonly FileShelf shelf;
    private readonly ILogger<Mirror> log;
    private readonly Lock gate = new();
    private readonly List<string> aside = [];
    private DateTimeOffset? since,
        latest,
        last;
    private int files;
    private string? problem;

    public Mirror(SettingStore settings, PapersFile papers, ImageStore images, FileShelf shelf, ILogger<Mirror> log)
    {
        (this.settings, this.papers, this.images, this.shelf, this.log) = (settings, papers, images, shelf, log);
        papers.Written += Note;
        since = latest = papers.Time.GetUtcNow();
    }

    private string? Folder => settings.Get(SettingStore.MirrorFolder);

    public MirrorState State
    {
        get
        {
            lock (gate)
                return new MirrorState(Folder, last, files, [.. aside], problem);
        }
    }

    /// <summary>Chooses the folder and writes the mirror; none ends it and leaves what is there.</summary>
    /// <exception cref="BadInputException">It can't be written, or holds files that are not of a mirror.</exception>
    public MirrorState Choose(string? folder)
    {
        var chosen = string.IsNullOrWhiteSpace(folder) ? null : OwnFolder.Checked(folder, "folder", papers, settings);
        if (chosen is not null && Directory.EnumerateFileSystemEntries(chosen).Any() && !File.Exists(Path.Combine(chosen, ManifestName)))
            throw new BadInputException("folder", $"{chosen} holds files already. A mirror needs a folder of its own.");
        lock (gate)
        {
            settings.Set(SettingStore.MirrorFolder, chosen);
            (last, files, problem) = (null, 0, null);
            aside.Clear();
        }
        if (chosen is not null)
            Write();
        return State;
    }

    private void Note(Committed done)
    {
        lock (gate)
        {
            latest = papers.Time.GetUtcNow();
            since ??= latest;
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(TimeSpan.FromSeconds(1));
        while (await timer.WaitForNextTickAsync(stoppingToken))
            if (IsDue())
                Write();
    }

    private bool IsDue()
    {
        lock (gate)
        {
            var now = papers.Time.GetUtcNow();
            return Folder is not null && since is { } from && (now - latest >= Rest || now - from >= Longest);
        }
    }

    private void Write()
    {
        lock (gate)
        {
            if (Folder is not { } folder)
                return;
            since = null;
            try
            {
                var known = Manifest(folder);
                var now = new SortedDictionary<string, string>(StringComparer.Ordinal);
                var image = images.Take();
                foreach (var (name, content) in PapersFiles.Write(image))
                {
                    var bytes = Encoding.UTF8.GetBytes(content);
                    now[name] = Convert.ToHexStringLower(SHA256.HashData(bytes));
                    var path = Path.Combine(folder, name);
                    if (known.GetValueOrDefault(name) == now[name] && File.Exists(path))
                        continue;
                    KeepAside(folder, name, known.GetValueOrDefault(name));
                    Put(path, stream => stream.Write(bytes));
                }
                foreach (var hash in image.FileHashes)
                {
                    var name = "files/" + hash;
                    now[name] = hash;
                    var path = Path.Combine(folder, name);
                    if (!File.Exists(path))
                        using (var content = shelf.Open(hash))
                            Put(path, content.CopyTo);
                }
                foreach (var gone in known.Keys.Where(name => !now.ContainsKey(name)))
                {
                    KeepAside(folder, gone, known[gone]);
                    File.Delete(Path.Combine(folder, gone));
                }
                Put(Path.Combine(folder, ManifestName), stream => JsonSerializer.Serialize(stream, now));
                (last, files, problem) = (papers.Time.GetUtcNow(), now.Count, null);
            }
            catch (Exception error) when (error is IOException or UnauthorizedAccessException or NotThereException)
            {
                // It is tried again with the next change, and half a minute later.
                since = papers.Time.GetUtcNow().AddSeconds(10);
                latest = since;
                problem = error.Message;
                log.LogWarning("The mirror is not in step: {Reason}", error.Message);
            }
        }
    }

    /// <summary>What another program made of our file is somebody's work.</summary>
    private void KeepAside(string folder, string name, string? was)
    {
        var path = Path.Combine(folder, name);
        if (was is null || !File.Exists(path) || Convert.ToHexStringLower(SHA256.HashData(File.ReadAllBytes(path))) == was)
            return;
        var kept =
            $"{Path.ChangeExtension(name, null)} (changed elsewhere {papers.Time.GetLocalNow():yyyy-MM-dd HH.mm.ss})"
            + Path.GetExtension(name);
        File.Move(path, Path.Combine(folder, kept), overwrite: true);
        aside.Add(kept);
    }

    private static Dictionary<string, string> Manifest(string folder)
    {
        var path = Path.Combine(folder, ManifestName);
        try
        {
            var known = File.Exists(path) ? JsonSerializer.Deserialize<Dictionary<string, string>>(File.ReadAllText(path)) ?? [] : [];
            // Whoever wrote it, no name leads out of the folder.
            return known
                .Where(k => Path.GetFullPath(Path.Combine(folder, k.Key)).StartsWith(folder + "/", StringComparison.Ordinal))
                .ToDictionary();
        }
        catch (JsonException)
        {
            return [];
        }
    }

    /// <summary>A file is there whole or not at all, so that no other program reads half of one.</summary>
    private static void Put(string path, Action<Stream> write)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        var making = path + ".making";
        using (var stream = File.Create(making))
            write(stream);
        File.Move(making, path, overwrite: true);
    }

    public override void Dispose()
    {
        papers.Written -= Note;
        base.Dispose();
    }
}
