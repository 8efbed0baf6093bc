using System.Net.Http.Headers;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.Extensions.DependencyInjection;
using Nachlass.Standins.Catalogue;
using Nachlass.Web.Catalogue.Pages;

namespace Nachlass.Web.Tests;

/// <summary>A page elsewhere says by Webmention that it mentions one of these: it is held, and looked at when its writer says.</summary>
public sealed class MentionsTests : IAsyncLifetime
{
    private const string Token = "a-token-nobody-guesses";
    private readonly Server server = new();
    private readonly HttpClient reader = new(new HttpClientHandler { AllowAutoRedirect = false });
    private PostServer elsewhere = null!;

    public async ValueTask InitializeAsync() =>
        elsewhere = await PostServer.Start(0, "A site elsewhere", Token, null, null, TimeProvider.System);

    public async ValueTask DisposeAsync()
    {
        reader.Dispose();
        server.Dispose();
        await elsewhere.DisposeAsync();
    }

    private Uri Site => server.Services.GetRequiredService<PublicSite>().Listens!;

    private async Task<int> Page(bool takesComments = true)
    {
        var piece = (await server.Post("/api/pieces", new { title = "The ford", format = "essay" })).Body!["number"]!.GetValue<int>();
        var version = (await server.Get($"/api/pieces/{piece}/draft")).Body!["version"]!.GetValue<int>();
        await server.Send(HttpMethod.Put, $"/api/pieces/{piece}/draft", new { text = "It moved.", version });
        var (status, answer, _) = await server.Post(
            "/api/pages",
            new
            {
                piece,
                slug = "the-ford",
                takesComments,
            }
        );
        status.ShouldBe(201, answer?.ToString());
        return answer!["page"]!["number"]!.GetValue<int>();
    }

    /// <summary>Writes a page elsewhere.</summary>
    /// <returns>Its address.</returns>
    private async Task<string> Written(string html)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, elsewhere.Endpoint);
        request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", Token);
        request.Content = new StringContent(
            JsonSerializer.Serialize(
                new { type = new[] { "h-entry" }, properties = new { name = new[] { "Walks" }, content = new[] { new { html } } } }
            ),
            new MediaTypeHeaderValue("application/json")
        );
        return (await reader.SendAsync(request, TestContext.Current.CancellationToken)).Headers.Location!.ToString();
    }

    private async Task<int> Tell(string? source, string? target)
    {
        using var form = new FormUrlEncodedContent(
            new Dictionary<string, string?> { ["source"] = source, ["target"] = target }
                .Where(f => f.Value is not null)
                .Select(f => new KeyValuePair<string, string>(f.Key, f.Value!))
        );
        return (int)(await reader.PostAsync(new Uri(Site, "/mentions"), form, TestContext.Current.CancellationToken)).StatusCode;
    }

    private async Task<JsonArray> Comments(int page) => (await server.Get($"/api/pages/{page}")).Body!["comments"]!.AsArray();

    [Fact]
    public async Task A_mention_is_held_looked_at_shown_and_a_message()
    {
        var page = await Page();
        var target = new Uri(Site, "/the-ford/").ToString();
        (await reader.GetStringAsync(target, TestContext.Current.CancellationToken)).ShouldContain("rel=\"webmention\" href=\"/mentions\"");
        var source = await Written(
            $"<p>Much else.</p><p>I went by <a href=\"{target}\">the ford</a> &amp; got <b>wet</b>.</p><script>x()</script>"
        );
        (await Tell(source, target)).ShouldBe(202);
        (await Tell(source, target)).ShouldBe(202);
        var held = (await Comments(page)).ShouldHaveSingleItem()!;
        held["source"]!.ToString().ShouldBe(source);
        held["person"]!.ToString().ShouldBe("127.0.0.1");

        var (status, answer, _) = await server.Post($"/api/comments/{held["number"]}/look", new { });
        status.ShouldBe(200, answer?.ToString());
        (await Comments(page))[0]!["text"]!.ToString().ShouldBe("I went by the ford & got wet.");
        (await server.Post($"/api/comments/{held["number"]}", new { state = "shown" })).Status.ShouldBe(200);
        var shown = await reader.GetStringAsync(target, TestContext.Current.CancellationToken);
        shown.ShouldContain("I went by the ford &amp; got wet.");
        shown.ShouldContain($"<a href=\"{source}\" rel=\"nofollow ugc\">");
        var message = (await server.Get("/api/messages")).Body!["messages"]!.AsArray().ShouldHaveSingleItem()!;
        message.ToString().ShouldContain(source);
        (await server.Post($"/api/comments/{held["number"]}/look", new { })).Status.ShouldBe(409);
    }

    [Fact]
    public async Task What_does_not_mention_it_or_can_t_be_read_is_said_and_stays_held()
    {
        var page = await Page();
        var target = new Uri(Site, "/the-ford/").ToString();
        var source = await Written($"<p>Only <a href=\"{target.TrimEnd('/')}-again/\">another</a>.</p>");
        (await Tell(source, target)).ShouldBe(202);
        (await Tell(new Uri(elsewhere.Address, "/posts/99").ToString(), target)).ShouldBe(202);
        (await Tell(new Uri(elsewhere.Address, "/micropub?q=config").ToString(), target)).ShouldBe(202);
        foreach (var (at, said) in ((int, string)[])[(0, "answers 401"), (1, "answers 404"), (2, "does not mention this page")])
        {
            var number = (await Comments(page))[at]!["number"];
            var (status, answer, _) = await server.Post($"/api/comments/{number}/look", new { });
            status.ShouldBe(409);
            answer!["detail"]!.ToString().ShouldContain(said);
            (await Comments(page))[at]!["state"]!.ToString().ShouldBe("held");
        }
    }

    [Fact]
    public async Task Nothing_is_fetched_before_the_writer_wants_it_and_what_is_no_mention_is_refused()
    {
        await Page(takesComments: false);
        var target = new Uri(Site, "/the-ford/").ToString();
        (await Tell("https://other.example/1", target)).ShouldBe(400, "it takes none");
        (await Tell("https://other.example/1", new Uri(Site, "/nowhere/").ToString())).ShouldBe(400);
        (await Tell("javascript:alert(1)", target)).ShouldBe(400);
        (await Tell(null, target)).ShouldBe(400);
        (await Tell("https://other.example/1", "https://elsewhere.example/the-ford/")).ShouldBe(400);
        // As with comments, from one address five in ten minutes.
        (await Tell("https://other.example/1", target)).ShouldBe(429);
    }
}
