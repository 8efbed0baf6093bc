using System.Net.Http.Headers;
using System.Text.Json.Nodes;

namespace Nachlass.Web.Tests;

/// <summary>Sifting, topics, links and views over the wire.</summary>
public sealed class EngineRoutesTests : IDisposable
{
    private readonly Server server = new();

    public void Dispose() => server.Dispose();

    private async Task<JsonNode> Sent(HttpMethod method, string address, object? body = null)
    {
        var (status, answer, _) = await server.Send(method, address, body);
        status.ShouldBeInRange(200, 201, answer?.ToJsonString());
        return answer!;
    }

    private Task<JsonNode> Got(string address) => Sent(HttpMethod.Get, address);

    private Task<JsonNode> Posted(string address, object body) => Sent(HttpMethod.Post, address, body);

    private static int Number(JsonNode? node) => node!["number"]!.GetValue<int>();

    private static string Text(JsonNode? node, string field) => node![field]!.GetValue<string>();

    [Fact]
    public async Task A_pile_is_gone_through_split_joined_and_counted()
    {
        await server.Catch("Bread was money. Who set the price? #tolls");
        await server.Catch("Nobody paid to come home #tolls");
        (await Got("/api/sift?order=oldest"))["waiting"]!.GetValue<int>().ShouldBe(2);
        var parts = await Posted("/api/slips/1/split", new { version = 1, parts = new[] { "Bread was money.", "Who set the price?" } });
        parts.AsArray().Select(Number).ShouldBe([1, 3]);
        (await Got("/api/sift"))["waiting"]!.GetValue<int>().ShouldBe(3);
        Text(await Posted("/api/slips/join", new { slips = new[] { 1, 2 } }), "text")
            .ShouldBe("Bread was money.\n\nNobody paid to come home");
        var (_, several, response) = await server.Post(
            "/api/slips/several",
            new
            {
                slips = new[] { 1, 3 },
                effort = 2,
                topics = new[] { "bread" },
                decision = new { decision = "keep" },
            }
        );
        several!.AsArray().ShouldAllBe(slip => Text(slip, "state") == "kept" && slip!["effort"]!.GetValue<int>() == 2);
        (await Got("/api/sift"))["waiting"]!.GetValue<int>().ShouldBe(0);
        (await Got("/api/sift/flow"))["months"]!.AsArray()[^1]!["kept"]!.GetValue<int>().ShouldBe(2);
        var command = response.Headers.GetValues("Nachlass-Command").Single();
        await Posted($"/api/commands/{command}/undo", new { });
        (await Got("/api/sift"))["waiting"]!.GetValue<int>().ShouldBe(2);
    }

    [Fact]
    public async Task A_rule_shows_what_it_would_do_before_it_does_it()
    {
        await server.Catch("Bread was money #tolls");
        await server.Post("/api/slips/1/decision", new { decision = "keep" });
        var rule = new
        {
            name = "Tolls start a letter",
            when = "kept",
            query = "topic:tolls",
            act = new { act = "start", format = "letter" },
        };
        var trial = await Posted("/api/rules/try", rule);
        trial["looked"]!.GetValue<int>().ShouldBe(1);
        Text(trial["met"]!.AsArray().Single(), "would").ShouldBe("start a piece: letter");
        (await Got("/api/pieces")).AsArray().ShouldBeEmpty();
        var made = await Posted("/api/rules", rule);
        made["isOn"]!.GetValue<bool>().ShouldBeFalse();
        await Sent(HttpMethod.Patch, "/api/rules/1", new { version = made["version"]!.GetValue<int>(), isOn = true });
        await server.Catch("Nobody paid to come home #tolls");
        var (_, _, response) = await server.Post("/api/slips/2/decision", new { decision = "keep" });
        Text((await Got("/api/pieces")).AsArray().Single(), "format").ShouldBe("letter");
        await Posted($"/api/commands/{response.Headers.GetValues("Nachlass-Command").Single()}/undo", new { });
        (await Got("/api/pieces")).AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task Sections_are_offered_linked_and_followed()
    {
        await Posted("/api/pieces", new { title = "The price" });
        var version = (await Got("/api/pieces/1/draft"))["version"]!.GetValue<int>();
        await Sent(HttpMethod.Put, "/api/pieces/1/draft", new { text = "## The bread column\n\nLoaves.\n", version });
        await server.Catch("What the bread column leaves out");
        Text((await Got("/api/links/offers?begun=P%201,")).AsArray().Single(), "write").ShouldBe("P 1, The bread column");
        (await Got("/api/mentions/piece/1?section=The%20bread%20column")).AsArray().Count.ShouldBe(1);
        await Posted(
            "/api/mentions/piece/1/link",
            new
            {
                inKind = "slip",
                inNumber = 1,
                section = "The bread column",
            }
        );
        Text(await Got("/api/slips/1"), "text").ShouldBe("What the bread column [[P 1, The bread column]] leaves out");
        Text((await Got("/api/pieces/1/links")).AsArray().Single(), "part").ShouldBe("The bread column");
        Text(await Got("/api/go?name=The%20price,%20The%20bread%20column"), "address").ShouldBe("/bench/1?section=The%20bread%20column");
        (
            await server.Post(
                "/api/mentions/piece/1/link",
                new
                {
                    inKind = "slip",
                    inNumber = 1,
                    section = "The bread column",
                }
            )
        ).Status.ShouldBe(409);
        Text(await Got("/api/slips/1"), "text").ShouldBe("What the bread column [[P 1, The bread column]] leaves out");
    }

    [Fact]
    public async Task A_view_is_kept_goes_out_and_comes_in_once()
    {
        await server.Catch("Why was the bell sunk? #bells");
        var before = (await Got("/api/views")).AsArray().Count;
        var view = await Posted(
            "/api/views",
            new
            {
                name = "Bell questions",
                query = "kind:question  topic:bells",
                layout = "table",
                grouped = "kind",
                sort = "pull",
                onDesk = true,
            }
        );
        Text(view, "query").ShouldBe("kind:question topic:bells");
        (await Got("/api/views/desk"))
            .AsArray()
            .ShouldContain(v => Text(v!["view"], "name") == "Bell questions" && v!["total"]!.GetValue<int>() == 1);
        (await server.Post("/api/views", new { name = "Bell questions", query = "pull:4" })).Status.ShouldBeOneOf(400, 409);
        var (_, file, _) = await server.Get("/api/exports/views.json");
        await Sent(HttpMethod.Delete, $"/api/views/{Number(view)}");
        using var content = new StringContent(file!.ToJsonString(), new MediaTypeHeaderValue("application/json"));
        (await Sent(HttpMethod.Post, "/api/views/import", content)).AsArray().Count.ShouldBe(1);
        (await Got("/api/views")).AsArray().Count.ShouldBe(before + 1);
        var pile = (await Got("/api/views")).AsArray().Where(v => Text(v, "name") == "Bell questions").Select(Number).Single();
        (await Got($"/api/sift?view={pile}"))["waiting"]!.GetValue<int>().ShouldBe(1);
    }

    [Fact]
    public async Task What_is_typed_is_said_back_and_completed()
    {
        await server.Catch("A bell #bells");
        var read = await Got("/api/query?text=topic%3Abe&caret=8");
        read["completions"]!.AsArray().ShouldContain(c => c!.ToJsonString().Contains("bells", StringComparison.Ordinal));
        Text(await Got("/api/query?text=" + Uri.EscapeDataString("pull>=4 not kind:question")), "said").ShouldContain("pull 4 or more");
        var wrong = (await Got("/api/query?text=" + Uri.EscapeDataString("bell (glove ")))["problem"]!;
        wrong["at"]!.GetValue<int>().ShouldBe(5);
    }

    [Fact]
    public async Task A_digest_goes_out_and_into_a_piece_and_two_names_stay_two()
    {
        await Posted("/api/sources", new { title = "Accounts", topics = new[] { "tolls", "toll" } });
        await Posted("/api/sources/1/passages", new { text = "The toll was doubled on flood days.", locator = "p. 31" });
        var topics = (await Got("/api/topics")).AsArray();
        var tolls = topics.Where(t => Text(t, "name") == "tolls").Select(Number).Single();
        (await Got($"/api/topics/{tolls}/digest"))["themes"]!.AsArray().Count.ShouldBe(1);
        (await server.Get($"/api/exports/digests/{tolls}.md")).Body!.GetValue<string>().ShouldContain("p. 31");
        (await Posted($"/api/topics/{tolls}/digest/piece", new { }))["piece"]!.GetValue<int>().ShouldBe(1);
        (await Got("/api/topics/near-names")).AsArray().Count.ShouldBe(1);
        var toll = topics.Where(t => Text(t, "name") == "toll").Select(Number).Single();
        await Posted($"/api/topics/{tolls}/apart/{toll}", new { });
        (await Got("/api/topics/near-names")).AsArray().ShouldBeEmpty();
        // All there is stands on both: no more often than chance would have it.
        (await Got("/api/topics/together"))
            .AsArray()
            .ShouldBeEmpty();
        (await Got("/api/topics/words?of=sources"))["texts"]!.GetValue<int>().ShouldBeGreaterThan(0);
        (await Got("/api/topics/coverage"))["columns"]!.AsArray().Count.ShouldBeGreaterThan(3);
    }

    [Fact]
    public async Task A_table_goes_out_as_csv_with_the_columns_asked_for()
    {
        await server.Catch("Bread, salt \"and\" tolls #tolls");
        var (_, csv, response) = await server.Get("/api/library/table.csv?columns=number,text,topics");
        response.Content.Headers.ContentDisposition!.FileName.ShouldEndWith(".csv");
        csv!.GetValue<string>().ReplaceLineEndings("\n").ShouldEndWith("1,\"Bread, salt \"\"and\"\" tolls\",tolls\n");
    }
}
