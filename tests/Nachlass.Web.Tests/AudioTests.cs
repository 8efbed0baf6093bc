using System.Net;
using System.Text.Json.Nodes;
using System.Xml.Linq;
using Microsoft.Extensions.DependencyInjection;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Standins.Catalogue;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Web.Catalogue.Pages;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Web.Tests;

/// <summary>Recordings go out as a feed that a listener's program follows over the real protocol, whatever its hub does.</summary>
public sealed class AudioTests : IAsyncLifetime
{
    private readonly Server server = new();
    private ListenerServer listener = null!;
    private int outlet;

    public async ValueTask InitializeAsync()
    {
        listener = await ListenerServer.Start(0, null);
        outlet = (await Post("/api/outlets", new { name = "Walks & talks" }))["number"]!.GetValue<int>();
        await Connect(listener.Hub.ToString());
    }

    public async ValueTask DisposeAsync()
    {
        server.Dispose();
        await listener.DisposeAsync();
    }

    private async Task<JsonNode> Post(string path, object body)
    {
        var (status, answer, _) = await server.Post(path, body);
        status.ShouldBeOneOf([200, 201], answer?.ToString());
        return answer!;
    }

    private async Task Connect(string hub)
    {
        var (status, body, _) = await server.Send(
            HttpMethod.Put,
            $"/api/outlets/{outlet}/connection",
            new { kind = "feed", address = hub }
        );
        status.ShouldBe(200, body?.ToString());
    }

    private static string Sound => Path.Combine(Shape.Root, "demo", "recordings", "the-eight-piers.mp3");

    private async Task<int> Walk()
    {
        var piece = (await Post("/api/pieces", new { title = "A <walk> & back", format = "audio" }))["number"]!.GetValue<int>();
        var version = (await server.Get($"/api/pieces/{piece}/draft")).Body!["version"]!.GetValue<int>();
        const string text = "## The bell\n\nOne two three.\n\n## The lane\n\nFour five six. <script>alert(1)</script>\n";
        (await server.Send(HttpMethod.Put, $"/api/pieces/{piece}/draft", new { text, version })).Status.ShouldBe(200);
        using var sound = new ByteArrayContent(await File.ReadAllBytesAsync(Sound, TestContext.Current.CancellationToken));
        (await server.Send(HttpMethod.Post, $"/api/attachments/piece/{piece}?name=walk.mp3", sound)).Status.ShouldBe(201);
        return piece;
    }

    private async Task<Sending> Until(int number, params SendingState[] states)
    {
        var queue = server.Services.GetRequiredService<QueueStore>();
        for (var i = 0; i < 100; i++)
        {
            await server.Services.GetRequiredService<Sender>().SendDue(TestContext.Current.CancellationToken);
            var sending = queue.Get(SendingNumber.Of(number));
            if (states.Contains(sending.State))
                return sending;
            if (sending.State == SendingState.Waits)
                queue.Act(sending.Number, QueueAct.TryNow);
            await Task.Delay(10, TestContext.Current.CancellationToken);
        }
        throw new TimeoutException($"It stands at {queue.Get(SendingNumber.Of(number)).State}.");
    }

    private Task<HttpResponseMessage> Read(string path, string? range = null)
    {
        var request = new HttpRequestMessage(HttpMethod.Get, new Uri(server.Services.GetRequiredService<PublicSite>().Listens!, path));
        if (range is not null)
            request.Headers.TryAddWithoutValidation("Range", range);
        return server.Client.SendAsync(request, TestContext.Current.CancellationToken);
    }

    [Fact]
    public async Task A_recording_reaches_a_listener_with_its_chapters()
    {
        var piece = await Walk();
        var preview = await Post($"/api/pieces/{piece}/sending/preview", new { outlet });
        preview["sound"]!["length"]!.GetValue<string>().ShouldBe("0:17");
        preview["chapters"]!.AsArray().Count.ShouldBe(2);
        var number = (await Post($"/api/pieces/{piece}/sending", new { outlet }))["number"]!.GetValue<int>();
        var sent = await Until(number, SendingState.Sent);

        var heard = listener.Episodes.ShouldHaveSingleItem();
        heard.Title.ShouldBe("A <walk> & back");
        heard.Text.ShouldNotContain("<script>");
        (heard.Type, heard.Length).ShouldBe(("audio/mpeg", new FileInfo(Sound).Length));
        heard.Chapters.ShouldBe(["0 The bell", "7 The lane"]);
        heard.Sound.ShouldBe(sent.Parts[0].Address);

        (await (await Read("/")).Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldContain(
            $"<a href=\"audio/{outlet}/feed.xml\">Walks &amp; talks</a>"
        );
        using var site = new System.IO.Compression.ZipArchive(
            await server.Client.GetStreamAsync("/api/site.zip", TestContext.Current.CancellationToken)
        );
        site.Entries.Where(e => e.FullName.StartsWith("audio/", StringComparison.Ordinal))
            .Select(e => Path.GetExtension(e.FullName))
            .ShouldBe([".xml", ".json", ".mp3"]);

        var feed = (await server.Get($"/api/outlets/{outlet}/feed")).Body!;
        feed["episodes"]!.GetValue<int>().ShouldBe(1);
        var xml = XDocument.Parse(
            await (await Read($"/audio/{outlet}/feed.xml")).Content.ReadAsStringAsync(TestContext.Current.CancellationToken)
        );
        var channel = xml.Root!.Element("channel")!;
        channel.Element("title")!.Value.ShouldBe("Walks & talks");
        XNamespace atom = "http://www.w3.org/2005/Atom";
        channel
            .Elements(atom + "link")
            .Select(l => (l.Attribute("rel")!.Value, l.Attribute("href")!.Value))
            .ShouldBe([("self", feed["address"]!.GetValue<string>()), ("hub", listener.Hub.ToString())]);
        var item = channel.Element("item")!;
        item.Element("guid")!.Attribute("isPermaLink")!.Value.ShouldBe("false");
        DateTimeOffset.TryParseExact(item.Element("pubDate")!.Value, "R", null, default, out _).ShouldBeTrue();
    }

    [Fact]
    public async Task Its_own_picture_stands_above_what_is_said_beside_it()
    {
        var piece = await Walk();
        var (picture, data) = await server.AttachPicture(piece, "pier.png");
        var asked = new
        {
            outlet,
            picture,
            shows = "The \"eighth\" pier",
        };
        await Until((await Post($"/api/pieces/{piece}/sending", asked))["number"]!.GetValue<int>(), SendingState.Sent);
        var said = new AngleSharp.Html.Parser.HtmlParser().ParseDocument(listener.Episodes.ShouldHaveSingleItem().Text);
        var image = said.QuerySelector("img")!;
        image.GetAttribute("alt").ShouldBe("The \"eighth\" pier");
        using var reader = new HttpClient();
        (await reader.GetByteArrayAsync(new Uri(image.GetAttribute("src")!), TestContext.Current.CancellationToken)).ShouldBe(data);
        using var site = new System.IO.Compression.ZipArchive(
            await server.Client.GetStreamAsync("/api/site.zip", TestContext.Current.CancellationToken)
        );
        site.Entries.ShouldContain(e =>
            image.GetAttribute("src")!.EndsWith(e.FullName, StringComparison.Ordinal) && e.Length == data.Length
        );
    }

    [Theory]
    [InlineData(PostFault.Full)]
    [InlineData(PostFault.Down)]
    [InlineData(PostFault.Lost)]
    public async Task Whatever_its_hub_does_a_listener_gets_it_once(PostFault fault)
    {
        var piece = await Walk();
        listener.Fail(fault, 3);
        var number = (await Post($"/api/pieces/{piece}/sending", new { outlet }))["number"]!.GetValue<int>();
        var sent = await Until(number, SendingState.Sent);
        listener.Episodes.ShouldHaveSingleItem();
        sent.History.Select(h => h.Outcome).ShouldBe(["Later", "Later", "Later", "Taken"]);
        sent.History[0].Note.ShouldContain("The feed has it");
        (await server.Get($"/api/outlets/{outlet}/feed")).Body!["episodes"]!.GetValue<int>().ShouldBe(1);
    }

    [Fact]
    public async Task A_hub_that_sends_elsewhere_is_not_followed()
    {
        var piece = await Walk();
        listener.Fail(PostFault.Wrong);
        var number = (await Post($"/api/pieces/{piece}/sending", new { outlet }))["number"]!.GetValue<int>();
        (await Until(number, SendingState.GaveUp)).Problem.ShouldContain("answers 302");
        (await Post($"/api/outlets/{outlet}/connection/try", new { }))["problem"]!.GetValue<string>().ShouldBeEmpty();
        listener.Fail(PostFault.Down);
        (await Post($"/api/outlets/{outlet}/connection/try", new { }))["problem"]!.GetValue<string>().ShouldContain("503");
    }

    [Fact]
    public async Task Without_a_hub_it_is_in_the_feed_and_that_is_all()
    {
        await Connect("");
        var piece = await Walk();
        var number = (await Post($"/api/pieces/{piece}/sending", new { outlet }))["number"]!.GetValue<int>();
        await Until(number, SendingState.Sent);
        listener.Times.ShouldBe(0);
        (await Read($"/audio/{outlet}/feed.xml")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task The_sound_is_given_in_stretches_and_nothing_else_of_the_papers_is()
    {
        var piece = await Walk();
        var number = (await Post($"/api/pieces/{piece}/sending", new { outlet }))["number"]!.GetValue<int>();
        var sent = await Until(number, SendingState.Sent);
        var path = new Uri(sent.Parts[0].Address).AbsolutePath;
        var stretch = await Read(path, "bytes=100-199");
        stretch.StatusCode.ShouldBe(HttpStatusCode.PartialContent);
        stretch.Content.Headers.ContentLength.ShouldBe(100);
        (await Read(path, "bytes=99999999-")).StatusCode.ShouldBe(HttpStatusCode.RequestedRangeNotSatisfiable);
        foreach (
            var other in (string[])
                [$"/audio/{outlet}/x.mp3", $"/audio/{outlet}/..%2f..%2fpapers.db", "/audio/99/feed.xml", $"/audio/{outlet}/"]
        )
            (await Read(other)).StatusCode.ShouldBe(HttpStatusCode.NotFound, other);
        await Connect("");
        (await server.Send(HttpMethod.Delete, $"/api/outlets/{outlet}/connection")).Status.ShouldBe(204);
        (await Read($"/audio/{outlet}/feed.xml")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task An_error_is_put_right_where_it_is_heard()
    {
        var piece = await Walk();
        var number = (await Post($"/api/pieces/{piece}/sending", new { outlet }))["number"]!.GetValue<int>();
        var release = (await Until(number, SendingState.Sent)).Release;
        var version = (await server.Get($"/api/pieces/{piece}/draft")).Body!["version"]!.GetValue<int>();
        (await server.Send(HttpMethod.Put, $"/api/pieces/{piece}/draft", new { text = "0:05 Put right\n", version })).Status.ShouldBe(200);
        await Post($"/api/releases/{release}/corrections", new { note = "A wrong bell." });
        (await Post($"/api/releases/{release}/corrections/there", new { }))["problem"]!.GetValue<string>().ShouldBeEmpty();
        listener.Episodes.ShouldHaveSingleItem().Chapters.ShouldBe(["5 Put right"]);
    }

    [Fact]
    public async Task A_broken_sound_has_no_length_and_hangs_nobody()
    {
        var piece = (await Post("/api/pieces", new { title = "Broken", format = "audio" }))["number"]!.GetValue<int>();
        foreach (
            var head in (string[])["4944330400000FFFFFFF", "4F676753FFFF", "664C6143FFFFFFFF", "52494646FFFFFFFF57415645666D7420FFFFFFFF"]
        )
        {
            using var broken = new ByteArrayContent([.. Convert.FromHexString(head), .. new byte[4_000]]);
            (await server.Send(HttpMethod.Post, $"/api/attachments/piece/{piece}?name=broken.bin", broken)).Status.ShouldBe(201);
        }
        var sounds = (await server.Get($"/api/pieces/{piece}/recordings")).Body!.AsArray();
        sounds.Count.ShouldBe(4);
        sounds.ShouldAllBe(s => s!["ms"]!.GetValue<int>() >= 0);
    }
}
