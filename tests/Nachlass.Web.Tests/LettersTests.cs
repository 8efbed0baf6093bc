using System.Text.Json.Nodes;
using Microsoft.Extensions.DependencyInjection;
using MimeKit;
using Nachlass.Core.Catalogue.Letters;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Standins.Catalogue;
using Nachlass.Store.Catalogue.Letters;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Web.Catalogue.Pages;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Web.Tests;

/// <summary>Letters go to their readers over the real protocol, whatever the letter service does.</summary>
public sealed class LettersTests : IAsyncLifetime
{
    private readonly Server server = new();
    private LetterServer letters = null!;
    private int outlet;

    public async ValueTask InitializeAsync()
    {
        letters = await LetterServer.Start(0, "tavle", "a password", null);
        outlet = (await Post("/api/outlets", new { name = "Low Water" }))["number"]!.GetValue<int>();
        (await Connect("a password", letters.Certificate))["problem"]!.ToString().ShouldBe("");
    }

    public async ValueTask DisposeAsync()
    {
        server.Dispose();
        await letters.DisposeAsync();
    }

    private async Task<JsonNode> Post(string path, object body)
    {
        var (status, answer, _) = await server.Post(path, body);
        status.ShouldBeOneOf([200, 201], answer?.ToString());
        return answer!;
    }

    private async Task<JsonNode> Connect(string secret, string trusts, string sender = "Low Water <low-water@tavle.example>")
    {
        var (status, answer, _) = await server.Send(
            HttpMethod.Put,
            $"/api/outlets/{outlet}/connection",
            new
            {
                kind = "mail",
                address = $"127.0.0.1:{letters.Port}",
                user = "tavle",
                secret,
                sender,
                trusts,
            }
        );
        status.ShouldBe(200, answer?.ToString());
        answer!.ToJsonString().ShouldNotContain(secret);
        return await Post($"/api/outlets/{outlet}/connection/try", new { });
    }

    private async Task<int> Piece(string title, string text)
    {
        var piece = (await Post("/api/pieces", new { title, format = "essay" }))["number"]!.GetValue<int>();
        var version = (await server.Get($"/api/pieces/{piece}/draft")).Body!["version"]!.GetValue<int>();
        (await server.Send(HttpMethod.Put, $"/api/pieces/{piece}/draft", new { text, version })).Status.ShouldBe(200);
        return piece;
    }

    private Task<JsonNode> Readers(params string[] lines) =>
        Post($"/api/outlets/{outlet}/readers", new { list = string.Join('\n', lines), how = "said so" });

    private async Task<Sending> Sent(int piece)
    {
        var number = SendingNumber.Of((await Post($"/api/pieces/{piece}/sending", new { outlet }))["number"]!.GetValue<int>());
        return await Go(number);
    }

    private async Task<Sending> Go(SendingNumber number)
    {
        await server.Services.GetRequiredService<Sender>().SendDue(TestContext.Current.CancellationToken);
        return Queue.Get(number);
    }

    private async Task<Sending> Again(Sending sending, QueueAct act = QueueAct.TryNow)
    {
        Queue.Act(sending.Number, act);
        return await Go(sending.Number);
    }

    private QueueStore Queue => server.Services.GetRequiredService<QueueStore>();

    private IReadOnlyList<string> To => [.. letters.Letters.Select(l => l.To)];

    [Fact]
    public async Task A_letter_goes_to_each_reader_with_text_and_html_and_the_way_to_leave()
    {
        await Readers("Ottilie Marsh <ottilie@reader.example>", "rafe@reader.example");
        var sending = await Sent(await Piece("A rope is a promise", "It was *spliced* twice.\n\nÜber & out."));
        sending.State.ShouldBe(SendingState.Sent, sending.Problem);
        sending.Letters.ShouldBe(new LetterCount(2, 2, 0, 0, 0));
        To.ShouldBe(["ottilie@reader.example", "rafe@reader.example"]);
        var letter = letters.Letters[0].Read();
        letter.Subject.ShouldBe("A rope is a promise");
        letter.From.ToString().ShouldBe("\"Low Water\" <low-water@tavle.example>");
        letter.To.ToString().ShouldBe("\"Ottilie Marsh\" <ottilie@reader.example>");
        letter.TextBody!.ShouldContain("Über & out.");
        letter.HtmlBody!.ShouldContain("<em>spliced</em>");
        letter.Headers[HeaderId.ListUnsubscribePost].ShouldBe("List-Unsubscribe=One-Click");

        // In one click, as a mail program does (RFC 8058).
        var leave = new Uri(letter.Headers[HeaderId.ListUnsubscribe]!.Trim('<', '>'));
        letter.TextBody!.ShouldContain(leave.ToString());
        using var program = new HttpClient();
        // Looking at the link leaves nothing.
        (await program.GetStringAsync(leave, TestContext.Current.CancellationToken)).ShouldContain("Leave these letters?");
        using var click = new FormUrlEncodedContent([new("List-Unsubscribe", "One-Click")]);
        (await program.PostAsync(leave, click, TestContext.Current.CancellationToken)).IsSuccessStatusCode.ShouldBeTrue();
        await Sent(await Piece("The next", "Words."));
        To.Skip(2).ShouldBe(["rafe@reader.example"]);
        // Who left is not taken in again by a list.
        (await Readers("ottilie@reader.example"))["left"]!
            .AsArray()
            .Count.ShouldBe(1);
    }

    [Theory]
    [InlineData(PostFault.Full)]
    [InlineData(PostFault.Down)]
    public async Task After_an_outage_in_the_middle_the_rest_goes_and_nobody_gets_it_twice(PostFault fault)
    {
        await Readers([.. Enumerable.Range(1, 6).Select(i => $"reader{i}@reader.example")]);
        letters.Fail(PostFault.None, 3);
        letters.Fail(fault, 25);
        var sending = await Sent(await Piece("The third bell", "Words."));
        sending.State.ShouldBe(SendingState.Waits);
        sending.Problem.ShouldStartWith("3 of 6 letters are out.");
        for (var i = 0; i < 30 && sending.State != SendingState.Sent; i++)
            sending = await Again(sending);
        sending.State.ShouldBe(SendingState.Sent, sending.Problem);
        To.Order().ShouldBe([.. Enumerable.Range(1, 6).Select(i => $"reader{i}@reader.example")]);
    }

    [Fact]
    public async Task Where_the_answer_is_lost_the_others_get_theirs_and_the_writer_is_asked()
    {
        await Readers([.. Enumerable.Range(1, 5).Select(i => $"reader{i}@reader.example")]);
        letters.Fail(PostFault.None);
        letters.Fail(PostFault.Lost);
        var sending = await Sent(await Piece("The third bell", "Words."));
        sending.State.ShouldBe(SendingState.Asks);
        sending.Letters.ShouldBe(new LetterCount(5, 4, 0, 0, 1));
        sending.Problem.ShouldContain("nobody knows");
        To.Order().ShouldBe([.. Enumerable.Range(1, 5).Select(i => $"reader{i}@reader.example")]);

        sending = await Again(sending, QueueAct.ItArrived);
        sending.State.ShouldBe(SendingState.Sent);
        letters.Letters.Count.ShouldBe(5);
        (await server.Get("/api/releases")).Body!.AsArray().Count.ShouldBe(1);
    }

    [Fact]
    public async Task One_that_did_not_arrive_is_sent_again_and_no_other()
    {
        await Readers("a@reader.example", "b@reader.example");
        letters.Fail(PostFault.Lost);
        var sending = await Sent(await Piece("The third bell", "Words."));
        sending.State.ShouldBe(SendingState.Asks);
        sending = await Again(sending, QueueAct.SendAgain);
        sending.State.ShouldBe(SendingState.Sent);
        // Under the same Message-ID, by which a mailbox knows it again.
        letters.Letters.Where(l => l.To == "a@reader.example").Select(l => l.Id).Distinct().Count().ShouldBe(1);
        To.Count(to => to == "b@reader.example").ShouldBe(1);
    }

    [Fact]
    public async Task After_the_program_died_in_the_middle_the_others_get_theirs_and_the_one_in_hand_is_asked_about()
    {
        await Readers("a@reader.example", "b@reader.example", "c@reader.example");
        var piece = await Piece("The third bell", "Words.");
        var made = await Post($"/api/pieces/{piece}/sending", new { outlet, on = DateTime.Today.AddDays(2).ToString("yyyy-MM-dd") });
        var number = SendingNumber.Of(made["number"]!.GetValue<int>());
        // It was being handed over as the power went.
        var begun = Queue.Begin(Queue.Get(number), 1);
        var store = server.Services.GetRequiredService<LetterStore>();
        store.Stand(begun.Parts[0].Key, store.Waiting(begun.Parts[0].Key, begun.Outlet)[0], CopyState.Tries).ShouldBeTrue();
        Queue.End(begun, 1, new Outcome.Later("The program ended."));
        var sending = await Again(Queue.Get(number));
        sending.State.ShouldBe(SendingState.Asks);
        To.Order().ShouldBe(["b@reader.example", "c@reader.example"]);
        (await Again(sending, QueueAct.SendAgain)).State.ShouldBe(SendingState.Sent);
        To.Order().ShouldBe(["a@reader.example", "b@reader.example", "c@reader.example"]);
    }

    [Fact]
    public async Task A_thread_is_one_letter_and_a_password_is_told_to_no_other_server()
    {
        await Readers("a@reader.example");
        var piece = (await Post("/api/pieces", new { title = "In parts", format = "thread" }))["number"]!.GetValue<int>();
        (await Post($"/api/pieces/{piece}/sending", new { outlet, text = "One.\n\n---\n\nTwo." }))["parts"]!.AsArray().Count.ShouldBe(1);
        await server.Services.GetRequiredService<Sender>().SendDue(TestContext.Current.CancellationToken);
        letters.Letters.ShouldHaveSingleItem().Subject.ShouldBe("In parts");

        await using var other = await LetterServer.Start(0, "tavle", "a password", null);
        (
            await server.Send(
                HttpMethod.Put,
                $"/api/outlets/{outlet}/connection",
                new
                {
                    kind = "mail",
                    address = $"127.0.0.1:{other.Port}",
                    user = "tavle",
                    sender = "a@b.example",
                    trusts = other.Certificate,
                }
            )
        ).Status.ShouldBe(200);
        (await Post($"/api/outlets/{outlet}/connection/try", new { }))["problem"]!
            .ToString()
            .ShouldBe("It does not take the name and password.");
    }

    [Fact]
    public async Task A_mailbox_that_is_gone_is_said_and_keeps_nobody_else_from_theirs()
    {
        await Readers("gone@reader.example", "b@reader.example");
        var sending = await Sent(await Piece("The third bell", "Words."));
        sending.State.ShouldBe(SendingState.Sent);
        sending.Letters.ShouldBe(new LetterCount(2, 1, 0, 1, 0));
        var list = (await server.Get($"/api/outlets/{outlet}/readers")).Body!;
        list["readers"]!.AsArray().Single(r => r!["address"]!.ToString() == "gone@reader.example")!["trouble"]!
            .ToString()
            .ShouldNotBeEmpty();
        list.ToJsonString().ShouldNotContain("token");
    }

    [Fact]
    public async Task What_is_out_stays_and_the_rest_is_stopped()
    {
        await Readers([.. Enumerable.Range(1, 4).Select(i => $"reader{i}@reader.example")]);
        letters.Fail(PostFault.None, 2);
        letters.Fail(PostFault.Full, 9);
        var sending = await Sent(await Piece("The third bell", "Words."));
        sending = await Again(sending, QueueAct.TakeOut);
        sending.State.ShouldBe(SendingState.Sent);
        sending.Letters.ShouldBe(new LetterCount(4, 2, 0, 2, 0));
        letters.Letters.Count.ShouldBe(2);
    }

    [Fact]
    public async Task A_wrong_password_and_a_certificate_nobody_vouches_for_are_said()
    {
        (await Connect("another", letters.Certificate))["problem"]!.ToString().ShouldBe("It does not take the name and password.");
        var tried = await Connect("a password", "");
        tried["problem"]!.ToString().ShouldContain("certificate");
        tried["certificate"]!.ToString().ShouldBe(letters.Certificate);
        (await server.Get("/api/connections")).Body!.ToJsonString().ShouldNotContain("a password");
        (await Post($"/api/outlets/{outlet}/connection/try", new { }))["problem"]!.ToString().ShouldNotBeEmpty();
        letters.Letters.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("a@b.example\r\nBcc: all@x.example")]
    [InlineData("x <a@b.example>\nBcc: all@x.example")]
    [InlineData("a@b.example,c@d.example")]
    public async Task Nothing_typed_becomes_a_head_of_a_letter(string hostile)
    {
        var (status, answer, _) = await server.Send(
            HttpMethod.Put,
            $"/api/outlets/{outlet}/connection",
            new
            {
                kind = "mail",
                address = $"127.0.0.1:{letters.Port}",
                sender = hostile,
            }
        );
        (status, answer!["field"]!.ToString()).ShouldBe((400, "sender"));
        Should.Throw<BadInputException>(() => Reader.CheckedAddress("to", hostile));
        // A title or a name in two lines is one.
        (await server.Post($"/api/outlets/{outlet}/readers", new { list = hostile, how = "said so" })).Status.ShouldBeOneOf([200, 400]);
        await Readers("ada@reader.example");
        var title = "Bells\r\nBcc: all@x.example";
        await Sent(await Piece("Plain", "Words."));
        var message = Nachlass.Exchange.Catalogue.Letters.LetterFile.To(
            new(title, "Words.", "en", "low-water@tavle.example", "Low\r\nBcc: all@x.example", null, _ => null),
            "ada@reader.example",
            "Ada\r\nBcc: all@x.example",
            "key.1",
            DateTimeOffset.UtcNow,
            new Uri("https://pages.example/leave/1")
        );
        using var wire = new MemoryStream();
        await message.WriteToAsync(wire, TestContext.Current.CancellationToken);
        foreach (var raw in letters.Letters.Select(l => l.Raw).Append(wire.ToArray()))
            MimeMessage
                .Load(new MemoryStream(raw), TestContext.Current.CancellationToken)
                .Headers.ShouldNotContain(h => h.Id == HeaderId.Bcc);
    }

    [Fact]
    public async Task Who_asks_on_the_page_is_asked_in_their_mailbox_first()
    {
        using var reader = new HttpClient { BaseAddress = server.Services.GetRequiredService<PublicSite>().Listens };
        var page = await reader.GetStringAsync(new Uri($"/letters/{outlet}", UriKind.Relative), TestContext.Current.CancellationToken);
        var mark = new AngleSharp.Html.Parser.HtmlParser().ParseDocument(page).QuerySelector("input[name=mark]")!.GetAttribute("value")!;
        await Task.Delay(TimeSpan.FromSeconds(3.1), TestContext.Current.CancellationToken);
        using var form = new FormUrlEncodedContent([new("address", "new@reader.example"), new("name", "New"), new("mark", mark)]);
        var answer = await reader.PostAsync(new Uri($"/letters/{outlet}", UriKind.Relative), form, TestContext.Current.CancellationToken);
        (await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldContain("Look into your mailbox");
        for (var i = 0; i < 100 && letters.Letters.Count == 0; i++)
            await Task.Delay(100, TestContext.Current.CancellationToken);
        var question = letters.Letters.ShouldHaveSingleItem();
        question.To.ShouldBe("new@reader.example");
        (await server.Get($"/api/outlets/{outlet}/readers")).Body!["agreed"]!.GetValue<int>().ShouldBe(0);
        var link = question
            .Read()
            .TextBody!.Split((char[]?)null)
            .Select(w => w.Trim('<', '>', '(', ')'))
            .First(w => w.Contains("/join/", StringComparison.Ordinal));
        (await reader.GetStringAsync(new Uri(link), TestContext.Current.CancellationToken)).ShouldContain("Get these letters?");
        (await reader.PostAsync(new Uri(link), null, TestContext.Current.CancellationToken)).IsSuccessStatusCode.ShouldBeTrue();
        (await server.Get($"/api/outlets/{outlet}/readers")).Body!["agreed"]!.GetValue<int>().ShouldBe(1);
    }

    private Uri On(string path) => new(server.Services.GetRequiredService<PublicSite>().Listens!, path);

    private async Task<(int Status, string Text)> Read(string path)
    {
        using var reader = new HttpClient();
        using var answer = await reader.GetAsync(On(path), TestContext.Current.CancellationToken);
        return ((int)answer.StatusCode, await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken));
    }

    private async Task Archive(bool isArchived) =>
        (await server.Send(HttpMethod.Put, $"/api/outlets/{outlet}/archive", new { isArchived })).Status.ShouldBe(200);

    [Fact]
    public async Task Its_own_picture_goes_inside_and_where_it_can_be_read_stands_in_its_foot()
    {
        await Archive(true);
        await Readers("rafe@reader.example");
        var piece = await Piece("The rope", "It holds. <script>alert(1)</script>");
        var (picture, data) = await server.AttachPicture(piece, "rope.png");
        var asked = new
        {
            outlet,
            picture,
            shows = "A rope, spliced",
        };
        var shown = (await Post($"/api/pieces/{piece}/sending/preview", asked))["shown"]!.AsArray().ShouldHaveSingleItem()!;
        (shown["from"]!.ToString(), shown["title"]!.ToString()).ShouldBe(("Low Water <low-water@tavle.example>", "The rope"));
        shown["foot"]!.ToString().ShouldBe("Read it on the web · Get no more of these letters");
        shown["html"]!.ToString().ShouldContain($"<img src=\"/api/attachments/{picture}/content\" alt=\"A rope, spliced\">");
        shown["html"]!.ToString().ShouldNotContain("<script");

        var sent = await Go(SendingNumber.Of((await Post($"/api/pieces/{piece}/sending", asked))["number"]!.GetValue<int>()));
        sent.State.ShouldBe(SendingState.Sent, sent.Problem);
        var letter = letters.Letters.ShouldHaveSingleItem().Read();
        letter.HtmlBody!.ShouldContain("alt=\"A rope, spliced\"");
        var inside = letter.BodyParts.OfType<MimePart>().Single(p => p.ContentType.MimeType == "image/png");
        letter.HtmlBody!.ShouldContain($"cid:{inside.ContentId}");
        using var decoded = new MemoryStream();
        await inside.Content!.DecodeToAsync(decoded, TestContext.Current.CancellationToken);
        decoded.ToArray().ShouldBe(data);

        var address = On($"letters/{outlet}/{piece}/").ToString();
        letter.HtmlBody!.ShouldContain($"<a href=\"{address}\"");
        letter.TextBody!.ShouldContain(address);
        (await server.Get($"/api/releases/{sent.Release}")).Body!["address"]!.ToString().ShouldBe(address);
        var (status, page) = await Read($"letters/{outlet}/{piece}/");
        status.ShouldBe(200);
        page.ShouldContain("data:image/png;base64,");
        page.ShouldContain("alt=\"A rope, spliced\"");
        page.ShouldNotContain("<script");
    }

    [Fact]
    public async Task Letters_that_went_out_are_read_on_the_site_only_where_their_writer_says_so()
    {
        await Readers("rafe@reader.example");
        var sent = await Piece("The rope", "It holds.");
        await Sent(sent);
        var unsent = await Piece("In hand", "Not for anybody yet.");
        (await Read($"letters/{outlet}/{sent}/")).Status.ShouldBe(404);
        (await Read($"letters/{outlet}/")).Text.ShouldNotContain("The rope");
        (await Read("")).Text.ShouldNotContain("letters/");

        await Archive(true);
        (await Read($"letters/{outlet}")).Text.ShouldContain($"<a href=\"{sent}/\">The rope</a>");
        (await Read($"letters/{outlet}/{sent}")).Text.ShouldContain("It holds.");
        (await Read("")).Text.ShouldContain($"<a href=\"letters/{outlet}/\">Low Water</a>");
        (await Read("sitemap.xml")).Text.ShouldContain(On($"letters/{outlet}/{sent}/").ToString());
        foreach (
            var nowhere in (string[])
                [$"letters/{outlet}/{unsent}/", "letters/99/1/", $"letters/{outlet}/0/", $"letters/{outlet}/2147483648/"]
        )
            (await Read(nowhere)).Status.ShouldBe(404, nowhere);
        // Every address among its files leads to a file of it.
        using var site = new System.IO.Compression.ZipArchive(
            await server.Client.GetStreamAsync("/api/site.zip", TestContext.Current.CancellationToken)
        );
        var names = site.Entries.Select(e => e.FullName).ToList();
        foreach (var file in site.Entries.Where(e => e.Name == "index.html"))
        {
            using var text = new StreamReader(file.Open());
            var page = new AngleSharp.Html.Parser.HtmlParser().ParseDocument(
                await text.ReadToEndAsync(TestContext.Current.CancellationToken)
            );
            page.QuerySelector("form").ShouldBeNull();
            foreach (var link in page.QuerySelectorAll("a, link[rel=stylesheet]"))
            {
                var to = new Uri(new Uri("http://x/" + file.FullName), link.GetAttribute("href")!).AbsolutePath[1..];
                names.ShouldContain(to.Length == 0 || to.EndsWith('/') ? to + "index.html" : to, $"{file.FullName}");
            }
        }
        names.ShouldContain($"letters/{outlet}/{sent}/index.html");

        await Archive(false);
        (await Read($"letters/{outlet}/{sent}/")).Status.ShouldBe(404);
        (await server.Send(HttpMethod.Put, "/api/outlets/99/archive", new { isArchived = true })).Status.ShouldBe(404);
    }

    [Fact]
    public async Task A_draft_goes_to_chosen_people_and_is_no_release()
    {
        var piece = await Piece("Early", "Words.");
        var sent = await Post(
            $"/api/pieces/{piece}/draft-letter",
            new
            {
                outlet,
                to = "friend@reader.example",
                words = "Do you see the point?",
            }
        );
        sent["problem"]!.ToString().ShouldBe("");
        var letter = letters.Letters.ShouldHaveSingleItem().Read();
        letter.Subject.ShouldBe("Draft: Early");
        letter.TextBody!.ShouldContain("Do you see the point?");
        letter.Headers.Contains(HeaderId.ListUnsubscribe).ShouldBeFalse();
        (await server.Get("/api/releases")).Body!.AsArray().ShouldBeEmpty();
        (await server.Post($"/api/pieces/{piece}/draft-letter", new { outlet, to = "no address" })).Status.ShouldBe(400);
    }
}
