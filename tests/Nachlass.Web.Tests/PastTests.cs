using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;

namespace Nachlass.Web.Tests;

/// <summary>The past comes in from feeds, mailboxes, tables and folders of Markdown, matched and never doubled.</summary>
public sealed class PastTests : IDisposable
{
    private readonly Server server = new();

    public void Dispose() => server.Dispose();

    private async Task<(int Status, JsonNode Answer)> BringIn(string query, params (string Name, string Content)[] files)
    {
        using var form = new MultipartFormDataContent();
        foreach (var (name, content) in files)
        {
            var part = new ByteArrayContent(Encoding.UTF8.GetBytes(content));
            part.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
            form.Add(part, "files", name);
        }
        var (status, answer, _) = await server.Send(HttpMethod.Post, "/api/releases/import" + query, form);
        return (status, answer!);
    }

    private static (int, int, int) Counts(JsonNode answer) =>
        (answer["releases"]!.GetValue<int>(), answer["matched"]!.GetValue<int>(), answer["there"]!.GetValue<int>());

    private async Task<IReadOnlyList<JsonNode>> Releases() => [.. (await server.Get("/api/releases")).Body!.AsArray().Select(r => r!)];

    private const string Rss = """
        <?xml version="1.0"?>
        <rss version="2.0"><channel><title>Low Water</title>
        <item><title>The third bell</title><link>https://low-water.example/3</link><pubDate>Thu, 05 Mar 2026 07:00:00 GMT</pubDate>
        <category>bells</category><description>&lt;p&gt;It hung on the &lt;b&gt;wrong&lt;/b&gt; bank.&lt;/p&gt;</description></item>
        <item><title>A rope is a promise</title><link>https://low-water.example/4</link><pubDate>Thu, 19 Mar 2026 07:00:00 GMT</pubDate>
        <description>It was spliced twice.</description></item>
        </channel></rss>
        """;

    private const string Atom = """
        <feed xmlns="http://www.w3.org/2005/Atom"><title>Low Water</title><id>urn:x</id><updated>2026-04-02T07:00:00Z</updated>
        <entry><title>The third bell</title><id>urn:3</id><link href="https://low-water.example/3"/>
        <published>2026-03-05T07:00:00Z</published>
        <updated>2026-03-05T07:00:00Z</updated><content type="html">&lt;p&gt;It hung on the wrong bank.&lt;/p&gt;</content></entry>
        <entry><title>Nineteen or eighteen</title><id>urn:5</id><link href="https://low-water.example/5"/>
        <published>2026-04-02T07:00:00Z</published>
        <updated>2026-04-02T07:00:00Z</updated><content type="html">&lt;p&gt;Loaves.&lt;/p&gt;</content></entry></feed>
        """;

    [Fact]
    public async Task A_feed_comes_in_once_and_what_another_feed_says_again_is_there()
    {
        var outlet = (await server.Post("/api/outlets", new { name = "Low Water", formats = (string[])["essay"] })).Body!["number"]!;
        var (status, answer) = await BringIn($"?outlet={outlet}", ("feed.rss", Rss));
        status.ShouldBe(200, answer.ToString());
        Counts(answer).ShouldBe((2, 0, 0));
        Counts((await BringIn($"?outlet={outlet}", ("feed.rss", Rss))).Answer).ShouldBe((0, 0, 2));
        Counts((await BringIn($"?outlet={outlet}", ("feed.atom", Atom))).Answer).ShouldBe((1, 0, 1));

        var releases = await Releases();
        releases.Select(r => r["title"]!.ToString()).ShouldBe(["Nineteen or eighteen", "A rope is a promise", "The third bell"]);
        var bell = (await server.Get($"/api/releases/{releases[2]["number"]}")).Body!;
        (bell["outOn"]!.ToString(), bell["address"]!.ToString(), bell["way"]!.ToString(), bell["text"]!.ToString()).ShouldBe(
            ("2026-03-05", "https://low-water.example/3", "broughtIn", "It hung on the **wrong** bank.")
        );
        var piece = (await server.Get($"/api/pieces/{bell["piece"]}")).Body!;
        (piece["stage"]!.ToString(), piece["format"]!.ToString(), piece["topics"]![0]!["name"]!.ToString()).ShouldBe(
            ("Out", "essay", "bells")
        );
        // It is asked for like all that went out.
        (await server.Get("/api/catalogue/mentions?query=spliced%20twice"))
            .Body!.ToJsonString()
            .ShouldContain("It was spliced twice.");
    }

    [Fact]
    public async Task What_is_of_a_piece_that_is_here_is_matched_with_it_and_two_of_one_name_are_not_guessed_at()
    {
        var here = (await server.Post("/api/pieces", new { title = "The third bell", format = "essay" })).Body!["number"]!.GetValue<int>();
        foreach (var _ in (int[])[1, 2])
            await server.Post("/api/pieces", new { title = "A rope is a promise", format = "essay" });
        Counts((await BringIn("", ("feed.rss", Rss))).Answer).ShouldBe((2, 1, 0));
        var releases = await Releases();
        releases.Single(r => r["title"]!.ToString() == "The third bell")["piece"]!.GetValue<int>().ShouldBe(here);
        releases.Single(r => r["title"]!.ToString() == "A rope is a promise")["piece"]!.GetValue<int>().ShouldBeGreaterThan(here + 2);
        (await server.Get($"/api/pieces/{here}")).Body!["outOn"]!.ToString().ShouldBe("2026-03-05");
    }

    [Fact]
    public async Task A_table_a_mailbox_and_a_folder_of_Markdown_come_in_and_what_has_no_date_is_said()
    {
        const string table = "title,date,address,text\nThe bell,2025-01-02,https://x.example/1,\"It rang.\"\nUndated,,,Words\n";
        const string mail =
            "From ada Thu Jan  1 00:00:00 2026\nFrom: Ada <ada@x.example>\nTo: all@x.example\nSubject: Letter nine\n"
            + "Date: Thu, 06 Feb 2025 08:00:00 +0000\nMessage-ID: <9@x.example>\n\nThe river is up.\n";
        const string page = "---\ntitle: On weirs\ndate: 2025-03-04\ntags: [weirs]\n---\n\n# On weirs\n\nA weir is for millers.\n";
        var (status, answer) = await BringIn(
            "?format=essay",
            ("past.csv", table),
            ("letters.mbox", mail),
            ("posts/weirs.md", page),
            ("posts/none.md", "Hm.")
        );
        status.ShouldBe(200, answer.ToString());
        Counts(answer).ShouldBe((3, 0, 0));
        answer["unread"]!
            .AsArray()
            .Select(u => u!.ToString())
            .ShouldBe(
                [
                    "past.csv, line 3: “Undated” has no date that can be read.",
                    "posts/none.md, line 1: “none” has no date that can be read.",
                ],
                ignoreOrder: true
            );
        var texts = new List<string>();
        foreach (var release in await Releases())
            texts.Add($"{release["outOn"]} {release["title"]}: {(await server.Get($"/api/releases/{release["number"]}")).Body!["text"]}");
        texts.ShouldBe([
            "2025-03-04 On weirs: A weir is for millers.",
            "2025-02-06 Letter nine: The river is up.",
            "2025-01-02 The bell: It rang.",
        ]);
    }

    [Fact]
    public async Task What_cannot_be_read_changes_nothing_and_all_of_it_is_one_step_back()
    {
        var (status, answer) = await BringIn("", ("notes.txt", "just words\nmore words"));
        status.ShouldBe(400);
        answer["field"]!.ToString().ShouldBe("files");
        using var form = new MultipartFormDataContent { { new StringContent(Rss), "files", "feed.rss" } };
        var (_, _, response) = await server.Send(HttpMethod.Post, "/api/releases/import", form);
        var command = response.Headers.GetValues("Nachlass-Command").Single();
        (await server.Post($"/api/commands/{command}/undo", new { })).Status.ShouldBe(200);
        (await Releases()).ShouldBeEmpty();
        (await server.Get("/api/pieces")).Body!.ToJsonString().ShouldNotContain("third bell");
    }
}
