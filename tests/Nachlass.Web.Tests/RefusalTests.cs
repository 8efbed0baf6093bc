using System.Net.Http.Headers;

namespace Nachlass.Web.Tests;

/// <summary>A server with one slip and one topic on it, for everything that is refused and so changes nothing.</summary>
public sealed class Untouched : IAsyncLifetime
{
    public Server Server { get; } = new();

    public async ValueTask InitializeAsync() => await Server.Catch("one #bells");

    public ValueTask DisposeAsync()
    {
        Server.Dispose();
        return ValueTask.CompletedTask;
    }
}

/// <summary>What is refused, with which reason.</summary>
public sealed class RefusalTests(Untouched untouched) : IClassFixture<Untouched>
{
    private readonly Server server = untouched.Server;

    [Theory]
    [InlineData("POST", "/api/slips", "{\"text\":\"x\",\"format\":\"novel\"}", "format")]
    [InlineData("POST", "/api/slips", "{\"text\":\"x\",\"topics\":[\" \"]}", "topic")]
    [InlineData("POST", "/api/slips", "{\"text\":\"x\",\"topics\":[null]}", "topics[0]")]
    [InlineData("POST", "/api/slips/several", "{\"slips\":[]}", "slips")]
    [InlineData("POST", "/api/slips/several", "{\"slips\":[1],\"pull\":9}", "pull")]
    [InlineData("POST", "/api/slips/several", "{\"slips\":[1],\"decision\":{}}", "decision")]
    [InlineData("POST", "/api/slips/1/split", "{\"version\":1,\"parts\":[\"only one\"]}", "parts")]
    [InlineData("POST", "/api/slips/1/split", "{\"version\":1,\"parts\":[\"one\",\" \"]}", "parts")]
    [InlineData("POST", "/api/slips/join", "{\"slips\":[1]}", "slips")]
    [InlineData("PUT", "/api/slips/1/claim/slip/1", "{\"side\":\"for\"}", "slip")]
    [InlineData("POST", "/api/rules", "{\"name\":\"r\",\"when\":\"kept\",\"query\":\"pul:4\",\"act\":{\"act\":\"start\"}}", "query")]
    [InlineData("POST", "/api/rules", "{\"name\":\"r\",\"when\":\"kept\",\"query\":\"\",\"act\":{\"act\":\"start\"}}", "query")]
    [InlineData("POST", "/api/rules", "{\"name\":\"r\",\"when\":\"kept\",\"query\":\"pull:4\",\"act\":{\"act\":\"burn\"}}", "act")]
    [InlineData("POST", "/api/rules", "{\"name\":\"r\",\"when\":\"kept\",\"query\":\"pull:4\",\"act\":{}}", "act")]
    [InlineData("POST", "/api/rules/try", "{\"name\":\"r\",\"when\":\"kept\",\"query\":\"(\",\"act\":{\"act\":\"start\"}}", "query")]
    [InlineData("POST", "/api/views", "{\"name\":\" \",\"query\":\"pull:4\"}", "name")]
    [InlineData("POST", "/api/views", "{\"name\":\"v\",\"query\":\"since:someday\"}", "query")]
    [InlineData("GET", "/api/find?query=pul%3A4", "", "query")]
    [InlineData("GET", "/api/library?query=(bread", "", "query")]
    [InlineData("GET", "/api/library?state=lost", "", "state")]
    [InlineData("GET", "/api/mentions/thing/1", "", "kind")]
    [InlineData("POST", "/api/usable/slip/1", "{\"paragraph\":\"no such\",\"format\":\"thread\"}", "paragraph")]
    [InlineData("POST", "/api/slips", "{\"text\":\"\"}", "text")]
    [InlineData("POST", "/api/slips", "{}", "text")]
    [InlineData("POST", "/api/slips", "{\"text\":5}", "text")]
    [InlineData("POST", "/api/slips", "{\"tex", "")]
    [InlineData("POST", "/api/slips", "", "")]
    [InlineData("POST", "/api/capture", "{\"lines\":[]}", "lines")]
    [InlineData("PATCH", "/api/slips/1", "{\"text\":\"no version\"}", "version")]
    [InlineData("PATCH", "/api/slips/1", "{\"version\":1,\"pull\":6}", "pull")]
    [InlineData("PATCH", "/api/slips/1", "{\"version\":1,\"kind\":\"thought\"}", "kind")]
    [InlineData("PATCH", "/api/slips/1", "{\"version\":1,\"topics\":[\"a]b\"]}", "topic")]
    [InlineData("PATCH", "/api/slips/1", "{\"version\":1,\"source\":99}", "source")]
    [InlineData("POST", "/api/slips/1/decision", "{\"decision\":\"burn\"}", "decision")]
    [InlineData("POST", "/api/slips/1/decision", "{}", "decision")]
    [InlineData("POST", "/api/slips/1/decision", "{\"decision\":\"hold\",\"until\":\"2020-01-01\"}", "until")]
    [InlineData("POST", "/api/slips/1/decision", "{\"decision\":\"put\",\"piece\":99}", "piece")]
    [InlineData("POST", "/api/slips/1/decision", "{\"decision\":\"start\",\"format\":\"sonnet\"}", "format")]
    [InlineData("GET", "/api/slips?state=lost", "", "state")]
    [InlineData("GET", "/api/slips?page=0", "", "page")]
    [InlineData("POST", "/api/pieces", "{\"title\":\" \"}", "title")]
    [InlineData("POST", "/api/topics", "{\"name\":\"a,b\"}", "name")]
    [InlineData("POST", "/api/sources", "{\"title\":\"t\",\"address\":\"javascript:1\"}", "address")]
    [InlineData("PUT", "/api/purpose", "{\"text\":\"x\"}", "version")]
    public async Task Bad_input_names_the_field_and_changes_nothing(string method, string address, string body, string field)
    {
        using var content = new StringContent(body, new MediaTypeHeaderValue("application/json"));
        var (status, problem, response) = await server.Send(new HttpMethod(method), address, method == "GET" ? null : content);
        status.ShouldBe(400, problem?.ToJsonString());
        response.Content.Headers.ContentType!.MediaType.ShouldBe("application/problem+json");
        problem!["field"]!.GetValue<string>().ShouldBe(field);
        problem["detail"]!.GetValue<string>().Length.ShouldBeGreaterThan(10);
        problem["detail"]!.GetValue<string>().ShouldNotContain("Nachlass.");
        (await server.Get("/api/slips/1")).Body!["version"]!.GetValue<int>().ShouldBe(1);
        (await server.Get("/api/slips")).Body!["total"]!.GetValue<int>().ShouldBe(1);
    }

    [Theory]
    [InlineData("GET", "/api/topics/99/digest")]
    [InlineData("GET", "/api/exports/digests/99.md")]
    [InlineData("GET", "/api/slips/99/claim")]
    [InlineData("PATCH", "/api/rules/99")]
    [InlineData("PATCH", "/api/views/99")]
    [InlineData("POST", "/api/slips/99/split")]
    [InlineData("POST", "/api/topics/99/merge")]
    [InlineData("DELETE", "/api/usable/99")]
    [InlineData("GET", "/api/slips/99")]
    [InlineData("GET", "/api/slips/99/advice")]
    [InlineData("GET", "/api/slips/99/opened")]
    [InlineData("GET", "/api/sources/99")]
    [InlineData("GET", "/api/topics/99")]
    [InlineData("GET", "/api/pieces/99")]
    [InlineData("GET", "/api/pieces/99/draft")]
    [InlineData("GET", "/api/pieces/99/material")]
    [InlineData("GET", "/api/pieces/99/export?as=markdown")]
    [InlineData("GET", "/api/nothing")]
    public async Task What_is_not_there_is_404(string method, string address)
    {
        var body = method is "GET" or "DELETE"
            ? null
            : (object)
                new
                {
                    version = 1,
                    parts = new[] { "a", "b" },
                    into = 1,
                };
        var (status, problem, _) = await server.Send(new HttpMethod(method), address, body);
        status.ShouldBe(404, problem?.ToJsonString());
        problem!["detail"]!.GetValue<string>().ShouldStartWith("There is no");
    }
}
