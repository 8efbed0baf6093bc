using System.Net.Http.Headers;
using System.Text.RegularExpressions;

namespace Nachlass.Web.Tests;

public sealed partial class KeysTests : IDisposable
{
    private readonly Server server = new();

    public void Dispose() => server.Dispose();

    private async Task<string> Made(string name)
    {
        var (status, made, _) = await server.Post("/api/keys", new { name });
        status.ShouldBe(201);
        return made!["secret"]!.GetValue<string>();
    }

    private static (string, string) With(string secret) => ("Authorization", $"Bearer {secret}");

    [Fact]
    public async Task A_key_adds_under_its_name_and_does_nothing_else()
    {
        var secret = await Made("shortcut on the phone");
        secret.ShouldStartWith("nachlass_");
        var (status, caught, _) = await server.Post("/api/capture", new { text = "Why do fords keep saints’ names? #fords" }, With(secret));
        status.ShouldBe(201);
        caught![0]!["slip"]!.ShouldSatisfyAllConditions(
            s => s["origin"]!.GetValue<string>().ShouldBe("program"),
            s => s["originNote"]!.GetValue<string>().ShouldBe("shortcut on the phone"),
            s => s["kind"]!.GetValue<string>().ShouldBe("question")
        );
        (await server.Get("/api/keys")).Body![0]!["usedAt"].ShouldNotBeNull();

        foreach (
            var (method, address) in ((HttpMethod, string)[])
                [
                    (HttpMethod.Get, "/api/slips"),
                    (HttpMethod.Get, "/api/capture"),
                    (HttpMethod.Post, "/api/slips"),
                    (HttpMethod.Post, "/api/keys"),
                    (HttpMethod.Delete, "/api/keys/1"),
                    (HttpMethod.Get, "/desk"),
                ]
        )
            (await server.Send(method, address, new { text = "x", name = "x" }, With(secret))).Status.ShouldBe(403, $"{method} {address}");
        (await server.Get("/api/slips")).Body!["total"]!.GetValue<int>().ShouldBe(1);
    }

    [Fact]
    public async Task A_key_that_was_withdrawn_or_never_made_opens_nothing()
    {
        var secret = await Made("old script");
        (await server.Send(HttpMethod.Delete, "/api/keys/1")).Status.ShouldBe(200);
        foreach (var wrong in (string[])[secret, secret + "x", "", "nachlass_"])
        {
            var (status, problem, response) = await server.Post("/api/capture", new { text = "let me in" }, With(wrong));
            status.ShouldBe(401);
            response.Headers.WwwAuthenticate.ToString().ShouldBe("Bearer");
            problem!["detail"]!.GetValue<string>().ShouldContain("Make one in Nachlass");
        }
        (await server.Post("/api/capture", new { text = "let me in" }, ("Authorization", "Basic " + secret))).Status.ShouldBe(401);
        (await server.Get("/api/slips")).Body!["total"]!.GetValue<int>().ShouldBe(0);
        (await server.Get("/api/keys")).Body![0]!["withdrawnAt"].ShouldNotBeNull();
        (await server.Send(HttpMethod.Delete, "/api/keys/9")).Status.ShouldBe(404);
    }

    [Fact]
    public async Task The_secret_is_told_once_and_kept_nowhere()
    {
        var secret = await Made("script");
        (await server.Get("/api/keys")).Body!.ToJsonString().ShouldNotContain(secret);
        foreach (var file in Directory.GetFiles(server.Folder, "papers.db*"))
        {
            await using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
            using var memory = new MemoryStream();
            await stream.CopyToAsync(memory, TestContext.Current.CancellationToken);
            memory.ToArray().AsSpan().IndexOf(System.Text.Encoding.UTF8.GetBytes(secret)).ShouldBe(-1, file);
        }
        (await server.Post("/api/keys", new { name = " " })).Body!["field"]!.GetValue<string>().ShouldBe("name");
    }

    [Fact]
    public async Task Too_many_at_once_are_told_when_to_come_back()
    {
        var secret = await Made("eager");
        var answers = new List<int>();
        for (var i = 0; i < 70; i++)
            answers.Add((await server.Post("/api/capture", new { text = $"idea {i}" }, With(secret))).Status);
        answers.Take(60).ShouldAllBe(status => status == 201);
        answers[^1].ShouldBe(429);
        var (_, problem, response) = await server.Post("/api/capture", new { text = "more" }, With(secret));
        response.Headers.RetryAfter!.Delta!.Value.TotalSeconds.ShouldBeInRange(1, 60);
        problem!["detail"]!.GetValue<string>().ShouldContain("nothing was added");
        // The writer's own desk is not held up by it.
        (await server.Post("/api/capture", new { text = "mine" })).Status.ShouldBe(201);
    }

    /// <summary>The example in the docs is sent as it stands there.</summary>
    [Fact]
    public async Task The_example_in_the_docs_works()
    {
        var docs = await File.ReadAllTextAsync(Path.Combine(Shape.Root, "docs", "capture.md"), TestContext.Current.CancellationToken);
        var curl = Command().Match(docs).Value;
        var headers = Header().Matches(curl).Select(m => (m.Groups[1].Value, m.Groups[2].Value)).ToDictionary();
        headers["Authorization"].ShouldBe("Bearer $NACHLASS_KEY");
        using var body = new StringContent(Body().Match(curl).Groups[1].Value, new MediaTypeHeaderValue(headers["Content-Type"]));
        var (status, caught, _) = await server.Send(
            HttpMethod.Post,
            new Uri(Address().Match(curl).Value).AbsolutePath,
            body,
            With(await Made("docs")),
            ("Idempotency-Key", "1")
        );
        status.ShouldBe(201);
        caught![0]!["slip"]!["topics"]![0]!["name"]!.GetValue<string>().ShouldBe("voices");
    }

    [GeneratedRegex(@"^curl .*?'$", RegexOptions.Singleline | RegexOptions.Multiline)]
    private static partial Regex Command();

    [GeneratedRegex("-H \"([^:]+): ([^\"]+)\"")]
    private static partial Regex Header();

    [GeneratedRegex("-d '([^']+)'")]
    private static partial Regex Body();

    [GeneratedRegex(@"https?://\S+")]
    private static partial Regex Address();
}
