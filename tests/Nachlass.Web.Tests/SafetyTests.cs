using System.Net.Http.Headers;

namespace Nachlass.Web.Tests;

public sealed class SafetyTests : IDisposable
{
    private readonly Server server = new();

    public void Dispose() => server.Dispose();

    [Fact]
    public async Task Every_page_has_a_strict_policy()
    {
        var response = await server.Client.GetAsync(new Uri("/desk", UriKind.Relative), TestContext.Current.CancellationToken);
        var policy = response.Headers.GetValues("Content-Security-Policy").Single();
        policy.ShouldContain("default-src 'none'");
        policy.ShouldContain("script-src 'self';");
        policy.ShouldNotContain("unsafe");
        policy.ShouldNotContain("http");
        response.Headers.GetValues("X-Content-Type-Options").Single().ShouldBe("nosniff");
    }

    [Theory]
    [InlineData("http://evil.example")]
    [InlineData("null")]
    [InlineData("http://127.0.0.1:1")]
    public async Task A_page_on_another_site_can_not_write(string origin)
    {
        (await server.Post("/api/slips", new { text = "sent by a stranger" }, ("Origin", origin))).Status.ShouldBe(403);
        (await server.Get("/api/slips")).Body!["total"]!.GetValue<int>().ShouldBe(0);
    }

    [Fact]
    public async Task A_plain_form_can_not_write_either()
    {
        using var form = new StringContent("{\"text\":\"form\"}", new MediaTypeHeaderValue("text/plain"));
        (await server.Send(HttpMethod.Post, "/api/slips", form)).Status.ShouldBeOneOf(404, 415);
        (await server.Get("/api/slips")).Body!["total"]!.GetValue<int>().ShouldBe(0);
        (await server.Post("/api/slips", new { text = "cross" }, ("Sec-Fetch-Site", "cross-site"))).Status.ShouldBe(403);
    }

    [Fact]
    public async Task The_app_itself_can_write()
    {
        var origin = server.Client.BaseAddress!.GetLeftPart(UriPartial.Authority);
        (await server.Post("/api/slips", new { text = "mine" }, ("Origin", origin), ("Sec-Fetch-Site", "same-origin"))).Status.ShouldBe(
            201
        );
    }

    [Fact]
    public async Task Another_host_name_is_refused()
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, "/api/slips");
        request.Headers.Host = "rebound.example";
        var response = await server.Client.SendAsync(request, TestContext.Current.CancellationToken);
        ((int)response.StatusCode).ShouldBe(400);
    }

    [Fact]
    public async Task What_is_shown_has_been_through_the_sanitiser()
    {
        await server.Catch("hello <img src=x onerror=alert(1)> <script>alert(2)</script>");
        var html = (await server.Get("/api/slips/1/opened")).Body!["html"]!.GetValue<string>();
        html.ShouldNotContain("onerror");
        html.ShouldNotContain("<script");
    }

    [Fact]
    public async Task A_capture_is_told_to_every_open_tab()
    {
        using var cancel = CancellationTokenSource.CreateLinkedTokenSource(TestContext.Current.CancellationToken);
        cancel.CancelAfter(TimeSpan.FromSeconds(20));
        using var stream = await server.Client.GetStreamAsync(new Uri("/api/events", UriKind.Relative), cancel.Token);
        using var reader = new StreamReader(stream);
        (await reader.ReadLineAsync(cancel.Token)).ShouldBe("event: beat");
        await server.Catch("from the phone");
        string? line;
        do
        {
            line = await reader.ReadLineAsync(cancel.Token);
        } while (line is not null && !line.StartsWith("data: {", StringComparison.Ordinal));
        line.ShouldNotBeNull().ShouldContain("\"what\":\"caught slip 1\"");
        line.ShouldContain("\"slip\"");
    }
}
