using System.Text.Json.Nodes;
using Microsoft.Extensions.DependencyInjection;
using Nachlass.Standins.Catalogue;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Web.Tests;

/// <summary>What comes after something was sent, over the real protocol: its figures, and an error put right there.</summary>
public sealed class AfterwardsTests : IAsyncLifetime
{
    private const string Token = "a-token-nobody-guesses";
    private readonly Server server = new();
    private PostServer posts = null!;
    private int outlet;

    public async ValueTask InitializeAsync()
    {
        posts = await PostServer.Start(0, "Short posts", Token, 300, null, TimeProvider.System);
        outlet = (await Post("/api/outlets", new { name = "Short posts" }))["number"]!.GetValue<int>();
        await Put(
            $"/api/outlets/{outlet}/connection",
            new
            {
                kind = "micropub",
                address = posts.Endpoint.ToString(),
                secret = Token,
            }
        );
    }

    public async ValueTask DisposeAsync()
    {
        server.Dispose();
        await posts.DisposeAsync();
    }

    private async Task<JsonNode> Post(string path, object body)
    {
        var (status, answer, _) = await server.Post(path, body);
        status.ShouldBeOneOf([200, 201], answer?.ToString());
        return answer!;
    }

    private async Task<JsonNode> Put(string path, object body)
    {
        var (status, answer, _) = await server.Send(HttpMethod.Put, path, body);
        status.ShouldBe(200, answer?.ToString());
        return answer!;
    }

    private async Task<JsonNode> Get(string path) => (await server.Get(path)).Body!;

    private async Task Write(int piece, string text) =>
        await Put(
            $"/api/pieces/{piece}/draft",
            new { text, version = (await Get($"/api/pieces/{piece}/draft"))["version"]!.GetValue<int>() }
        );

    /// <summary>Sends a piece.</summary>
    /// <returns>Its number, and that of its release.</returns>
    private async Task<(int Piece, int Release)> Sent(string format, string text)
    {
        var piece = (await Post("/api/pieces", new { title = "What a weir is for", format }))["number"]!.GetValue<int>();
        await Write(piece, text);
        await Post($"/api/pieces/{piece}/sending", new { outlet, now = true });
        await server.Services.GetRequiredService<Sender>().SendDue(TestContext.Current.CancellationToken);
        return (piece, (await Get($"/api/pieces/{piece}/releases"))[0]!["number"]!.GetValue<int>());
    }

    private async Task<string> Problem(string path) => (await Post(path, new { }))["problem"]!.ToString();

    [Fact]
    public async Task An_outlet_that_tells_figures_is_asked_and_they_grow()
    {
        var (_, release) = await Sent("essay", "It holds the river up.");
        posts.Later(3);
        (await Problem($"/api/releases/{release}/figures/ask")).ShouldBeEmpty();
        async Task<int> Views() =>
            (await Get($"/api/releases/{release}/figures"))["lines"]!.AsArray().Single(l => l!["name"]!.ToString() == "views")![
                "latest"
            ]!.GetValue<int>();
        var first = await Views();
        first.ShouldBeGreaterThan(10);
        posts.Later(20);
        await Problem($"/api/releases/{release}/figures/ask");
        (await Views()).ShouldBeGreaterThan(first);
        var told = (await Get($"/api/releases/{release}/figures"))["lines"]![0]!["told"]!.AsArray();
        // Told twice on a day, it is the later.
        told.Count.ShouldBe(1);
        told[0]!["by"]!.ToString().ShouldBe("outlet");
    }

    [Fact]
    public async Task What_cannot_be_asked_is_said_and_what_is_typed_is_kept()
    {
        var (_, release) = await Sent("essay", "It holds the river up.");
        var (status, answer, _) = await server.Send(HttpMethod.Put, $"/api/releases/{release}/figures", new { name = "views", total = -3 });
        status.ShouldBe(400);
        answer!["field"]!.ToString().ShouldBe("total");
        await Put($"/api/releases/{release}/figures", new { name = "views", total = 12 });
        await posts.DisposeAsync();
        (await Problem($"/api/releases/{release}/figures/ask")).ShouldBe("It can't be reached.");
        (await Get($"/api/releases/{release}/figures"))["lines"]![0]!["latest"]!.GetValue<int>().ShouldBe(12);
        (await Get("/api/catalogue/comparison?figure=views&as=any&by=outlet&after=1"))["young"]!.GetValue<int>().ShouldBe(1);
        (await server.Get("/api/catalogue/comparison?after=0")).Status.ShouldBe(400);
    }

    [Fact]
    public async Task An_error_is_put_right_where_it_went_out_and_that_is_not_taken_back()
    {
        var (piece, release) = await Sent("essay", "It holds the river *up* by eighteen hands.");
        (await server.Post($"/api/releases/{release}/corrections/there", new { })).Status.ShouldBe(409);
        await Write(piece, "It holds the river *up* by nineteen hands.");
        await Post($"/api/releases/{release}/corrections", new { note = "Nineteen, not eighteen." });

        posts.Fail(PostFault.Down);
        (await Problem($"/api/releases/{release}/corrections/there")).ShouldBe("It answers 503.");
        posts.Posts[0].Content.ShouldContain("eighteen");
        (await Problem($"/api/releases/{release}/corrections/there")).ShouldBeEmpty();
        posts
            .Posts.ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                p => p.Content.ShouldContain("by nineteen hands"),
                p => p.Content.ShouldContain("<em>up</em>"),
                p => p.PutRightAt.ShouldNotBeNull()
            );
        var shown = await Get($"/api/releases/{release}");
        shown["corrections"]![0]!["thereAt"]!.ToString().ShouldNotBeEmpty();
        shown["text"]!.ToString().ShouldContain("eighteen");

        var history = (await Get("/api/commands"))!.AsArray();
        var command = history.First(h => h!["what"]!.ToString().StartsWith("put R", StringComparison.Ordinal))!["command"]!.ToString();
        var (status, answer, _) = await server.Post($"/api/commands/{command}/undo", new { });
        status.ShouldBe(409);
        answer!["detail"]!.ToString().ShouldContain("stands where it went out");
    }

    [Fact]
    public async Task A_file_in_a_folder_is_written_anew_and_what_did_not_go_out_from_here_is_left()
    {
        var folder = Directory.CreateTempSubdirectory("nachlass-folder-").FullName;
        try
        {
            outlet = (await Post("/api/outlets", new { name = "Walks" }))["number"]!.GetValue<int>();
            await Put($"/api/outlets/{outlet}/connection", new { kind = "folder", address = folder });
            var (piece, release) = await Sent("essay", "It has eighteen steps.");
            await Write(piece, "It has nineteen steps.");
            await Post($"/api/releases/{release}/corrections", new { note = "Nineteen." });
            (await Problem($"/api/releases/{release}/corrections/there")).ShouldBeEmpty();
            File.ReadAllText(Directory.GetFiles(folder, "*.md").ShouldHaveSingleItem()).ShouldContain("nineteen steps");

            var other = (await Post("/api/pieces", new { title = "By hand", format = "essay" }))["number"]!.GetValue<int>();
            await Write(other, "It has eighteen steps.");
            var noted = (await Post($"/api/pieces/{other}/releases", new { outlet, address = "https://walks.example/1" }))["number"];
            await Write(other, "It has nineteen steps.");
            await Post($"/api/releases/{noted}/corrections", new { note = "Nineteen." });
            (await Problem($"/api/releases/{noted}/corrections/there")).ShouldContain("did not go out from here");
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public async Task A_thread_is_put_right_post_by_post_while_it_has_as_many()
    {
        var (piece, release) = await Sent("thread", "One loaf.\n\n---\n\nTwo lofs.\n");
        await Write(piece, "One loaf.\n\n---\n\nTwo loaves.\n");
        await Post($"/api/releases/{release}/corrections", new { note = "Loaves." });
        (await Problem($"/api/releases/{release}/corrections/there")).ShouldBeEmpty();
        posts.Posts.Select(p => p.Content.Trim()).ShouldBe(["One loaf.", "Two loaves."]);
        await Write(piece, "One loaf.\n\n---\n\nTwo loaves.\n\n---\n\nThree.\n");
        await Post($"/api/releases/{release}/corrections", new { note = "Three." });
        var (status, answer, _) = await server.Post($"/api/releases/{release}/corrections/there", new { });
        status.ShouldBe(409);
        answer!["detail"]!.ToString().ShouldContain("in 2 parts and has 3 now");
    }
}
