using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;
using Microsoft.Extensions.DependencyInjection;
using Nachlass.Core.Capture;
using Nachlass.Standins.Capture;
using Nachlass.Store.Capture;
using Nachlass.Web.Capture;

namespace Nachlass.Web.Tests;

public sealed class ImportsTests : IDisposable
{
    private readonly Server server = new();

    public void Dispose() => server.Dispose();

    private static MultipartFormDataContent Form(params (string Name, string Content)[] files)
    {
        var form = new MultipartFormDataContent();
        foreach (var (name, content) in files)
            form.Add(new ByteArrayContent(Encoding.UTF8.GetBytes(content)), "files", Uri.EscapeDataString(name));
        return form;
    }

    private async Task<JsonNode> Begin(params (string Name, string Content)[] files)
    {
        var (status, body, _) = await server.Send(HttpMethod.Post, "/api/imports", Form(files));
        status.ShouldBe(200, body?.ToString());
        return await Until(body!["id"]!.GetValue<string>(), "ready", "failed");
    }

    private async Task<JsonNode> Until(string id, params string[] phases)
    {
        for (var tries = 0; tries < 400; tries++)
        {
            var (_, body, _) = await server.Get($"/api/imports/{id}");
            if (phases.Contains(body!["phase"]!.GetValue<string>()))
                return body;
            await Task.Delay(25, TestContext.Current.CancellationToken);
        }
        throw new TimeoutException($"The import never came to be {string.Join(" or ", phases)}.");
    }

    private static string Id(JsonNode state) => state["id"]!.GetValue<string>();

    private async Task<JsonNode> Run(JsonNode state)
    {
        await server.Post($"/api/imports/{Id(state)}/run", new { });
        return await Until(Id(state), "done", "failed", "stopped");
    }

    [Fact]
    public async Task A_folder_is_looked_through_shown_and_brought_in_as_one_step()
    {
        var state = await Begin(("notes/one.md", "# One\n\n#bells"), ("notes/list.txt", "two\nthree?"), ("notes/odd.xyz", "\0\0"));
        state["files"]!.AsArray().Select(f => f!["format"]?.GetValue<string>()).ShouldBe(["Markdown", "List, one slip a line", null]);
        state["counts"]!["slips"]!.GetValue<int>().ShouldBe(3);
        state["unread"]!.AsArray().ShouldHaveSingleItem()!["file"]!.GetValue<string>().ShouldBe("notes/odd.xyz");
        state["firsts"]!.AsArray().ShouldHaveSingleItem()!["title"]!.GetValue<string>().ShouldBe("One");
        (await server.Get("/api/tally")).Body!["sift"]!.GetValue<int>().ShouldBe(0);

        var done = await Run(state);
        done["phase"]!.GetValue<string>().ShouldBe("done", done.ToString());
        (await server.Get("/api/tally")).Body!["sift"]!.GetValue<int>().ShouldBe(3);
        (await Run(state))["command"]!.GetValue<int>().ShouldBe(done["command"]!.GetValue<int>());

        (await server.Post($"/api/commands/{done["command"]}/undo", new { })).Status.ShouldBe(200);
        (await server.Get("/api/tally")).Body!["sift"]!.GetValue<int>().ShouldBe(0);
        (await Run(await Begin(("list.txt", "two\nthree?"))))["counts"]!["slips"]!.GetValue<int>().ShouldBe(2);
        (await Begin(("list.txt", "two\nfour")))["counts"]!.ShouldSatisfyAllConditions(
            c => c["slips"]!.GetValue<int>().ShouldBe(1),
            c => c["known"]!.GetValue<int>().ShouldBe(1)
        );
    }

    [Fact]
    public async Task Columns_are_set_remembered_and_bad_rows_saved_to_mend()
    {
        const string table = "what,who,n\nThe bell rang,Pell,3\nno,end\n";
        var state = await Begin(("t.csv", table));
        var (_, changed, _) = await server.Send(
            HttpMethod.Put,
            $"/api/imports/{Id(state)}/reading",
            new
            {
                tables = new Dictionary<string, object>
                {
                    [state["files"]![0]!["table"]!.GetValue<string>()] = new
                    {
                        what = "comment",
                        who = "text",
                        n = "pull",
                    },
                },
            }
        );
        changed!["phase"]!.GetValue<string>().ShouldBe("looking");
        state = await Until(Id(state), "ready");
        state["firsts"]![0]!["text"]!.GetValue<string>().ShouldBe("Pell\n\nThe bell rang");
        var unread = await server.Client.GetStringAsync($"/api/imports/{Id(state)}/unread", TestContext.Current.CancellationToken);
        unread.ShouldBe("what,who,n\nno,end\n");
        await Run(state);
        var again = await Begin(("other.csv", table.Replace("rang", "fell")));
        again["reading"]!["tables"]![again["files"]![0]!["table"]!.GetValue<string>()]!["who"]!.GetValue<string>().ShouldBe("text");
        (await server.Get("/api/slips/1")).Body!["pull"]!.GetValue<int>().ShouldBe(3);
    }

    [Fact]
    public async Task Kind_topics_and_pile_are_said_for_all_at_once_and_past_imports_are_listed()
    {
        var state = await Begin(
            ("readers.csv", "sender,channel,date,message\nAda,letter,2026-11-02,Tell of the weir\nBo,letter,2026-11-03,And eels\n")
        );
        var reading = new
        {
            tables = state["reading"]!["tables"],
            kind = "ask",
            topics = new[] { "#weir" },
            pile = "Letters, autumn",
        };
        (await server.Send(HttpMethod.Put, $"/api/imports/{Id(state)}/reading", reading)).Status.ShouldBe(200);
        state = await Until(Id(state), "ready");
        state["counts"]!["topics"]!.GetValue<int>().ShouldBe(1);
        state["firsts"]![0]!["note"]!.GetValue<string>().ShouldBe("ask");
        await Run(state);
        var slip = (await server.Get("/api/slips/2/opened")).Body!;
        slip["slip"]!.ShouldSatisfyAllConditions(
            s => s["kind"]!.GetValue<string>().ShouldBe("ask"),
            s => s["topics"]![0]!["name"]!.GetValue<string>().ShouldBe("weir"),
            s => s["originNote"]!.GetValue<string>().ShouldBe("Letters, autumn")
        );
        slip["sourceBy"]!.GetValue<string>().ShouldBe("letter, 3 Nov 2026");
        var pile = (await server.Get("/api/sift?from=Letters%2C%20autumn")).Body!;
        pile["waiting"]!.GetValue<int>().ShouldBe(2);
        var past = (await server.Get("/api/imports")).Body!.AsArray().ShouldHaveSingleItem()!;
        past["what"]!.GetValue<string>().ShouldContain("readers.csv");
        var bad = await Begin(("x.txt", "one"));
        var refused = await server.Send(HttpMethod.Put, $"/api/imports/{Id(bad)}/reading", new { topics = new[] { "  " } });
        (refused.Status, refused.Body!["field"]!.GetValue<string>()).ShouldBe((400, "topics"));
    }

    [Fact]
    public async Task A_hostile_file_is_refused_and_brings_in_nothing()
    {
        var state = await Begin(("bomb.opml", "<!DOCTYPE a [<!ENTITY b \"c\">]><opml><body/></opml>"));
        state["phase"]!.GetValue<string>().ShouldBe("failed");
        state["problem"]!
            .GetValue<string>()
            .ShouldSatisfyAllConditions(p => p.ShouldContain("document type"), p => p.ShouldContain("Nothing was brought in"));
        (await server.Post($"/api/imports/{Id(state)}/run", new { })).Status.ShouldBe(409);
        var (status, body, _) = await server.Send(HttpMethod.Post, "/api/imports", Form(("../../x.txt", "x")));
        (status, body!["detail"]!.GetValue<string>().Contains("leads out", StringComparison.Ordinal)).ShouldBe((400, true));
        Directory.EnumerateDirectories(Path.Combine(server.Folder, "incoming")).Count().ShouldBe(1);
        (await server.Send(HttpMethod.Delete, $"/api/imports/{Id(state)}")).Status.ShouldBe(200);
        Directory.EnumerateDirectories(Path.Combine(server.Folder, "incoming")).ShouldBeEmpty();
        (await server.Get($"/api/imports/{Id(state)}")).Status.ShouldBe(404);
        (await server.Post("/api/imports", new { })).Body!["field"]!.GetValue<string>().ShouldBe("Content-Type");
    }

    [Fact]
    public async Task A_running_import_can_be_stopped_and_leaves_nothing()
    {
        var lines = string.Concat(Enumerable.Range(0, 20_000).Select(i => $"idea number {i}\n"));
        // Where this test is kept waiting by the machine, an import may be done before it is told to stop.
        for (var attempt = 0; ; attempt++)
        {
            var (slips, commands) = await Held();
            var id = Id(await Begin(($"long {attempt}.txt", lines)));
            await server.Post($"/api/imports/{id}/run", new { });
            var told = (await server.Send(HttpMethod.Delete, $"/api/imports/{id}")).Body!["phase"]!.GetValue<string>();
            if (told == "done" && attempt < 4)
                continue;
            told.ShouldBe("stopped");
            (await Until(id, "stopped", "done"))["phase"]!.GetValue<string>().ShouldBe("stopped");
            (await Held()).ShouldBe((slips, commands));
            return;
        }

        async Task<(int Slips, int Commands)> Held() =>
            ((await server.Get("/api/tally")).Body!["sift"]!.GetValue<int>(), (await server.Get("/api/commands")).Body!.AsArray().Count);
    }

    [Theory]
    [InlineData("/api/exports/slips.csv", "The bell rang", "slips.csv")]
    [InlineData("/api/exports/slips.json", "The bell rang", "slips.json")]
    [InlineData("/api/exports/slips.opml", "The bell rang", "slips.opml")]
    [InlineData("/api/exports/slips.txt", "- The bell rang", "slips.txt")]
    [InlineData("/api/exports/sources.bib", "@book{source1", "sources.bib")]
    [InlineData("/api/exports/sources.ris", "TY  - BOOK", "sources.ris")]
    [InlineData("/api/exports/sources.json", "\"type\": \"book\"", "sources.csl.json")]
    [InlineData("/api/exports/sources.html", "NETSCAPE", "bookmarks.html")]
    [InlineData("/api/exports/calendar.ics", "SUMMARY:ask Pell", "occasions and moves.ics")]
    public async Task Things_go_out_in_the_same_formats(string address, string holds, string name)
    {
        await server.Catch("The bell rang");
        await server.Post("/api/sources", new { title = "Bells" });
        await server.Post("/api/capture", new { text = "- [ ] ask Pell" });
        var response = await server.Client.GetAsync(address, TestContext.Current.CancellationToken);
        (await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldContain(holds);
        response.Content.Headers.ContentDisposition!.FileName!.Trim('"').ShouldBe(name);
        (await server.Get("/api/exports/slips.xyz")).Status.ShouldBe(404);
    }

    [Fact]
    public async Task A_clip_comes_in_by_its_key_once_and_nothing_is_fetched()
    {
        var secret = (await server.Post("/api/keys", new { name = "browser" })).Body!["secret"]!.GetValue<string>();
        var page = new
        {
            address = "https://walkers.example/bells#x",
            title = "Bells",
            selection = "woke the near bank",
            html = "<html><body><article><h1>Bells</h1>"
                + string.Concat(
                    Enumerable
                        .Range(0, 20)
                        .Select(i =>
                            $"<p>The bell on the far bank woke the near bank, sentence {i} of a page that is long enough to be read "
                            + "as one.</p>"
                        )
                )
                + "</article></body></html>",
        };
        var (status, body, _) = await server.Post("/api/clips", page, ("Authorization", "Bearer " + secret), ("Idempotency-Key", "k1"));
        (status, body!["isNew"]!.GetValue<bool>(), body["passage"]!.GetValue<bool>()).ShouldBe((200, true, true), body.ToString());
        body["words"]!.GetValue<int>().ShouldBeGreaterThan(100);
        (await server.Post("/api/clips", page, ("Authorization", "Bearer " + secret))).Body!.ShouldSatisfyAllConditions(
            b => b["isNew"]!.GetValue<bool>().ShouldBeFalse(),
            b => b["passage"]!.GetValue<bool>().ShouldBeFalse()
        );
        var opened = (await server.Get("/api/sources/1/opened")).Body!;
        opened["places"]!["1"]!.GetValue<string>().ShouldBe("https://walkers.example/bells#:~:text=woke%20the%20near%20bank");
        opened["passages"]![0]!.ShouldSatisfyAllConditions(
            p => p["origin"]!.GetValue<string>().ShouldBe("clip"),
            p => p["originNote"]!.GetValue<string>().ShouldBe("browser")
        );
        (await server.Post("/api/clips", page, ("Authorization", "Bearer nonsense"))).Status.ShouldBe(401);
        (await server.Post("/api/clips", page, ("Origin", "https://walkers.example"))).Status.ShouldBe(403);
        (await server.Post("/api/clips", new { address = "file:///x" }, ("Authorization", "Bearer " + secret))).Body!["field"]!
            .GetValue<string>()
            .ShouldBe("address");
    }

    [Fact]
    public async Task A_page_clipped_without_a_selection_waits_by_its_name_and_a_short_one_keeps_its_words()
    {
        var (status, clipped, _) = await server.Post(
            "/api/clips",
            new
            {
                address = "https://walkers.example/short",
                title = "The *short* page",
                html = "<html><head><title>The *short* page</title></head><body><form><p>Only two words.</p></form></body></html>",
            }
        );
        (status, clipped!["passage"]!.GetValue<bool>()).ShouldBe((200, false), clipped.ToJsonString());
        var opened = (await server.Get($"/api/sources/{clipped["source"]}/opened")).Body!;
        opened["source"]!["text"]!.GetValue<string>().ShouldBe("Only two words.");
        opened["passages"]![0]!.ShouldSatisfyAllConditions(
            p => p["text"]!.GetValue<string>().ShouldBe("The \\*short\\* page"),
            p => p["state"]!.GetValue<string>().ShouldBe("waiting")
        );
    }

    [Fact]
    public async Task A_finished_page_holds_its_pictures_and_asks_no_other_host()
    {
        var piece = (await server.Post("/api/pieces", new { title = "The far bank", format = "essay" })).Body!["number"]!.GetValue<int>();
        byte[] content = [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A, 1, 2, 3];
        var (made, picture, _) = await server.Send(
            HttpMethod.Post,
            $"/api/attachments/piece/{piece}?name=the%20column.png",
            new ByteArrayContent(content)
        );
        made.ShouldBe(201, picture?.ToJsonString());
        await server.Send(
            HttpMethod.Put,
            $"/api/pieces/{piece}/draft",
            new
            {
                version = 2,
                text = "It is here: ![the column](pictures/the%20column.png), again ![](/api/attachments/"
                    + $"{picture!["number"]}/content), elsewhere ![the toll](https://other.example/toll.png) and ![](gone.png).",
            }
        );
        foreach (var fragment in (string[])["", "&fragment=true"])
        {
            var page = (await server.Get($"/api/pieces/{piece}/export?as=html{fragment}")).Body!.GetValue<string>();
            var inside = "data:image/png;base64," + Convert.ToBase64String(content);
            page.Split(inside).Length.ShouldBe(3);
            page.ShouldContain("elsewhere [the toll] and .");
            page.ShouldNotContain("other.example");
        }
    }

    [Fact]
    public async Task Files_are_attached_shown_and_never_run()
    {
        var slip = await server.Catch("one");
        var png = new ByteArrayContent([0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A, 1, 2, 3, 4, 5, 6, 7, 8]);
        var (status, picture, _) = await server.Send(HttpMethod.Post, $"/api/attachments/slip/{slip}?name=a%20b.png&why=proof", png);
        (status, picture!["isPicture"]!.GetValue<bool>(), picture["name"]!.GetValue<string>()).ShouldBe((201, true, "a b.png"));
        var page = (
            await server.Send(HttpMethod.Post, $"/api/attachments/slip/{slip}?name=evil.html", new StringContent("<script>x</script>"))
        ).Body!;
        var shown = await server.Client.GetAsync($"/api/attachments/{picture["number"]}/content", TestContext.Current.CancellationToken);
        shown.Content.Headers.ContentType!.MediaType.ShouldBe("image/png");
        var given = await server.Client.GetAsync($"/api/attachments/{page["number"]}/content", TestContext.Current.CancellationToken);
        given.Content.Headers.ContentType!.MediaType.ShouldBe("application/octet-stream");
        given.Content.Headers.ContentDisposition!.DispositionType.ShouldBe("attachment");
        given.Headers.GetValues("Content-Security-Policy").Single().ShouldContain("sandbox");
        (await server.Send(HttpMethod.Patch, $"/api/attachments/{picture["number"]}", new { why = "the proof", version = 1 })).Body!["why"]!
            .GetValue<string>()
            .ShouldBe("the proof");
        (await server.Send(HttpMethod.Delete, $"/api/attachments/{page["number"]}")).Status.ShouldBe(200);
        (await server.Get($"/api/attachments/slip/{slip}")).Body!.AsArray().Count.ShouldBe(1);
        (await server.Send(HttpMethod.Post, "/api/attachments/slip/99?name=a", new StringContent("x"))).Status.ShouldBe(404);
    }

    [Fact]
    public async Task A_watched_feed_brings_what_is_new_once_and_asks_only_for_that()
    {
        await using var feed = await FeedServer.Start(
            0,
            TimeProvider.System,
            "Notices",
            [new Notice("Steps closed", "<p>Until March.</p>", -3, "ferries"), new Notice("Is this your clapper?", "<p>Nine kilos.</p>", 1)]
        );
        var watched = (await server.Post("/api/feeds", new { address = feed.Address + "notices.rss", minutes = 60 })).Body!;
        var store = server.Services.GetRequiredService<FeedStore>();
        var watch = server.Services.GetRequiredService<FeedWatch>();
        // The watch may have asked by itself already; asking again gives only what is new since.
        var slips = 0;
        for (var tries = 0; slips < 2 && tries < 200; tries++)
        {
            await watch.Ask(store.List().Single(), TestContext.Current.CancellationToken);
            slips = (await server.Get("/api/tally")).Body!["sift"]!.GetValue<int>();
            await Task.Delay(50, TestContext.Current.CancellationToken);
        }
        slips.ShouldBe(2);
        // Which of the two came first depends on when the watch asked.
        var slip = (await server.Get("/api/slips?query=steps")).Body!["items"]![0]!;
        (
            slip["origin"]!.GetValue<string>(),
            slip["originNote"]!.GetValue<string>(),
            slip["topics"]![0]!["name"]!.GetValue<string>()
        ).ShouldBe(("feed", "Notices", "ferries"));
        var commands = (await server.Get("/api/commands")).Body!.AsArray().Count;
        (await server.Post($"/api/feeds/{watched["number"]}/asking", new { })).Body!["slips"]!.GetValue<int>().ShouldBe(0);
        (await server.Get("/api/commands")).Body!.AsArray().Count.ShouldBe(commands);
        (await server.Get("/api/feeds")).Body![0]!["title"]!.GetValue<string>().ShouldBe("Notices");
    }

    [Fact]
    public async Task A_feed_that_fails_says_so_and_is_asked_again()
    {
        var gone = new Uri("http://127.0.0.1:9/feed");
        await server.Post("/api/feeds", new { address = gone.ToString(), minutes = 60 });
        await server.Post("/api/feeds/1/asking", new { });
        (await server.Get("/api/feeds")).Body![0]!["problem"]!.GetValue<string>().ShouldNotBeEmpty();
        (await server.Post("/api/feeds", new { address = "https://news.example/feed" })).Body!["field"]!
            .GetValue<string>()
            .ShouldBe("address");
    }

    [Fact]
    public async Task The_drop_folder_takes_refuses_and_waits()
    {
        var drop = Directory.CreateTempSubdirectory("nachlass-drop-").FullName;
        try
        {
            var folder = server.Services.GetRequiredService<DropFolder>();
            void Look() => folder.Look(TestContext.Current.CancellationToken);
            (await server.Send(HttpMethod.Put, "/api/drop-folder", new { folder = drop })).Body!["folder"]!
                .GetValue<string>()
                .ShouldBe(drop);
            await File.WriteAllTextAsync(Path.Combine(drop, "train.txt"), "One idea\n", TestContext.Current.CancellationToken);
            await File.WriteAllTextAsync(Path.Combine(drop, "bad.pdf"), "%PDF- no", TestContext.Current.CancellationToken);
            await using (var held = new FileStream(Path.Combine(drop, "half.txt"), FileMode.Create, FileAccess.Write, FileShare.None))
            {
                held.Write("Half of a"u8);
                held.Flush();
                for (var i = 0; i < 3; i++)
                    Look();
                File.Exists(Path.Combine(drop, "half.txt")).ShouldBeTrue();
            }
            for (var i = 0; i < 3; i++)
                Look();
            Directory.EnumerateFiles(drop).ShouldBeEmpty();
            Directory
                .EnumerateFiles(Path.Combine(drop, "taken"))
                .Select(Path.GetFileName)
                .ShouldBe(["train.txt", "half.txt"], ignoreOrder: true);
            (
                await File.ReadAllTextAsync(Path.Combine(drop, "refused", "bad.pdf.why.txt"), TestContext.Current.CancellationToken)
            ).ShouldContain("no readable PDF");
            File.Exists(Path.Combine(drop, "refused", "bad.pdf")).ShouldBeTrue();
            (await server.Get("/api/slips?state=waiting")).Body!["items"]!
                .AsArray()
                .Select(s => s!["text"]!.GetValue<string>())
                .ShouldBe(["One idea", "Half of a"], ignoreOrder: true);

            // The same again, under another name: known, and only moved.
            File.Copy(Path.Combine(drop, "taken", "train.txt"), Path.Combine(drop, "again.txt"));
            for (var i = 0; i < 3; i++)
                Look();
            (await server.Get("/api/tally")).Body!["sift"]!.GetValue<int>().ShouldBe(2);
            File.Exists(Path.Combine(drop, "taken", "again.txt")).ShouldBeTrue();
            (await server.Get("/api/drop-folder")).Body!["last"]!.AsArray().Count.ShouldBe(4);
            (await server.Send(HttpMethod.Put, "/api/drop-folder", new { folder = "" })).Body!["folder"].ShouldBeNull();
            (await server.Send(HttpMethod.Put, "/api/drop-folder", new { folder = server.Folder })).Body!["field"]!
                .GetValue<string>()
                .ShouldBe("folder");
            (await server.Send(HttpMethod.Put, "/api/drop-folder", new { folder = "drop" })).Status.ShouldBe(400);
        }
        finally
        {
            server.Services.GetRequiredService<DropFolder>().Look(CancellationToken.None);
            Directory.Delete(drop, recursive: true);
        }
    }

    [Fact]
    public async Task A_transcript_is_taken_in_and_its_bad_lines_named()
    {
        await server.Post("/api/sources", new { title = "Second sitting" });
        var (status, body, _) = await server.Send(
            HttpMethod.Put,
            "/api/sources/1/transcript",
            new { text = "WEBVTT\n\n00:01.000 --> 00:03.000\n<v Pell>Over.\n\n00:09.000 --> 00:05.000\nx\n" }
        );
        (status, body!["lines"]!.GetValue<int>(), body["unread"]![0]!["line"]!.GetValue<int>()).ShouldBe((200, 1, 6));
        (await server.Post("/api/sources/1/transcript/passages", new { first = 1, last = 1 })).Body!["locator"]!
            .GetValue<string>()
            .ShouldBe("0:01–0:03");
        (await server.Get("/api/find?query=over")).Body!["hits"]!
            .AsArray()
            .Any(h => h!["address"]!.GetValue<string>() == "/library/source/1?at=1")
            .ShouldBeTrue();
        (await server.Client.GetStringAsync("/api/exports/transcripts/1.srt", TestContext.Current.CancellationToken)).ShouldContain(
            "00:00:01,000 --> 00:00:03,000"
        );
        (await server.Send(HttpMethod.Put, "/api/sources/1/transcript", new { text = "no times" })).Body!["field"]!
            .GetValue<string>()
            .ShouldBe("transcript");
    }
}
