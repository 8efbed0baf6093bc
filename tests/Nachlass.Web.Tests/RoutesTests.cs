using System.Net.Http.Headers;
using System.Text.Json.Nodes;

namespace Nachlass.Web.Tests;

public sealed class RoutesTests : IDisposable
{
    private readonly Server server = new();

    public void Dispose() => server.Dispose();

    [Fact]
    public async Task A_typed_line_becomes_a_finished_file()
    {
        (await server.Get("/api/health")).Body!["status"]!.GetValue<string>().ShouldBe("well");
        var (status, slip, response) = await server.Post("/api/slips", new { text = "Ferrymen paid in bread #ferries" });
        status.ShouldBe(201);
        response.Headers.Location!.ToString().ShouldBe("/api/slips/1");
        slip!["topics"]![0]!["name"]!.GetValue<string>().ShouldBe("ferries");
        (await server.Get("/api/sift")).Body!["waiting"]!.GetValue<int>().ShouldBe(1);

        var (_, settled, _) = await server.Post("/api/slips/1/decision", new { decision = "start", format = "essay" });
        settled!["piece"]!.GetValue<int>().ShouldBe(1);
        var (_, draft, _) = await server.Get("/api/pieces/1/draft");
        var saved = await server.Send(
            HttpMethod.Put,
            "/api/pieces/1/draft",
            new { text = "## The bread column\n\nFour loaves. [[slip 1]]\n", version = draft!["version"]!.GetValue<int>() }
        );
        saved.Body!["counts"]!["words"]!.GetValue<int>().ShouldBe(2);
        (await server.Get("/api/pieces/1/outline")).Body!.AsArray().Count.ShouldBe(1);

        var (_, markdown, file) = await server.Get("/api/pieces/1/export?as=markdown");
        markdown!.GetValue<string>().ShouldBe("# Ferrymen paid in bread\n\n## The bread column\n\nFour loaves.\n");
        file.Content.Headers.ContentDisposition!.FileName.ShouldBe("ferrymen-paid-in-bread.md");
        var (_, html, _) = await server.Get("/api/pieces/1/export?as=html");
        html!
            .GetValue<string>()
            .ShouldSatisfyAllConditions(
                h => h.ShouldStartWith("<!doctype html>"),
                h => h.ShouldNotContain("[["),
                h => h.ShouldNotContain("<script")
            );
    }

    [Fact]
    public async Task A_request_sent_again_is_done_once()
    {
        var first = await server.Post("/api/slips", new { text = "once" }, ("Idempotency-Key", "k-1"));
        var second = await server.Post("/api/slips", new { text = "once" }, ("Idempotency-Key", "k-1"));
        second.Status.ShouldBe(201);
        second.Body!.ToJsonString().ShouldBe(first.Body!.ToJsonString());
        second.Response.Headers.GetValues("Nachlass-Command").ShouldBe(first.Response.Headers.GetValues("Nachlass-Command"));
        (await server.Get("/api/slips")).Body!["total"]!.GetValue<int>().ShouldBe(1);
        var other = await server.Post("/api/capture", new { lines = new[] { new { text = "else" } } }, ("Idempotency-Key", "k-1"));
        other.Status.ShouldBe(400);
        other.Body!["field"]!.GetValue<string>().ShouldBe("Idempotency-Key");
    }

    [Fact]
    public async Task Many_retries_at_once_make_one_slip()
    {
        var answers = await Task.WhenAll(
            Enumerable.Range(0, 12).Select(_ => server.Post("/api/slips", new { text = "storm" }, ("Idempotency-Key", "k-2")))
        );
        answers.Select(a => a.Body!["number"]!.GetValue<int>()).Distinct().ShouldHaveSingleItem();
        (await server.Get("/api/slips")).Body!["total"]!.GetValue<int>().ShouldBe(1);
    }

    [Fact]
    public async Task A_stale_version_gets_the_current_state()
    {
        await server.Catch("one");
        var (_, _, read) = await server.Get("/api/slips/1");
        read.Headers.ETag!.Tag.ShouldBe("\"1\"");
        (await server.Send(HttpMethod.Patch, "/api/slips/1", new { text = "mine" }, ("If-Match", "\"1\""))).Status.ShouldBe(200);
        var (status, problem, _) = await server.Send(HttpMethod.Patch, "/api/slips/1", new { text = "theirs", version = 1 });
        status.ShouldBe(409);
        problem!["current"]!["text"]!.GetValue<string>().ShouldBe("mine");
        (await server.Send(HttpMethod.Patch, "/api/slips/1", new { text = "x" }, ("If-Match", "nonsense"))).Body!["field"]!
            .GetValue<string>()
            .ShouldBe("If-Match");
    }

    [Fact]
    public async Task A_field_left_out_stays_and_null_clears_it()
    {
        await server.Catch("one");
        await server.Send(
            HttpMethod.Patch,
            "/api/slips/1",
            new
            {
                version = 1,
                pull = 4,
                effort = 2,
            }
        );
        var (_, slip, _) = await server.Send(HttpMethod.Patch, "/api/slips/1", new { version = 2, effort = (int?)null });
        slip!["pull"]!.GetValue<int>().ShouldBe(4);
        slip["effort"].ShouldBeNull();
    }

    [Theory]
    [InlineData("/api/slips", 1 << 20)]
    [InlineData("/api/pieces/1/draft", 10 << 20)]
    public async Task A_body_over_its_limit_is_413(string address, int limit)
    {
        await server.Post("/api/pieces", new { title = "one" });
        var method = address.EndsWith("draft", StringComparison.Ordinal) ? HttpMethod.Put : HttpMethod.Post;
        using var body = new StringContent(
            $"{{\"text\":\"{new string('a', limit)}\",\"version\":2}}",
            new MediaTypeHeaderValue("application/json")
        );
        var (status, problem, _) = await server.Send(method, address, body);
        status.ShouldBe(413);
        problem!["status"]!.GetValue<int>().ShouldBe(413);
    }

    [Fact]
    public async Task Every_command_can_be_taken_back_by_its_number()
    {
        await server.Catch("one");
        var (_, _, kept) = await server.Post("/api/slips/1/decision", new { decision = "keep" });
        var command = kept.Headers.GetValues("Nachlass-Command").Single();
        (await server.Post($"/api/commands/{command}/undo", new { })).Body!["what"]!.GetValue<string>().ShouldBe("took back: kept slip 1");
        (await server.Get("/api/slips/1")).Body!["state"]!.GetValue<string>().ShouldBe("waiting");
        (await server.Post($"/api/commands/{command}/undo", new { })).Status.ShouldBe(409);
        // The history tells of steps, not of the walk over them.
        (await server.Get("/api/commands"))
            .Body!.AsArray()
            .Select(c => c!["undone"]!.GetValue<bool>())
            .ShouldBe([true, false]);
    }

    [Fact]
    public async Task A_line_can_be_read_before_it_is_caught()
    {
        var (_, read, _) = await server.Post("/api/capture/reading", new { text = "Why do fords keep saints’ names? #fords" });
        read!["reading"]!["kind"]!.GetValue<string>().ShouldBe("question");
        read["reading"]!["topics"]![0]!.GetValue<string>().ShouldBe("fords");
        (await server.Post("/api/capture/reading", new { text = "- one\n- two" })).Body!["lines"]!.AsArray().Count.ShouldBe(2);
        var (_, caught, _) = await server.Post(
            "/api/capture",
            new
            {
                lines = new object[]
                {
                    new { text = "- [ ] ask tomorrow" },
                    new { text = "https://tavle.example/a" },
                    new { text = "- [ ] kept as slip", overruling = new { move = false, kind = "note" } },
                },
            }
        );
        caught![0]!["move"]!["text"]!.GetValue<string>().ShouldBe("ask tomorrow");
        caught[1]!["source"]!["address"]!.GetValue<string>().ShouldBe("https://tavle.example/a");
        caught[2]!["slip"]!["kind"]!.GetValue<string>().ShouldBe("note");
    }

    [Fact]
    public async Task Papers_go_out_as_a_zip_and_come_into_empty_papers()
    {
        await server.Catch("one #ferries");
        var zip = await server.Client.GetByteArrayAsync("/api/papers/export", TestContext.Current.CancellationToken);
        using var other = new Server();
        using (var body = new ByteArrayContent(zip) { Headers = { ContentType = new("application/zip") } })
            (await other.Send(HttpMethod.Post, "/api/papers/import", body)).Body!["slips"]!.GetValue<int>().ShouldBe(1);
        (await other.Client.GetByteArrayAsync("/api/papers/export", TestContext.Current.CancellationToken)).ShouldBe(zip);
        (await other.Get("/api/find?query=one")).Body!["hits"]!.AsArray().Count.ShouldBe(1);
        using (var again = new ByteArrayContent(zip) { Headers = { ContentType = new("application/zip") } })
            (await other.Send(HttpMethod.Post, "/api/papers/import", again)).Status.ShouldBe(409);
        using var broken = new ByteArrayContent([1, 2, 3]) { Headers = { ContentType = new("application/zip") } };
        (await other.Send(HttpMethod.Post, "/api/papers/import", broken)).Body!["detail"]!
            .GetValue<string>()
            .ShouldContain("can't be read");
    }

    [Fact]
    public async Task Material_outline_and_insertion_work_over_the_wire()
    {
        await server.Catch("“Four loaves, no coin”");
        await server.Post(
            "/api/pieces",
            new
            {
                title = "The far bank",
                format = "talk",
                slip = 1,
            }
        );
        var (_, draft, _) = await server.Get("/api/pieces/1/draft");
        var section = draft!["sections"]![0]!["number"]!.GetValue<int>();
        var version = draft["version"]!.GetValue<int>();
        (await server.Send(HttpMethod.Put, "/api/pieces/1/material", new { slip = 1, section })).Status.ShouldBe(200);
        (await server.Get("/api/pieces/1/material")).Body!["items"]![0]!["section"]!.GetValue<int>().ShouldBe(section);
        (await server.Post("/api/pieces/1/insertion", new { slip = 1, version })).Body!["field"]!.GetValue<string>().ShouldBe("as");
        var (_, inserted, _) = await server.Post(
            "/api/pieces/1/insertion",
            new
            {
                slip = 1,
                @as = "quotation",
                version,
                at = 0,
            }
        );
        // It goes where the slip is placed, not to the cursor.
        inserted!["draft"]!["text"]!
            .GetValue<string>()
            .ShouldContain("## An image to begin with\n\n> “Four loaves, no coin” [[slip 1]]\n\n## The claim");
        inserted["section"]!.GetValue<int>().ShouldBe(section);
        version = inserted["draft"]!["version"]!.GetValue<int>();
        var (_, back, _) = await server.Post("/api/pieces/1/back", new { });
        back!["draft"]!["text"]!.GetValue<string>().ShouldBe(draft["text"]!.GetValue<string>());
        var (_, forward, _) = await server.Post("/api/pieces/1/forward", new { });
        version = forward!["draft"]!["version"]!.GetValue<int>();
        (await server.Post("/api/pieces/1/forward", new { })).Status.ShouldBe(409);
        var (_, added, _) = await server.Post("/api/pieces/1/outline", new { title = "More", version });
        added!["sections"]!.AsArray().Count.ShouldBe(7);
        version = added["version"]!.GetValue<int>();
        var last = added["sections"]![6]!["number"]!.GetValue<int>();
        var (_, moved, _) = await server.Post(
            $"/api/pieces/1/outline/{last}/move",
            new
            {
                version,
                before = section,
                depth = 1,
            }
        );
        moved!["sections"]![0]!["title"]!.GetValue<string>().ShouldBe("More");
        (await server.Send(HttpMethod.Delete, $"/api/pieces/1/outline/{last}?version={version}")).Status.ShouldBe(409);
        (await server.Send(HttpMethod.Delete, $"/api/pieces/1/outline/{last}?version={moved["version"]}")).Body!["sections"]!
            .AsArray()
            .Count.ShouldBe(6);
        (await server.Send(HttpMethod.Delete, "/api/pieces/1/material/slip/1")).Status.ShouldBe(200);
        (await server.Post("/api/counts", new { text = "one two" })).Body!["words"]!.GetValue<int>().ShouldBe(2);
    }
}
