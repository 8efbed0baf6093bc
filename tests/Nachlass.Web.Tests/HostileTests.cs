using System.Diagnostics;
using System.IO.Compression;
using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;
using Dapper;
using Microsoft.Extensions.DependencyInjection;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Formats;
using Nachlass.Store.Papers;
using Nachlass.Web.Capture;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Tests;

/// <summary>What comes in by any door can do no harm: the server lives, answers within a second, and says what it could not read.</summary>
public sealed class HostileTests : IClassFixture<HostileTests.Shared>
{
    public sealed class Shared : IDisposable
    {
        public Server Server { get; } = new();

        public void Dispose() => Server.Dispose();
    }

    private readonly Server server;
    private readonly Reader reader;

    public HostileTests(Shared shared)
    {
        server = shared.Server;
        reader = server.Services.GetRequiredService<Reader>();
    }

    private static string Examples
    {
        get
        {
            var at = AppContext.BaseDirectory;
            while (!File.Exists(Path.Combine(at, "Nachlass.slnx")))
                at = Path.GetDirectoryName(at)!;
            return Path.Combine(at, "docs", "examples");
        }
    }

    /// <summary>It lives and answers within a second; the quickest of three, since other tests run beside this one.</summary>
    private async Task IsWell()
    {
        var quickest = TimeSpan.MaxValue;
        for (var i = 0; i < 3; i++)
        {
            var clock = Stopwatch.StartNew();
            (await server.Get("/api/health")).Status.ShouldBe(200);
            quickest = quickest < clock.Elapsed ? quickest : clock.Elapsed;
        }
        quickest.ShouldBeLessThan(TimeSpan.FromSeconds(1));
    }

    /// <summary>What the server holds, in bytes, once all that can go is gone.</summary>
    private static long Held() => GC.GetTotalMemory(forceFullCollection: true);

    private const long SomeMore = 48 << 20;

    /// <summary>A file of every format there is, as it should be.</summary>
    private static IEnumerable<(string Name, byte[] Content)> Good() =>
        Directory.EnumerateFiles(Examples).Select(path => (Path.GetFileName(path), File.ReadAllBytes(path)));

    [Fact]
    public void Every_format_has_an_example_to_be_broken()
    {
        var parcel = Parcel(Good());
        var read = parcel.Recognise().Select(r => r.Format?.Key).ToHashSet();
        FormatsIn.All.Select(f => f.Key).Where(key => !read.Contains(key)).ShouldBeEmpty("formats without a file in docs/examples");
        Directory.Delete(parcel.Folder, recursive: true);
    }

    private Parcel Parcel(IEnumerable<(string Name, byte[] Content)> files)
    {
        var parcel = new Parcel(Path.Combine(server.Folder, "incoming", Guid.NewGuid().ToString("N")));
        foreach (var (name, content) in files)
            parcel.Add(name, new MemoryStream(content));
        return parcel;
    }

    /// <summary>Every example cut off anywhere, with bytes changed, in another encoding, with its inside doubled, and as pure
    /// noise.</summary>
    private static IEnumerable<(string Name, byte[] Content)> Broken()
    {
        var random = new Random(11);
        foreach (var (name, content) in Good())
        {
            for (var i = 0; i < 3; i++)
                yield return ($"cut{i} {name}", content[..random.Next(content.Length)]);
            for (var i = 0; i < 4; i++)
            {
                var changed = content.ToArray();
                for (var times = random.Next(1, 30); times > 0; times--)
                    changed[random.Next(changed.Length)] = (byte)random.Next(256);
                yield return ($"changed{i} {name}", changed);
            }
            yield return ($"wide {name}", Encoding.Unicode.GetBytes(Encoding.Latin1.GetString(content)));
            yield return ($"nul {name}", [.. content, 0, .. content]);
            yield return ($"twice {name}", [.. content, .. content]);
            yield return ($"large {name}", [.. Enumerable.Repeat(content, 1 + 1_000_000 / content.Length).SelectMany(c => c)]);
            var noise = new byte[4_000];
            random.NextBytes(noise);
            yield return ($"noise {name}", noise);
        }
    }

    [Fact]
    public async Task Whatever_is_broken_about_a_file_of_any_format_is_said_or_read()
    {
        var parcel = Parcel(Broken());
        var held = Held();
        var reads = reader.Read(parcel, new ToRead(new DateOnly(2026, 11, 24)), stop: TestContext.Current.CancellationToken);
        foreach (var read in reads)
        {
            (read.Spool is null).ShouldBe(read.Reason is not null, parcel.Files[read.File].Name);
            if (read.Reason is { } reason)
                reason.Length.ShouldBeInRange(1, 320);
        }
        foreach (var (_, found) in reads.Things(parcel))
            found.ShouldNotBeNull();
        await IsWell();
        Held().ShouldBeLessThan(held + SomeMore);
        Directory.Delete(parcel.Folder, recursive: true);
    }

    private static byte[] Docx(string body)
    {
        using var memory = new MemoryStream();
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Create, true))
            foreach (
                var (name, content) in ((string, string)[])
                    [
                        (
                            "[Content_Types].xml",
                            "<Types xmlns='http://schemas.openxmlformats.org/package/2006/content-types'><Default Extension='rels' "
                                + "ContentType='application/vnd.openxmlformats-package.relationships+xml'/><Override PartName='/d.xml' "
                                + "ContentType='application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml'/></Types>"
                        ),
                        (
                            "_rels/.rels",
                            "<Relationships xmlns='http://schemas.openxmlformats.org/package/2006/relationships'><Relationship Id='r' "
                                + "Type='http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument' "
                                + "Target='d.xml'/>"
                                + "</Relationships>"
                        ),
                        (
                            "d.xml",
                            "<w:document xmlns:w='http://schemas.openxmlformats.org/wordprocessingml/2006/main'><w:body>"
                                + body
                                + "</w:body></w:document>"
                        ),
                    ]
            )
            {
                using var stream = zip.CreateEntry(name).Open();
                stream.Write(Encoding.UTF8.GetBytes(content));
            }
        return memory.ToArray();
    }

    private static string Times(string what, int times) => string.Concat(Enumerable.Repeat(what, times));

    /// <summary>Small files that unfold, nest or repeat beyond all measure.</summary>
    private static readonly (string Name, byte[] Content)[] Deep =
    [
        ("lists.html", Encoding.UTF8.GetBytes("<html><body>" + Times("<ul><li>x", 20_000))),
        ("blocks.html", Encoding.UTF8.GetBytes("<html><body>" + Times("<b><div><i>", 3_000) + "words")),
        ("tables.html", Encoding.UTF8.GetBytes("<html><body>" + Times("<table><tr><td>a", 5_000))),
        ("deep.opml", Encoding.UTF8.GetBytes("<opml><body>" + Times("<outline text='a'>", 100_000))),
        (
            "closed.opml",
            Encoding.UTF8.GetBytes("<opml><body>" + Times("<outline text='a'>", 50_000) + Times("</outline>", 50_000) + "</body></opml>")
        ),
        ("deep.json", Encoding.UTF8.GetBytes(Times("[", 200_000))),
        (
            "deep.feed.json",
            Encoding.UTF8.GetBytes("{\"version\":\"https://jsonfeed.org/version/1.1\",\"items\":[{\"title\":" + Times("[", 100_000))
        ),
        (
            "lists.feed.json",
            Encoding.UTF8.GetBytes(
                "{\"version\":\"https://jsonfeed.org/version/1.1\",\"items\":[{\"title\":\"N\",\"content_html\":\""
                    + Times("<ul><li>x", 20_000)
                    + "\"}]}"
            )
        ),
        ("deep.csljson", Encoding.UTF8.GetBytes("[{\"type\":\"book\",\"title\":" + Times("{\"a\":", 10_000))),
        ("deep.md", Encoding.UTF8.GetBytes("---\na: " + Times("[", 100_000) + "\n---\n\nx")),
        (
            "block.md",
            Encoding.UTF8.GetBytes(
                "---\n" + string.Concat(Enumerable.Range(0, 2_000).Select(i => new string(' ', i) + "a:\n")) + "---\n\nx"
            )
        ),
        (
            "double.bib",
            Encoding.UTF8.GetBytes(
                "@string{a0 = {xxxxxxxxxx}}\n"
                    + string.Concat(Enumerable.Range(1, 40).Select(i => $"@string{{a{i} = a{i - 1} # a{i - 1}}}\n"))
                    + "@book{b, title = a40}\n"
            )
        ),
        ("braces.bib", Encoding.UTF8.GetBytes("@book{b, title = " + Times("{", 200_000))),
        ("controls.docx", Docx(Times("<w:sdt><w:sdtContent>", 30_000) + Times("</w:sdtContent></w:sdt>", 30_000))),
        ("nested.docx", Docx(Times("<w:tbl><w:tr><w:tc>", 5_000) + Times("</w:tc></w:tr></w:tbl>", 5_000))),
        ("deep.rss", Encoding.UTF8.GetBytes("<rss version='2.0'><channel><title>N</title><item>" + Times("<a>", 100_000))),
        ("deep.eml", Encoding.UTF8.GetBytes(Multiparts(3_000))),
        ("quotes.md", Encoding.UTF8.GetBytes(new string('>', 100_000) + " x")),
        ("brackets.md", Encoding.UTF8.GetBytes(Times("[[", 50_000))),
        ("rule.ics", Encoding.UTF8.GetBytes("BEGIN:VCALENDAR\n" + Times("BEGIN:VEVENT\n", 20_000))),
        ("bookmarks.html", Encoding.UTF8.GetBytes("<!DOCTYPE NETSCAPE-Bookmark-file-1><DL>" + Times("<DT><H3>a</H3><DL>", 20_000))),
        ("cells.csv", Encoding.UTF8.GetBytes("text\n" + new string(',', 1_000_000) + "\n")),
    ];

    /// <summary>Formats in which nothing can stand in anything else.</summary>
    private static readonly string[] Flat = ["pdf", "picture", "mbox", "vtt", "srt", "timed", "list", "ris"];

    [Fact]
    public void Every_format_that_nests_has_a_file_that_nests_too_deep()
    {
        var parcel = Parcel(Deep);
        var read = parcel.Recognise().Select(r => r.Format?.Key).ToHashSet();
        FormatsIn.All.Select(f => f.Key).Except(Flat).Where(key => !read.Contains(key)).ShouldBeEmpty("formats without a deep file");
        Directory.Delete(parcel.Folder, recursive: true);
    }

    private static string Multiparts(int depth)
    {
        var text = new StringBuilder("From: A <a@b.example>\nSubject: deep\nMIME-Version: 1.0\n");
        for (var i = 0; i < depth; i++)
            text.Append($"Content-Type: multipart/mixed; boundary=b{i}\n\n--b{i}\n");
        return text.Append("Content-Type: text/plain\n\nwords\n").ToString();
    }

    [Fact]
    public async Task What_unfolds_or_nests_beyond_measure_is_bounded_and_the_good_come_in()
    {
        var parcel = Parcel([("good one.txt", "one\n"u8.ToArray()), .. Deep, ("good two.txt", "two\n"u8.ToArray())]);
        var held = Held();
        var clock = Stopwatch.StartNew();
        var reads = reader.Read(parcel, new ToRead(new DateOnly(2026, 11, 24)), stop: TestContext.Current.CancellationToken);
        reads.Count.ShouldBe(parcel.Files.Count);
        clock.Elapsed.ShouldBeLessThan(TimeSpan.FromSeconds(90));
        reads
            .Things(parcel)
            .Where(t => t.File.Name.StartsWith("good", StringComparison.Ordinal))
            .Select(t => ((Core.Capture.Found.OfSlip)t.Found).Slip.Text)
            .ShouldBe(["one", "two"]);
        await IsWell();
        Held().ShouldBeLessThan(held + SomeMore);
        Directory.Delete(parcel.Folder, recursive: true);
    }

    [Fact]
    public async Task A_clip_that_nests_keeps_its_words_and_harms_nobody()
    {
        var secret = (await server.Post("/api/keys", new { name = "clipper" })).Body!["secret"]!.GetValue<string>();
        foreach (
            var html in (string[])
                [
                    "<html><body>" + Times("<ul><li>x", 20_000),
                    "<html><body>" + Times("<div>", 1_500) + "some words",
                    "<html><body>" + Times("<blockquote>a", 400),
                ]
        )
        {
            var (status, body, _) = await server.Post(
                "/api/clips",
                new
                {
                    address = $"https://x.example/{html.Length}",
                    title = "deep",
                    html,
                },
                ("Authorization", $"Bearer {secret}")
            );
            status.ShouldBe(200, body?.ToJsonString());
            await IsWell();
        }
    }

    [Fact]
    public async Task Stopping_ends_the_reading_within_a_second()
    {
        var parcel = Parcel([("long.csv", Encoding.UTF8.GetBytes("text\n" + Times("a line of words\n", 1_500_000)))]);
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(TestContext.Current.CancellationToken);
        var reading = Task.Run(
            () =>
                Should.Throw<OperationCanceledException>(() =>
                    reader.Read(parcel, new ToRead(new DateOnly(2026, 11, 24)), stop: stop.Token)
                ),
            CancellationToken.None
        );
        await Task.Delay(300, TestContext.Current.CancellationToken);
        var clock = Stopwatch.StartNew();
        await stop.CancelAsync();
        await reading;
        clock.Elapsed.ShouldBeLessThan(TimeSpan.FromSeconds(3));
        Directory.Delete(parcel.Folder, recursive: true);
    }

    [Fact]
    public async Task A_dropped_file_that_was_being_read_when_the_program_ended_is_set_aside()
    {
        var drop = Directory.CreateTempSubdirectory("nachlass-drop-").FullName;
        var place = Path.Combine(drop, "bad.txt");
        try
        {
            await server.Send(HttpMethod.Put, "/api/drop-folder", new { folder = drop });
            await File.WriteAllTextAsync(place, "One idea\n", TestContext.Current.CancellationToken);
            var folder = server.Services.GetRequiredService<DropFolder>();
            server.Services.GetRequiredService<SettingStore>().Set(SettingStore.BeingRead, place);
            for (var i = 0; i < 3; i++)
                folder.Look(TestContext.Current.CancellationToken);
            (
                await File.ReadAllTextAsync(Path.Combine(drop, "refused", "bad.txt.why.txt"), TestContext.Current.CancellationToken)
            ).ShouldContain("ended while it was read");
            server.Services.GetRequiredService<SettingStore>().Get(SettingStore.BeingRead).ShouldBeNull();
        }
        finally
        {
            await PutAway(drop);
        }
    }

    [Fact]
    public async Task Each_hostile_file_in_the_drop_folder_is_set_aside_and_the_good_ones_come_in()
    {
        var drop = Directory.CreateTempSubdirectory("nachlass-drop-").FullName;
        var cancel = TestContext.Current.CancellationToken;
        try
        {
            await server.Send(HttpMethod.Put, "/api/drop-folder", new { folder = drop });
            foreach (var (name, content) in Deep.Append(("zz good.txt", "The bell of the drop folder\n"u8.ToArray())))
                await File.WriteAllBytesAsync(Path.Combine(drop, name), content, cancel);
            var folder = server.Services.GetRequiredService<DropFolder>();
            for (var i = 0; i < 100 && Directory.EnumerateFiles(drop).Any(); i++)
                folder.Look(cancel);
            Directory.EnumerateFiles(drop).ShouldBeEmpty();
            File.Exists(Path.Combine(drop, "taken", "zz good.txt")).ShouldBeTrue();
            foreach (var refused in Directory.EnumerateFiles(Path.Combine(drop, "refused"), "*.why.txt"))
                (await File.ReadAllTextAsync(refused, cancel)).Trim().Length.ShouldBeGreaterThan(10);
            // Started again with the same papers it finds nothing to stumble over.
            server.Services.GetRequiredService<SettingStore>().Get(SettingStore.BeingRead).ShouldBeNull();
            var again = ActivatorUtilities.CreateInstance<DropFolder>(server.Services);
            again.Look(cancel);
            again.Look(cancel);
            (await server.Get("/api/find?query=bell")).Body!.ToJsonString().ShouldContain("The bell of the drop folder");
            await IsWell();
        }
        finally
        {
            await PutAway(drop);
        }
    }

    /// <summary>The folder is let go of, and a look that may still be going on is waited for.</summary>
    private async Task PutAway(string drop)
    {
        await server.Send(HttpMethod.Put, "/api/drop-folder", new { folder = "" });
        server.Services.GetRequiredService<DropFolder>().Look(CancellationToken.None);
        Directory.Delete(drop, recursive: true);
    }

    [Fact]
    public async Task After_anything_came_in_the_papers_go_out_and_come_into_others_the_same()
    {
        var cancel = TestContext.Current.CancellationToken;
        using var full = new Server();
        using var files = new MultipartFormDataContent();
        foreach (var (name, content) in Good().Concat(Broken()).Append(("seven.txt", "A bell \u0007 and a NUL\n"u8.ToArray())))
            files.Add(new ByteArrayContent(content), "files", name);
        var (status, begun, _) = await full.Send(HttpMethod.Post, "/api/imports", files);
        status.ShouldBeInRange(200, 202, begun?.ToJsonString());
        var id = begun!["id"]!.GetValue<string>();
        await Phase(full, id, "ready");
        await full.Post($"/api/imports/{id}/run", new { });
        (await Phase(full, id, "done"))["counts"].ShouldNotBeNull();
        var zip = await full.Client.GetByteArrayAsync("/api/papers/export", cancel);
        using var other = new Server();
        using var whole = new ByteArrayContent(zip);
        whole.Headers.ContentType = new MediaTypeHeaderValue("application/zip");
        var (taken, told, _) = await other.Send(HttpMethod.Post, "/api/papers/import", whole);
        taken.ShouldBeInRange(200, 204, told?.ToJsonString());
        Entries(await other.Client.GetByteArrayAsync("/api/papers/export", cancel)).ShouldBe(Entries(zip));

        static List<string> Entries(byte[] zip)
        {
            using var archive = new ZipArchive(new MemoryStream(zip));
            return
            [
                .. archive.Entries.Select(e =>
                {
                    using var reader = new StreamReader(e.Open());
                    return $"{e.FullName}\n{reader.ReadToEnd()}";
                }),
            ];
        }
    }

    [Fact]
    public async Task A_key_with_other_words_is_refused_and_no_program_reads_the_writers_answers()
    {
        var key = ("Idempotency-Key", Guid.NewGuid().ToString());
        (await server.Post("/api/slips", new { text = "my own words" }, key)).Status.ShouldBe(201);
        (await server.Post("/api/slips", new { text = "my own words" }, key)).Status.ShouldBe(201);
        var (status, body, _) = await server.Post("/api/slips", new { text = "other words" }, key);
        (status, body!["field"]!.GetValue<string>()).ShouldBe((400, "Idempotency-Key"));

        var own = ("Idempotency-Key", Guid.NewGuid().ToString());
        await server.Post("/api/capture", new { text = "the writer's own" }, own);
        var secret = (await server.Post("/api/keys", new { name = "other" })).Body!["secret"]!.GetValue<string>();
        var (other, answer, _) = await server.Post(
            "/api/capture",
            new { text = "the writer's own" },
            own,
            ("Authorization", $"Bearer {secret}")
        );
        (other, answer!.ToJsonString().Contains("the writer's own", StringComparison.Ordinal)).ShouldBe((400, false));
    }

    [Fact]
    public async Task A_full_disk_is_said_by_every_door_and_changes_nothing()
    {
        using var full = new Server();
        var slip = await full.Catch("before");
        var piece = (await full.Post("/api/pieces", new { title = "P", format = "essay" })).Body!["number"]!.GetValue<int>();
        var papers = full.Services.GetRequiredService<PapersFile>();
        var pages = papers.Alone(db => db.ExecuteScalar<long>("PRAGMA page_count"));
        papers.Alone(db => db.Execute($"PRAGMA max_page_count = {pages}"));
        var large = new string('x', 400_000);
        foreach (
            var (method, address, body) in ((HttpMethod, string, object)[])
                [
                    (HttpMethod.Post, "/api/slips", new { text = large }),
                    (HttpMethod.Post, "/api/capture", new { text = large }),
                    (HttpMethod.Patch, $"/api/slips/{slip}", new { text = large, version = 1 }),
                    (HttpMethod.Post, "/api/sources", new { title = "S", summary = large }),
                    (HttpMethod.Put, $"/api/pieces/{piece}/draft", new { text = large, version = 2 }),
                ]
        )
        {
            var (status, problem, _) = await full.Send(method, address, body);
            (address, status).ShouldBe((address, 507), problem?.ToJsonString());
            problem!["detail"]!.GetValue<string>().ShouldContain("make room on the disk");
        }
        (await full.Get("/api/health")).Status.ShouldBe(200);
        (await full.Get($"/api/slips/{slip}")).Body!["text"]!.GetValue<string>().ShouldBe("before");
        papers.Alone(db => db.Execute("PRAGMA max_page_count = 1073741823"));
        (await full.Post("/api/slips", new { text = large })).Status.ShouldBe(201);
    }

    [Theory]
    [InlineData("192.0.2.7", "192.0.2.7", true)]
    [InlineData("192.0.2.7", "192.0.2.8", false)]
    [InlineData("2001:db8:1:2::1", "2001:db8:1:2:ffff::9", true)]
    [InlineData("2001:db8:1:2::1", "2001:db8:1:3::1", false)]
    [InlineData("::ffff:192.0.2.7", "192.0.2.7", true)]
    public void Who_guesses_is_an_address_or_a_whole_network(string one, string other, bool same) =>
        (Doorkeeper.Network(IPAddress.Parse(one)) == Doorkeeper.Network(IPAddress.Parse(other))).ShouldBe(same);

    [Fact]
    public async Task Signs_that_steer_machines_stay_outside_by_every_door()
    {
        (await server.Post("/api/slips", new { text = "a\0b\u0007c" })).Body!["text"]!.GetValue<string>().ShouldBe("abc");
        using var half = new StringContent("{\"text\":\"x\\ud83d\"}", new MediaTypeHeaderValue("application/json"));
        (await server.Send(HttpMethod.Post, "/api/slips", half)).Status.ShouldBe(400);
        using var parcel = new MultipartFormDataContent
        {
            { new ByteArrayContent([.. "---\ntopics: [x]\n---\n\na"u8, .. "\u0001b"u8]), "files", "note.md" },
        };
        var (_, begun, _) = await server.Send(HttpMethod.Post, "/api/imports", parcel);
        var id = begun!["id"]!.GetValue<string>();
        await Phase(id, "ready");
        await server.Post($"/api/imports/{id}/run", new { });
        await Phase(id, "done");
        await using var zip = await server.Client.GetStreamAsync("/api/papers/export", TestContext.Current.CancellationToken);
        using var memory = new MemoryStream();
        await zip.CopyToAsync(memory, TestContext.Current.CancellationToken);
        memory.Position = 0;
        Exchange.Papers.PapersZip.Read(memory, _ => "").Slips.ShouldNotBeEmpty();
    }

    private Task<JsonNode> Phase(string id, string phase) => Phase(server, id, phase);

    private static async Task<JsonNode> Phase(Server server, string id, string phase)
    {
        for (var i = 0; i < 1_200; i++)
        {
            var state = (await server.Get($"/api/imports/{id}")).Body!;
            if (state["phase"]!.GetValue<string>() == phase)
                return state;
            await Task.Delay(50, TestContext.Current.CancellationToken);
        }
        throw new TimeoutException($"the import is not {phase}");
    }
}
