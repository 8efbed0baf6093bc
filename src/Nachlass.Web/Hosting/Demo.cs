using System.Globalization;
using System.Text.Json;
using Nachlass.Core.Capture;
using Nachlass.Core.Plan;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Papers;
using Nachlass.Standins.Capture;
using Nachlass.Store.Capture;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Catalogue.Letters;
using Nachlass.Store.Catalogue.Pages;
using Nachlass.Store.Ideas;
using Nachlass.Store.Papers;
using Nachlass.Web.Catalogue.Asks;
using Nachlass.Web.Catalogue.Pages;

namespace Nachlass.Web.Hosting;

/// <summary>Opens the papers; for the demo, makes them anew from the files of the repository first.</summary>
internal static class Demo
{
    /// <summary>Stands in a folder that a demo made, so that no other folder is ever renewed.</summary>
    private const string Sign = "made-by-make-demo";

    public static PapersFile Open(Settings settings, TimeProvider time)
    {
        if (settings.Demo is not { } demo)
            return PapersFile.Open(settings.Data, time);
        if (!File.Exists(Path.Combine(demo, "papers.md")))
            throw new CannotStartException($"There are no demo papers in {demo}.");
        Renew(settings.Data);
        var papers = PapersFile.Open(settings.Data, time);
        var files = Directory
            .EnumerateFiles(demo, "*", SearchOption.AllDirectories)
            .Select(file => (Name: Path.GetRelativePath(demo, file).Replace('\\', '/'), file))
            .Where(f =>
                f.Name == "views.json"
                || f.Name.StartsWith(FormatFile.Folder, StringComparison.Ordinal)
                || (Path.GetExtension(f.Name) is ".md" or ".vtt" && !f.Name.StartsWith("incoming/", StringComparison.Ordinal))
            )
            .Select(f => (f.Name, File.ReadAllText(f.file)));
        // The files are dated as if they had been written on this day; all dates move along with today.
        var written = DateOnly.ParseExact(
            File.ReadAllText(Path.Combine(demo, "written-on.txt")).Trim(),
            "yyyy-MM-dd",
            CultureInfo.InvariantCulture
        );
        var shift = papers.Today.DayNumber - written.DayNumber;
        var shelf = new FileShelf(papers);
        foreach (var picture in FilesIn(Path.Combine(demo, "pictures")).Concat(FilesIn(Path.Combine(demo, "recordings"))))
            using (var content = File.OpenRead(picture))
                shelf.Keep(content);
        new ImageStore(papers, shelf, Looking.Into).Put(PapersFiles.Read(files, shift), Once.Unkeyed);
        var imports = new ImportStore(papers, shelf, Looking.Into);
        foreach (var settled in (bool[])[true, false])
        foreach (var file in FilesIn(Path.Combine(demo, "incoming", settled ? "kept" : "waiting")))
            BringIn(imports, papers, file, shift, settled);
        foreach (var file in FilesIn(Path.Combine(demo, "messages")))
            BringInMessages(papers, file, shift);
        OpenPages(papers);
        if (File.Exists(Path.Combine(demo, "readers.txt")))
            new ReaderStore(papers).Add(
                OutletNumber.Of(1),
                new NewReaders(File.ReadAllText(Path.Combine(demo, "readers.txt")), "signed the sheet at the ferry house")
            );
        new SettingStore(papers).Set(SettingStore.SiteName, "The Tavle papers");
        new SettingStore(papers).Set(SettingStore.MirrorFolder, Path.Combine(papers.Folder, "mirror"));
        return papers;
    }

    /// <summary>The passphrase of the demo's page that has one; files never say it.</summary>
    private const string PagesPassphrase = "low water";

    private static void OpenPages(PapersFile papers)
    {
        var shelf = new AskShelf(papers);
        var pages = new PageStore(papers, new MessageStore(papers, shelf), shelf, PublicSite.Hash);
        foreach (var page in pages.List().Select(p => p.Page).Where(p => p.AsksPassphrase))
            pages.Edit(page.Number, new PageChange(page.Version, Passphrase: PagesPassphrase), Once.Unkeyed);
    }

    private static IEnumerable<string> FilesIn(string folder) =>
        Directory.Exists(folder) ? Directory.EnumerateFiles(folder).Order(StringComparer.Ordinal) : [];

    /// <summary>Brings in a file as the import place would, and through the same readers.</summary>
    private static void BringIn(ImportStore imports, PapersFile papers, string file, int shift, bool settled)
    {
        var parcel = new Parcel(Path.Combine(papers.Folder, "incoming", Guid.NewGuid().ToString("N")));
        try
        {
            using (var content = File.OpenRead(file))
                parcel.Add(Path.GetFileName(file), content);
            imports.Run(
                $"brought in “{Path.GetFileName(file)}”",
                Origin.Import,
                null,
                () =>
                    parcel
                        .Read(new ReadAs(papers.Today))
                        .Select(f => (f.File.Name, Moved(f.Found, shift, settled ? papers.Time.GetUtcNow().AddDays(-AgeOfUndated) : null))),
                Once.Unkeyed,
                settled: settled
            );
        }
        finally
        {
            Directory.Delete(parcel.Folder, recursive: true);
        }
    }

    /// <summary>Brings in readers' messages, through the same readers too.</summary>
    private static void BringInMessages(PapersFile papers, string file, int shift)
    {
        var found = new CsvTable().Read(new InFile(Path.GetFileName(file), file), new ReadAs(papers.Today));
        new MessageStore(papers, new AskShelf(papers)).BringIn(
            [.. found.Select(AskEndpoints.Of).OfType<NewMessage>().Select(m => m with { At = m.At?.AddDays(shift) })],
            Once.Unkeyed
        );
    }

    /// <summary>What carries no date of its own and is kept was caught so many days ago, and not all of it today.</summary>
    private const int AgeOfUndated = 96;

    /// <summary>The same thing as many days later.</summary>
    private static Found Moved(Found found, int days, DateTimeOffset? undated) =>
        found switch
        {
            Found.OfSlip slip => slip with
            {
                Slip = slip.Slip with
                {
                    CaughtAt = slip.Slip.CaughtAt?.AddDays(days) ?? undated,
                    Source =
                        slip.Slip.Source is { Type: SourceType.Message } message && DateOnly.TryParse(message.Date, out var sent)
                            ? message with
                            {
                                Date = sent.AddDays(days).ToString("yyyy-MM-dd"),
                            }
                            : slip.Slip.Source,
                },
            },
            Found.OfMove move => move with { Due = move.Due?.AddDays(days) },
            Found.OfOccasion occasion => occasion with { From = occasion.From.AddDays(days), To = occasion.To.AddDays(days) },
            _ => found,
        };

    /// <summary>
    /// Asks for the ideas that the demo begins with. They are made on each start, of the demo papers as they are then: kept in a file
    /// they would stand beside papers that had gone on, and name days and years that had not.
    /// </summary>
    public static void AskForIdeas(Settings settings, IdeaStore ideas)
    {
        if (settings.Demo is not { } demo || !File.Exists(Path.Combine(demo, "ideas-asked.json")))
            return;
        var wanted = JsonSerializer.Deserialize<IdeasWanted>(File.ReadAllText(Path.Combine(demo, "ideas-asked.json")), Answers.Json)!;
        ideas.Keep([.. ideas.Make(wanted, CancellationToken.None)], ideas.Wish(wanted).Seed, Once.Unkeyed);
    }

    /// <summary>Starts the stand-in that publishes notices, and watches it.</summary>
    public static async Task<FeedServer?> StartFeed(Settings settings, TimeProvider time, FeedStore feeds)
    {
        if (settings.Demo is not { } demo || !File.Exists(Path.Combine(demo, "feed", "notices.json")))
            return null;
        var notices = JsonSerializer.Deserialize<List<Notice>>(
            await File.ReadAllTextAsync(Path.Combine(demo, "feed", "notices.json")),
            JsonSerializerOptions.Web
        )!;
        FeedServer server;
        try
        {
            server = await FeedServer.Start(
                settings.Url.Port == 0 ? 0 : settings.Url.Port + 1,
                time,
                "Tavle Conservancy: notices",
                notices
            );
        }
        // The port beside ours may be another program's; any other does as well.
        catch (IOException)
        {
            server = await FeedServer.Start(0, time, "Tavle Conservancy: notices", notices);
        }
        feeds.Watch(new Uri(server.Address, "/notices.atom").ToString(), 1, Once.Unkeyed);
        return server;
    }

    private static void Renew(string folder)
    {
        if (Directory.Exists(folder) && Directory.EnumerateFileSystemEntries(folder).Any())
        {
            if (!File.Exists(Path.Combine(folder, Sign)))
                throw new CannotStartException(
                    $"The folder {folder} holds something that no demo made, and a demo would replace it. Choose an empty folder "
                        + "with NACHLASS_DATA."
                );
            // Under a running demo nothing may be taken away; the lock tells.
            try
            {
                new FileStream(Path.Combine(folder, "papers.lock"), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None).Dispose();
            }
            catch (IOException)
            {
                throw new CannotStartException($"A demo is running in {folder} already.");
            }
            try
            {
                foreach (var file in Directory.EnumerateFiles(folder))
                    File.Delete(file);
                foreach (var inside in (string[])["files", "incoming", "sign-in", "copies", "mirror", "pieces", "walks", "got-letters"])
                    if (Directory.Exists(Path.Combine(folder, inside)))
                        Directory.Delete(Path.Combine(folder, inside), recursive: true);
            }
            catch (Exception error) when (error is IOException or UnauthorizedAccessException)
            {
                throw new CannotStartException($"The folder {folder} can't be renewed: {error.Message}");
            }
        }
        try
        {
            Directory.CreateDirectory(folder);
            File.WriteAllText(Path.Combine(folder, Sign), "");
        }
        catch (Exception error) when (error is IOException or UnauthorizedAccessException)
        {
            throw new CannotStartException($"The folder {folder} can't be written: {error.Message}");
        }
    }
}
