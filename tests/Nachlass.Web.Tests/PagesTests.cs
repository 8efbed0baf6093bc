using System.IO.Compression;
using System.Net;
using System.Text.Json.Nodes;
using System.Xml.Linq;
using AngleSharp.Html.Parser;
using Microsoft.Extensions.DependencyInjection;
using Nachlass.Web.Catalogue.Pages;
using SkiaSharp;

namespace Nachlass.Web.Tests;

/// <summary>Pages of one's own are read over a server of their own, from which nothing leads to the desk.</summary>
public sealed class PagesTests : IDisposable
{
    private const string Browser = "Mozilla/5.0 (X11; Linux x86_64) A browser";
    private readonly Server server = new();
    private readonly HttpClient reader;

    public PagesTests()
    {
        reader = new HttpClient(new HttpClientHandler { AllowAutoRedirect = false, CookieContainer = new CookieContainer() })
        {
            BaseAddress = Site.Listens,
        };
        reader.DefaultRequestHeaders.UserAgent.ParseAdd(Browser);
    }

    private PublicSite Site => server.Services.GetRequiredService<PublicSite>();

    public void Dispose()
    {
        reader.Dispose();
        server.Dispose();
    }

    private async Task<JsonNode> Post(string path, object body)
    {
        var (status, answer, _) = await server.Post(path, body);
        status.ShouldBeOneOf([200, 201], answer?.ToString());
        return answer!;
    }

    private async Task<int> Piece(string title, string text)
    {
        var piece = (await Post("/api/pieces", new { title, format = "essay" }))["number"]!.GetValue<int>();
        var version = (await server.Get($"/api/pieces/{piece}/draft")).Body!["version"]!.GetValue<int>();
        (await server.Send(HttpMethod.Put, $"/api/pieces/{piece}/draft", new { text, version })).Status.ShouldBe(200);
        return piece;
    }

    private async Task<(int Status, string Text, HttpResponseMessage Response)> Read(string path, string? tag = null)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, path);
        if (tag is not null)
            request.Headers.TryAddWithoutValidation("If-None-Match", tag);
        var response = await reader.SendAsync(request, TestContext.Current.CancellationToken);
        return ((int)response.StatusCode, await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken), response);
    }

    private async Task<(int Status, string Text)> Send(string path, params (string, string)[] fields)
    {
        using var form = new FormUrlEncodedContent(fields.Select(f => new KeyValuePair<string, string>(f.Item1, f.Item2)));
        var response = await reader.PostAsync(new Uri(path, UriKind.Relative), form, TestContext.Current.CancellationToken);
        return ((int)response.StatusCode, await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken));
    }

    private static string Mark(string html) =>
        new HtmlParser().ParseDocument(html).QuerySelector("input[name=mark]")!.GetAttribute("value")!;

    private async Task<JsonNode> Only() => (await server.Get("/api/pages")).Body!.AsArray().ShouldHaveSingleItem()!;

    [Fact]
    public async Task A_page_reads_as_written_with_contents_notes_links_and_what_others_need_to_know_of_it()
    {
        var other = await Piece("The other bank", "Other words.");
        var piece = await Piece(
            "The third bell",
            $"## One & two\n\nIt rang.[^1] As [[P {other}]] says. <script>alert(1)</script>\n\n"
                + "## Two\n\nMore.\n\n## Three\n\nEnd.\n\n[^1]: Twice."
        );
        await Post("/api/pages", new { piece = other });
        await Post("/api/pages", new { piece, summary = "A bell, \"heard\"." });

        (await Read("/the-third-bell")).Response.Headers.Location!.ToString().ShouldBe("/the-third-bell/");
        var (status, html, response) = await Read("/the-third-bell/");
        status.ShouldBe(200);
        var page = new HtmlParser().ParseDocument(html);
        page.Title.ShouldBe("The third bell · Pages");
        page.QuerySelectorAll("nav a").Select(a => a.TextContent).ShouldBe(["One & two", "Two", "Three"]);
        foreach (var link in page.QuerySelectorAll("a[href^='#']"))
            page.GetElementById(link.GetAttribute("href")![1..]).ShouldNotBeNull(link.OuterHtml);
        page.QuerySelectorAll("a").ShouldContain(a => a.GetAttribute("href") == "../the-other-bank/");
        page.QuerySelectorAll("script, [onclick]").ShouldBeEmpty();
        page.QuerySelector("link[rel=canonical]")!.GetAttribute("href").ShouldBe(new Uri(Site.Listens!, "the-third-bell/").ToString());
        page.QuerySelector("meta[property='og:description']")!.GetAttribute("content").ShouldBe("A bell, \"heard\".");

        // What was read before is not sent again.
        (await Read("/the-third-bell/", response.Headers.ETag!.ToString())).Status.ShouldBe(304);
        response.Headers.CacheControl!.Public.ShouldBeTrue();
        response.Headers.Contains("Set-Cookie").ShouldBeFalse();

        var feed = XDocument.Parse((await Read("/feed.atom")).Text);
        feed.Root!.Name.ToString().ShouldBe("{http://www.w3.org/2005/Atom}feed");
        feed.Root.Elements("{http://www.w3.org/2005/Atom}entry").Count().ShouldBe(2);
        feed.ToString().ShouldContain("&lt;a href=\"" + new Uri(Site.Listens!, "the-other-bank/"));
        XDocument.Parse((await Read("/sitemap.xml")).Text).ToString().ShouldContain("the-third-bell/</loc>");
        (await Read("/robots.txt")).Text.ShouldContain("sitemap.xml");
        (await Read("/")).Text.ShouldContain("The other bank");
    }

    [Fact]
    public async Task From_a_public_page_there_is_no_way_to_the_desk()
    {
        await server.Catch("A private thought");
        await Post("/api/pages", new { piece = await Piece("Public", "Words.") });
        foreach (
            var path in (string[])
                [
                    "/api/slips",
                    "/api/pages",
                    "/api/health",
                    "/openapi/v1.json",
                    "/index.html",
                    "/assets/index.js",
                    "/papers.db",
                    "/public/../papers.db",
                    "/public/pictures/..%2f..%2fpapers.db",
                    "/fonts/..%2f..%2fpapers.db",
                    "/bench/1",
                    "/c",
                ]
        )
            (await Read(path)).Status.ShouldBe(404, path);
        foreach (var path in (string[])["/api/slips", "/", "/public/"])
            (await Send(path, ("text", "x"))).Status.ShouldBeOneOf([404, 405], path);
        // Nor may a page of it ask the desk for anything: its origin is another.
        (await server.Post("/api/slips", new { text = "x" }, ("Origin", Site.Listens!.GetLeftPart(UriPartial.Authority)))).Status.ShouldBe(
            403
        );
        (await Read("/public/")).Response.Headers.GetValues("Content-Security-Policy").Single().ShouldStartWith("default-src 'none'");
        (await server.Get("/api/slips")).Body!.ToJsonString().ShouldContain("A private thought");
    }

    [Fact]
    public async Task A_page_with_a_passphrase_tells_nothing_until_it_is_said()
    {
        var made = await Post("/api/pages", new { piece = await Piece("Early", "The secret words."), passphrase = "low water" });
        var (status, text, _) = await Read("/early/");
        status.ShouldBe(403);
        text.ShouldNotContain("secret");
        text.ShouldNotContain("Early");
        (await Read("/")).Text.ShouldNotContain("Early");
        (await Read("/feed.atom")).Text.ShouldNotContain("Early");
        (await Send("/early/open", ("passphrase", "high water"))).Text.ShouldContain("not its passphrase");
        (await Send("/early/open", ("passphrase", "low water"))).Status.ShouldBe(302);
        var (opened, words, response) = await Read("/early/");
        opened.ShouldBe(200);
        words.ShouldContain("The secret words.");
        response.Headers.CacheControl!.NoStore.ShouldBeTrue();

        // Another passphrase closes it for all.
        var number = made["page"]!["number"]!.GetValue<int>();
        var version = made["page"]!["version"]!.GetValue<int>();
        (await server.Send(HttpMethod.Patch, $"/api/pages/{number}", new { version, passphrase = "flood" })).Status.ShouldBe(200);
        (await Read("/early/")).Status.ShouldBe(403);
        for (var i = 0; i < 10; i++)
            await Send("/early/open", ("passphrase", "guess " + i));
        (await Send("/early/open", ("passphrase", "flood"))).Status.ShouldBe(429);
    }

    [Fact]
    public async Task What_is_taken_down_is_gone()
    {
        var made = await Post("/api/pages", new { piece = await Piece("Public", "Words.") });
        await Post($"/api/pages/{made["page"]!["number"]}/down", new { });
        var (status, text, _) = await Read("/public/");
        status.ShouldBe(410);
        text.ShouldContain("gone");
        (await Read("/public/pictures/x.webp")).Status.ShouldBe(410);
        (await Read("/nothing/")).Status.ShouldBe(404);
    }

    [Theory]
    [InlineData("<script>alert(1)</script>")]
    [InlineData("<img src=x onerror=alert(1)>")]
    [InlineData("\"><svg onload=alert(1)>")]
    [InlineData("javascript:alert(1)")]
    [InlineData("</textarea><script>alert(1)</script>")]
    [InlineData("[x](javascript:alert(1))")]
    public async Task Whatever_a_comment_says_it_is_words(string hostile)
    {
        await Post("/api/pages", new { piece = await Piece("Public", "Words."), takesComments = true });
        // Refused, what was typed stands in the form.
        var mark = Mark((await Read("/public/")).Text);
        var (_, again) = await Send("/public/comments", ("name", hostile), ("comment", hostile), ("mark", mark));
        IsClean(again);
        new HtmlParser().ParseDocument(again).QuerySelector("textarea")!.TextContent.Trim().ShouldBe(hostile);

        server.Services.GetRequiredService<Store.Catalogue.Pages.PageStore>().Hold(Core.Catalogue.Pages.PageNumber.Of(1), hostile, hostile);
        await Post("/api/comments/1", new { state = "shown" });
        var (_, shown, _) = await Read("/public/");
        IsClean(shown);
        new HtmlParser().ParseDocument(shown).QuerySelector(".comment p:last-child")!.TextContent.ShouldBe(hostile);
        // Among the messages it is harmless, too.
        var message = (await server.Get("/api/messages")).Body!["messages"]![0]!["html"]!.ToString();
        IsClean(message);

        static void IsClean(string html)
        {
            var page = new HtmlParser().ParseDocument(html);
            page.QuerySelectorAll("script, img, svg, iframe, object").ShouldBeEmpty();
            page.All.SelectMany(e => e.Attributes).ShouldNotContain(a => a.Name.StartsWith("on", StringComparison.Ordinal));
            page.QuerySelectorAll("a")
                .ShouldNotContain(a => (a.GetAttribute("href") ?? "").Contains("javascript", StringComparison.Ordinal));
        }
    }

    [Fact]
    public async Task A_comment_is_held_and_machines_are_kept_out()
    {
        await Post("/api/pages", new { piece = await Piece("Public", "Words."), takesComments = true });
        var mark = Mark((await Read("/public/")).Text);
        // In the hidden field: thanked for, and not kept.
        (
            await Send("/public/comments", ("name", "A"), ("comment", "b"), ("mark", mark), ("website", "https://x.example"))
        ).Status.ShouldBe(302);
        (await Send("/public/comments", ("name", "A"), ("comment", "b"), ("mark", mark))).Text.ShouldContain("That was quick");
        (await Send("/public/comments", ("name", "A"), ("comment", "b"), ("mark", "made up"))).Text.ShouldContain("send it once more");
        (await Only())["held"]!.GetValue<int>().ShouldBe(0);
        await Task.Delay(TimeSpan.FromSeconds(3.1), TestContext.Current.CancellationToken);
        (await Send("/public/comments", ("name", " "), ("comment", "b"), ("mark", mark))).Status.ShouldBe(400);
        (await Send("/public/comments", ("name", "Ottilie"), ("comment", "Well said."), ("mark", mark))).Status.ShouldBe(302);
        (await Only())["held"]!.GetValue<int>().ShouldBe(1);
        (await Read("/public/?thanks")).Text.ShouldContain("Thank you");
        (await Read("/public/")).Text.ShouldNotContain("Well said.");
        // Five in ten minutes were sent.
        (await Send("/public/comments", ("name", "A"), ("comment", "c"), ("mark", mark))).Status.ShouldBe(429);
        (await Read("/public/")).Status.ShouldBe(200);
    }

    [Fact]
    public async Task A_comment_that_is_too_long_is_refused_and_stays_in_the_form_and_one_that_is_huge_is_not_read()
    {
        await Post("/api/pages", new { piece = await Piece("Public", "Words."), takesComments = true });
        var mark = Mark((await Read("/public/")).Text);
        await Task.Delay(TimeSpan.FromSeconds(3.1), TestContext.Current.CancellationToken);
        var (status, text) = await Send("/public/comments", ("name", "A"), ("comment", new string('x', 4_001)), ("mark", mark));
        status.ShouldBe(400);
        text.ShouldContain(new string('x', 4_001));
        (await Send("/public/comments", ("name", "A"), ("comment", new string('x', 60_000)), ("mark", mark))).Status.ShouldBeOneOf([
            400,
            413,
        ]);
        (await Only())["held"]!.GetValue<int>().ShouldBe(0);
    }

    [Fact]
    public async Task A_picture_comes_in_sizes_without_what_its_camera_wrote_and_only_from_pages_it_stands_on()
    {
        var piece = await Piece("Public", "Words.");
        var hidden = await Piece("Private", "Words.");
        await server.AttachPicture(piece, "bank.png", 1_200, 600);
        await server.AttachPicture(hidden, "other.png", 1_200, 600);
        var version = (await server.Get($"/api/pieces/{piece}/draft")).Body!["version"]!.GetValue<int>();
        await server.Send(HttpMethod.Put, $"/api/pieces/{piece}/draft", new { text = "![The bank](bank.png \"A bank.\")", version });
        await Post("/api/pages", new { piece });
        var image = new HtmlParser().ParseDocument((await Read("/public/")).Text).QuerySelector("figure img")!;
        image.GetAttribute("srcset")!.Split(", ").Select(s => s.Split(' ')[1]).ShouldBe(["480w", "960w", "1200w"]);
        foreach (var size in image.GetAttribute("srcset")!.Split(", "))
        {
            var picture = await reader.GetByteArrayAsync(
                new Uri(Site.Listens!, $"public/{size.Split(' ')[0]}"),
                TestContext.Current.CancellationToken
            );
            using var codec = SKCodec.Create(new MemoryStream(picture));
            $"{codec.Info.Width}w".ShouldBe(size.Split(' ')[1]);
        }
        (await Read("/public/" + image.GetAttribute("src")!.Replace("-960", "-961", StringComparison.Ordinal))).Status.ShouldBe(404);
        (await Read("/public/pictures/" + new string('0', 20) + "-480.webp")).Status.ShouldBe(404);

        using var site = new ZipArchive(
            new MemoryStream(
                await server.Client.GetByteArrayAsync(new Uri("/api/site.zip", UriKind.Relative), TestContext.Current.CancellationToken)
            )
        );
        var names = site.Entries.Select(e => e.FullName).ToList();
        names.ShouldContain("public/index.html");
        names.ShouldContain("public/" + image.GetAttribute("src"));
        // Every address within it leads to a file of it.
        foreach (var file in site.Entries.Where(e => e.Name == "index.html"))
        {
            using var text = new StreamReader(file.Open());
            var page = new HtmlParser().ParseDocument(await text.ReadToEndAsync(TestContext.Current.CancellationToken));
            foreach (
                var at in page.QuerySelectorAll("a, img, link[rel=stylesheet]")
                    .Select(e => e.GetAttribute("href") ?? e.GetAttribute("src")!)
            )
            {
                if (at.StartsWith('#'))
                    continue;
                var to = new Uri(new Uri("http://x/" + file.FullName), at).AbsolutePath[1..];
                names.ShouldContain(to.Length == 0 || to.EndsWith('/') ? to + "index.html" : to, $"{at} in {file.FullName}");
            }
        }
    }

    [Fact]
    public async Task Readings_are_counted_without_a_cookie_and_machines_are_not()
    {
        await Post("/api/pages", new { piece = await Piece("Public", "Words.") });
        await Read("/public/");
        await Read("/public/");
        using var machine = new HttpClient { BaseAddress = Site.Listens };
        machine.DefaultRequestHeaders.UserAgent.ParseAdd("Mozilla/5.0 (compatible; ExampleBot/1.0)");
        await machine.GetAsync(new Uri("/public/", UriKind.Relative), TestContext.Current.CancellationToken);
        Site.Flush();
        var all = (await Only())["all"]!;
        (all["views"]!.GetValue<int>(), all["readers"]!.GetValue<int>()).ShouldBe((2, 1));
    }
}
