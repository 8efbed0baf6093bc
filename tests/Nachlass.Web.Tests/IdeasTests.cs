using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Nachlass.Web.Tests;

/// <summary>Ideas come as lines, one by one, and are kept to be sorted.</summary>
public sealed class IdeasTests : IDisposable
{
    private readonly Server server = new();

    public void Dispose() => server.Dispose();

    private async Task Fill()
    {
        foreach (
            var text in (string[])
                ["They pulled the ferry over by hand", "A ferry never waits", "The old ferry was tarred", "Who paid for a ferry?"]
        )
            await server.Post("/api/slips", new { text = $"{text} #ferries" });
        for (var i = 0; i < 40; i++)
            await server.Post("/api/slips", new { text = $"Something else, number {i * 7} #bread" });
        var slips = (await server.Get("/api/slips?state=waiting")).Body!["items"]!.AsArray().Select(s => s!["number"]!.GetValue<int>());
        await server.Post("/api/slips/several", new { slips, decision = new { decision = "keep" } });
    }

    private async Task<List<JsonNode>> Asked(object wanted)
    {
        using var client = server.CreateClient();
        using var answer = await client.PostAsJsonAsync(
            new Uri("/api/ideas", UriKind.Relative),
            wanted,
            TestContext.Current.CancellationToken
        );
        answer.EnsureSuccessStatusCode();
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("application/x-ndjson");
        var lines = await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        return [.. lines.Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(line => JsonNode.Parse(line)!)];
    }

    [Fact]
    public async Task Ideas_come_one_a_line_and_the_last_line_says_that_they_are_kept()
    {
        await Fill();
        var lines = await Asked(new { count = 12, audience = "beginners" });
        var kept = lines[^1];
        kept["kept"]!.GetValue<int>().ShouldBe(lines.Count - 1);
        lines.Count.ShouldBe(13);
        foreach (var idea in lines.SkipLast(1))
        {
            idea["text"]!.GetValue<string>().ShouldEndWith("(for beginners)");
            idea["shape"]!.GetValue<string>().ShouldNotBeEmpty();
            idea["from"]!.AsArray().Count.ShouldBeGreaterThan(0);
            idea["topic"]!["name"]!.GetValue<string>().ShouldBeOneOf("ferries", "bread");
            idea.AsObject().ContainsKey("saidIn").ShouldBeTrue();
        }
        var waiting = (await server.Get("/api/ideas")).Body!.AsArray();
        waiting.Select(i => i!["idea"]!["text"]!.GetValue<string>()).ShouldBe(lines.SkipLast(1).Select(i => i["text"]!.GetValue<string>()));
        // Asking is one step: taken back, none of them is left.
        var command = kept["command"]!.GetValue<int>();
        (await server.Post($"/api/commands/{command}/undo", new { })).Status.ShouldBe(200);
        (await server.Get("/api/ideas")).Body!.AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task Sorting_them_takes_refuses_and_begins_and_what_makes_no_sense_is_named()
    {
        await Fill();
        await Asked(new { count = 6 });
        var numbers = (await server.Get("/api/ideas")).Body!.AsArray().Select(i => i!["number"]!.GetValue<int>()).ToList();
        var taken = await server.Post("/api/ideas/sorted", new { ideas = numbers.Take(2), act = "take" });
        taken.Status.ShouldBe(200);
        taken.Body!["ideas"]!.AsArray().ShouldAllBe(i => i!["slip"] != null && i["state"]!.GetValue<string>() == "taken");
        (await server.Post("/api/ideas/sorted", new { ideas = new[] { numbers[2] }, act = "start" })).Body!["piece"]!
            .GetValue<int>()
            .ShouldBe(1);
        (await server.Post("/api/ideas/sorted", new { ideas = numbers.Skip(3), act = "refuse" })).Status.ShouldBe(200);
        (await server.Get("/api/ideas")).Body!.AsArray().ShouldBeEmpty();
        (await server.Post("/api/ideas/sorted", new { ideas = numbers.Take(1), act = "refuse" })).Status.ShouldBe(409);
        foreach (
            var (body, field) in ((object, string)[])
                [(new { count = 0 }, "count"), (new { topics = new[] { 99 } }, "topics"), (new { format = "no" }, "format")]
        )
        {
            var (status, said, _) = await server.Post("/api/ideas", body);
            status.ShouldBe(400);
            said!["field"]!.GetValue<string>().ShouldBe(field);
        }
    }

    [Fact]
    public async Task Papers_of_which_nothing_can_be_made_say_so()
    {
        var lines = await Asked(new { count = 10 });
        lines.ShouldHaveSingleItem()["kept"]!.GetValue<int>().ShouldBe(0);
    }
}
