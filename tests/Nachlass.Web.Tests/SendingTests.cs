using System.Text.Json.Nodes;
using Microsoft.Extensions.DependencyInjection;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Standins.Catalogue;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Web.Tests;

/// <summary>Pieces go out over the real protocol, whatever the outlet does.</summary>
public sealed class SendingTests : IAsyncLifetime
{
    private const string Token = "a-token-nobody-guesses";
    private readonly Server server = new();
    private PostServer posts = null!;
    private int outlet;

    public async ValueTask InitializeAsync()
    {
        posts = await PostServer.Start(0, "Short posts", Token, 300, null, TimeProvider.System);
        outlet = (await Post("/api/outlets", new { name = "Short posts" }))["number"]!.GetValue<int>();
        await Connect(outlet, posts.Endpoint.ToString());
    }

    public async ValueTask DisposeAsync()
    {
        server.Dispose();
        await posts.DisposeAsync();
    }

    private QueueStore Queue => server.Services.GetRequiredService<QueueStore>();

    private async Task<JsonNode> Post(string path, object body)
    {
        var (status, answer, _) = await server.Post(path, body);
        status.ShouldBeOneOf([200, 201], answer?.ToString());
        return answer!;
    }

    private async Task Connect(int to, string address, string kind = "micropub") =>
        (
            await server.Send(
                HttpMethod.Put,
                $"/api/outlets/{to}/connection",
                new
                {
                    kind,
                    address,
                    secret = Token,
                }
            )
        ).Status.ShouldBe(200);

    private async Task<int> Piece(string title, string format, string text)
    {
        var piece = (await Post("/api/pieces", new { title, format }))["number"]!.GetValue<int>();
        var draft = (await server.Get($"/api/pieces/{piece}/draft")).Body!;
        (
            await server.Send(HttpMethod.Put, $"/api/pieces/{piece}/draft", new { text, version = draft["version"]!.GetValue<int>() })
        ).Status.ShouldBe(200);
        return piece;
    }

    /// <summary>Lets the queue run until something stands as is waited for; waiting times are cut short.</summary>
    private async Task<Sending> Until(int number, params SendingState[] states)
    {
        var sender = server.Services.GetRequiredService<Sender>();
        for (var i = 0; i < 100; i++)
        {
            await sender.SendDue(TestContext.Current.CancellationToken);
            var sending = Queue.Get(SendingNumber.Of(number));
            if (states.Contains(sending.State))
                return sending;
            if (sending.State == SendingState.Waits)
                Queue.Act(sending.Number, QueueAct.TryNow);
            await Task.Delay(10, TestContext.Current.CancellationToken);
        }
        throw new TimeoutException($"It stands at {Queue.Get(SendingNumber.Of(number)).State}.");
    }

    private const string Thread = "Nineteen steps.\n\n---\n\nOr eighteen.\n\n---\n\nIt depends on the water.\n";

    [Fact]
    public async Task A_thread_whose_answer_is_lost_goes_on_and_is_not_doubled()
    {
        var piece = await Piece("Steps", "thread", Thread);
        posts.Fail(PostFault.None);
        posts.Fail(PostFault.Lost);
        var number = (await Post($"/api/pieces/{piece}/sending", new { outlet }))["number"]!.GetValue<int>();
        var sent = await Until(number, SendingState.Sent);

        posts.Posts.Select(p => p.Content).ShouldBe(["Nineteen steps.", "Or eighteen.", "It depends on the water."]);
        posts.Posts.Select(p => p.ReplyTo).ShouldBe([null, sent.Parts[0].Address, sent.Parts[1].Address]);
        sent.History.Select(h => h.Outcome).ShouldBe(["Taken", "Unknown", "WasThere", "Taken"]);

        var release = (await server.Get($"/api/releases/{sent.Release}")).Body!;
        release["address"]!.GetValue<string>().ShouldBe(sent.Parts[0].Address);
        release["way"]!.GetValue<string>().ShouldBe("sent");
        (await server.Get($"/api/pieces/{piece}")).Body!["outOn"].ShouldNotBeNull();
    }

    [Theory]
    [InlineData(PostFault.Full)]
    [InlineData(PostFault.Down)]
    [InlineData(PostFault.Wrong)]
    [InlineData(PostFault.Lost)]
    public async Task Whatever_goes_wrong_it_arrives_once(PostFault fault)
    {
        var piece = await Piece("Steps", "thread", Thread);
        posts.Fail(fault, 3);
        var number = (await Post($"/api/pieces/{piece}/sending", new { outlet }))["number"]!.GetValue<int>();
        await Until(number, SendingState.Sent);
        posts.Posts.Select(p => p.Content).ShouldBe(["Nineteen steps.", "Or eighteen.", "It depends on the water."]);
    }

    [Fact]
    public async Task What_was_being_sent_when_the_program_died_is_looked_for_first()
    {
        var piece = await Piece("Steps", "post", "Nineteen steps.");
        var waiting = await Post(
            $"/api/pieces/{piece}/sending",
            new { outlet, on = DateOnly.FromDateTime(DateTime.Today).AddDays(3).ToString("yyyy-MM-dd", null) }
        );
        var number = SendingNumber.Of(waiting["number"]!.GetValue<int>());
        // It left, and the program died before the answer was written down.
        var begun = Queue.Begin(Queue.Get(number), 1);
        using var channel = new Micropub();
        var connection = server.Services.GetRequiredService<ConnectionStore>().List()[0];
        await channel.Send(
            connection,
            Token,
            new Post(begun.Parts[0].Key, "", "Nineteen steps.", "", default, "en", _ => null),
            TestContext.Current.CancellationToken
        );
        posts.Posts.Count.ShouldBe(1);

        var left = Queue.Get(number);
        left.State.ShouldBe(SendingState.Tries);
        Queue.End(left, 1, new Outcome.Unknown("The program ended."));
        await Until(number.Value, SendingState.Sent);
        posts.Posts.Count.ShouldBe(1);
    }

    [Fact]
    public async Task An_outlet_that_does_not_list_its_posts_makes_its_writer_look()
    {
        await using var odd = await PostServer.Start(0, "No list", Token, null, null, TimeProvider.System, lists: false);
        await Connect(outlet, odd.Endpoint.ToString());
        odd.Fail(PostFault.Lost);
        var piece = await Piece("Steps", "post", "Nineteen steps.");
        var number = (await Post($"/api/pieces/{piece}/sending", new { outlet }))["number"]!.GetValue<int>();
        var asks = await Until(number, SendingState.Asks);
        asks.Problem.ShouldContain("Look there whether it arrived");
        odd.Posts.Count.ShouldBe(1);
        await Post($"/api/queue/{number}/act", new { act = "itArrived" });
        await Until(number, SendingState.Sent);
        odd.Posts.Count.ShouldBe(1);
    }

    [Fact]
    public async Task What_is_refused_says_why_stays_and_can_be_taken_out()
    {
        var piece = await Piece("Steps", "essay", new string('x', 320));
        var number = (await Post($"/api/pieces/{piece}/sending", new { outlet }))["number"]!.GetValue<int>();
        var given = await Until(number, SendingState.GaveUp);
        given.Problem.ShouldBe("A post here has at most 300 characters.");
        (await server.Get($"/api/pieces/{piece}")).Body!["outOn"].ShouldBeNull();
        await Post($"/api/queue/{number}/act", new { act = "takeOut" });
        (await server.Get("/api/queue")).Body!.AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task What_was_sent_cannot_be_undone_what_waits_can()
    {
        var piece = await Piece("Steps", "post", "Nineteen steps.");
        var (_, _, waits) = await server.Post($"/api/pieces/{piece}/sending", new { outlet, on = "2199-01-01" });
        var command = waits.Headers.GetValues("Nachlass-Command").Single();
        (await server.Post($"/api/commands/{command}/undo", new { })).Status.ShouldBe(200);
        (await server.Get("/api/queue")).Body!.AsArray().ShouldBeEmpty();

        var number = (await Post($"/api/pieces/{piece}/sending", new { outlet }))["number"]!.GetValue<int>();
        await Until(number, SendingState.Sent);
        var sent = (await server.Get("/api/commands")).Body!.AsArray()[0]!;
        sent["what"]!.GetValue<string>().ShouldBe($"sent P {piece} to “Short posts”");
        var (status, refused, _) = await server.Post($"/api/commands/{sent["command"]}/undo", new { });
        status.ShouldBe(409);
        refused!["detail"]!.GetValue<string>().ShouldContain("what is out cannot be taken back");
    }

    [Fact]
    public async Task What_cannot_be_sent_is_refused_with_its_field()
    {
        var other = (await Post("/api/outlets", new { name = "Not connected" }))["number"]!.GetValue<int>();
        var piece = await Piece("Steps", "post", "Nineteen steps.");
        (await Refused(new { outlet = other })).ShouldBe("outlet");
        (await Refused(new { })).ShouldBe("outlet");
        (await Refused(new { outlet, on = "2020-01-01" })).ShouldBe("on");
        (
            await Refused(
                new
                {
                    outlet,
                    on = DateTime.Today.ToString("yyyy-MM-dd", null),
                    time = "00:00:00",
                }
            )
        ).ShouldBe("time");
        (await Refused(new { outlet, title = " " })).ShouldBe("title");
        await server.Send(
            HttpMethod.Patch,
            $"/api/outlets/{outlet}",
            new
            {
                version = 1,
                limitMost = 5,
                limitIn = "characters",
            }
        );
        (await Refused(new { outlet })).ShouldBe("text");

        async Task<string> Refused(object body)
        {
            var (status, answer, _) = await server.Post($"/api/pieces/{piece}/sending", body);
            status.ShouldBe(400);
            return answer!["field"]!.GetValue<string>();
        }
    }

    [Fact]
    public async Task A_token_is_kept_encrypted_and_shown_nowhere()
    {
        (await server.Get("/api/connections")).Body!.ToJsonString().ShouldNotContain(Token);
        (await server.Get("/api/outlets")).Body!.ToJsonString().ShouldNotContain(Token);
        var zip = await server.Client.GetByteArrayAsync("/api/papers/export", TestContext.Current.CancellationToken);
        using var archive = new System.IO.Compression.ZipArchive(new MemoryStream(zip));
        foreach (var entry in archive.Entries)
        {
            using var reader = new StreamReader(entry.Open());
            (await reader.ReadToEndAsync(TestContext.Current.CancellationToken)).ShouldNotContain(Token);
        }
        foreach (var file in Directory.EnumerateFiles(server.Folder, "papers.db*"))
        {
            using var open = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
            using var reader = new StreamReader(open, System.Text.Encoding.Latin1);
            (await reader.ReadToEndAsync(TestContext.Current.CancellationToken)).ShouldNotContain(Token);
        }
    }

    [Fact]
    public async Task Trying_a_connection_says_what_is_wrong_and_sends_nothing()
    {
        (await Post($"/api/outlets/{outlet}/connection/try", new { }))["problem"]!.GetValue<string>().ShouldBe("");
        await server.Send(
            HttpMethod.Put,
            $"/api/outlets/{outlet}/connection",
            new
            {
                kind = "micropub",
                address = posts.Endpoint,
                secret = "another",
            }
        );
        (await Post($"/api/outlets/{outlet}/connection/try", new { }))["problem"]!
            .GetValue<string>()
            .ShouldBe("The token is not the one of this place.");
        await Connect(outlet, "http://127.0.0.1:1/micropub");
        (await Post($"/api/outlets/{outlet}/connection/try", new { }))["problem"]!.GetValue<string>().ShouldBe("It can't be reached.");
        posts.Posts.ShouldBeEmpty();
    }

    [Fact]
    public async Task Into_a_folder_a_piece_goes_as_one_file()
    {
        var folder = Path.Combine(server.Folder, "out");
        await Connect(outlet, folder, "folder");
        var piece = await Piece("Nineteen steps", "essay", "Of the landing.");
        var number = (await Post($"/api/pieces/{piece}/sending", new { outlet }))["number"]!.GetValue<int>();
        await Until(number, SendingState.Sent);
        (await File.ReadAllTextAsync(Directory.GetFiles(folder).Single(), TestContext.Current.CancellationToken)).ShouldEndWith(
            "Of the landing.\n"
        );
    }

    [Fact]
    public async Task Pictures_go_to_the_media_endpoint_and_stand_in_the_article_with_their_captions()
    {
        await using var site = await PostServer.Start(0, "A site", Token, null, null, TimeProvider.System);
        var at = (await Post("/api/outlets", new { name = "A site" }))["number"]!.GetValue<int>();
        await Connect(at, site.Endpoint.ToString());
        var piece = await Piece("The bank", "essay", "![The bank](bank.png \"A bank.\")\n\n![Elsewhere](https://x.example/y.png)");
        var (_, data) = await server.AttachPicture(piece, "bank.png");
        await Post($"/api/pieces/{piece}/sending", new { outlet = at });
        await server.Services.GetRequiredService<Sender>().SendDue(TestContext.Current.CancellationToken);
        site.Pictures.ShouldBe(1);
        var kept = site.Posts.ShouldHaveSingleItem();
        kept.Content.ShouldContain($"src=\"{new Uri(site.Address, "/media/1")}\"");
        kept.Content.ShouldContain("<figcaption>A bank.</figcaption>");
        kept.Content.ShouldNotContain("y.png");
        using var reader = new HttpClient();
        (await reader.GetByteArrayAsync(new Uri(site.Address, "/media/1"), TestContext.Current.CancellationToken)).ShouldBe(data);
    }

    [Fact]
    public async Task Its_own_picture_stands_beside_the_first_post_of_a_thread_and_above_the_text_of_an_article()
    {
        await using var site = await PostServer.Start(0, "A site", Token, null, null, TimeProvider.System);
        var at = (await Post("/api/outlets", new { name = "A site" }))["number"]!.GetValue<int>();
        await Connect(at, site.Endpoint.ToString());
        var thread = await Piece("Steps", "thread", Thread);
        var (picture, _) = await server.AttachPicture(thread, "steps.png");
        const string shows = "The \"steps\" [and] <a> rope";
        var asked = new
        {
            outlet,
            picture,
            shows,
        };
        var preview = await Post($"/api/pieces/{thread}/sending/preview", asked);
        preview["shown"]!.AsArray().Select(p => p!["words"]!.ToString()).ShouldBe(posted);
        preview["shown"]![0]!["html"]!.ToString().ShouldContain($"/api/attachments/{picture}/content");
        preview["shown"]![1]!["html"]!.ToString().ShouldBe("");
        await Until((await Post($"/api/pieces/{thread}/sending", asked))["number"]!.GetValue<int>(), SendingState.Sent);
        posts
            .Posts.Select(p => (p.Content, p.Photo, p.Shows))
            .ShouldBe([
                (posted[0], new Uri(posts.Address, "/media/1").ToString(), shows),
                (posted[1], null, null),
                (posted[2], null, null),
            ]);

        var essay = await Piece("Nineteen steps", "essay", "Of the landing.");
        (picture, _) = await server.AttachPicture(essay, "steps.png");
        var whole = new
        {
            outlet = at,
            picture,
            shows,
        };
        var shown = (await Post($"/api/pieces/{essay}/sending/preview", whole))["shown"]!.AsArray().ShouldHaveSingleItem()!;
        shown["title"]!.ToString().ShouldBe("Nineteen steps");
        var sent = await Until((await Post($"/api/pieces/{essay}/sending", whole))["number"]!.GetValue<int>(), SendingState.Sent);
        var article = new AngleSharp.Html.Parser.HtmlParser().ParseDocument(site.Posts.ShouldHaveSingleItem().Content).Body!;
        article.QuerySelector("img")!.GetAttribute("alt").ShouldBe(shows);
        article.QuerySelector("img")!.GetAttribute("src").ShouldBe(new Uri(site.Address, "/media/1").ToString());
        // As it was shown before, but for where the picture lies.
        article
            .InnerHtml.Replace(
                new Uri(site.Address, "/media/1").ToString(),
                $"/api/attachments/{picture}/content",
                StringComparison.Ordinal
            )
            .ShouldBe(shown["html"]!.ToString());
        (
            await server.Client.GetAsync($"/api/releases/{sent.Release}/picture", TestContext.Current.CancellationToken)
        ).Content.Headers.ContentType!.MediaType.ShouldBe("image/png");
        (await server.Get("/api/releases/99/picture")).Status.ShouldBe(404);
    }

    private static readonly string[] posted = ["Nineteen steps.", "Or eighteen.", "It depends on the water."];

    [Fact]
    public async Task Where_no_pictures_are_taken_it_is_said_and_nothing_goes_without_the_picture_it_was_to_have()
    {
        await using var plain = await PostServer.Start(0, "Words", Token, null, null, TimeProvider.System, takesPictures: false);
        var at = (await Post("/api/outlets", new { name = "Words" }))["number"]!.GetValue<int>();
        await Connect(at, plain.Endpoint.ToString());
        var piece = await Piece("Steps", "essay", "Nineteen.");
        var (picture, _) = await server.AttachPicture(piece, "steps.png");
        var number = (
            await Post(
                $"/api/pieces/{piece}/sending",
                new
                {
                    outlet = at,
                    picture,
                    shows = "Steps",
                }
            )
        )["number"]!.GetValue<int>();
        (await Until(number, SendingState.GaveUp)).Problem.ShouldContain("takes no pictures");
        plain.Posts.ShouldBeEmpty();
    }

    [Fact]
    public async Task Into_a_folder_its_picture_goes_beside_the_file()
    {
        var folder = Path.Combine(server.Folder, "out");
        await Connect(outlet, folder, "folder");
        var piece = await Piece("Nineteen steps", "essay", "Of the landing.");
        var (picture, data) = await server.AttachPicture(piece, "steps.png");
        var asked = new
        {
            outlet,
            picture,
            shows = "Steps",
        };
        await Until((await Post($"/api/pieces/{piece}/sending", asked))["number"]!.GetValue<int>(), SendingState.Sent);
        var text = Directory.GetFiles(folder, "*.md").Single();
        var beside = Directory.GetFiles(folder, "*.png").Single();
        (await File.ReadAllTextAsync(text, TestContext.Current.CancellationToken)).ShouldContain(
            $"![Steps]({Path.GetFileName(beside)})\n\nOf the landing."
        );
        (await File.ReadAllBytesAsync(beside, TestContext.Current.CancellationToken)).ShouldBe(data);
        Directory.GetFiles(folder).Length.ShouldBe(2);
    }
}
