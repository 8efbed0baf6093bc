using System.Text.Json.Nodes;

namespace Nachlass.Web.Tests;

public sealed class DeskTests : IDisposable
{
    private readonly Server server = new();

    public void Dispose() => server.Dispose();

    private static object Block(
        int number,
        string kind,
        string heading = "",
        string text = "",
        int? size = null,
        string[]? weekdays = null
    ) =>
        new
        {
            number,
            kind,
            heading,
            text,
            size,
            days = new
            {
                weekdays = weekdays ?? [],
                daysOfMonth = Array.Empty<int>(),
                dates = Array.Empty<string>(),
            },
        };

    private Task<(int Status, JsonNode? Body, HttpResponseMessage Response)> Plan(int version, params object[] blocks) =>
        server.Send(
            HttpMethod.Put,
            "/api/desk/plan",
            new
            {
                blocks,
                daysOff = (string[])["sunday"],
                version,
            }
        );

    [Fact]
    public async Task A_plan_is_kept_and_makes_the_sheets_that_are_not_begun()
    {
        (await server.Get("/api/desk/plan")).Body!["version"]!.GetValue<int>().ShouldBe(0);
        var (status, plan, _) = await Plan(
            0,
            Block(1, "question", "For the letter", "An opening line?", weekdays: ["friday"]),
            Block(2, "lines", "First thoughts", size: 2)
        );
        status.ShouldBe(200);
        plan!["version"]!.GetValue<int>().ShouldBe(1);
        (await server.Get("/api/desk?day=2026-11-27")).Body!["blocks"]!.AsArray().Count.ShouldBe(2);
        (await server.Get("/api/desk?day=2026-11-28")).Body!["blocks"]!
            .AsArray()
            .Select(b => b!["kind"]!.GetValue<string>())
            .ShouldBe(["lines"]);
        (await server.Get("/api/desk/month?month=2026-11-05")).Body!["daysOff"]![0]!.GetValue<string>().ShouldBe("sunday");

        var (stale, problem, _) = await Plan(0, Block(1, "moves"));
        stale.ShouldBe(409);
        problem!["current"]!["blocks"]!.AsArray().Count.ShouldBe(2);
    }

    [Theory]
    [InlineData("lines", 0, "size")]
    [InlineData("lines", 21, "size")]
    [InlineData("writing", null, "size")]
    [InlineData("question", null, "text")]
    public async Task A_plan_that_can_not_be_is_refused_with_the_field(string kind, int? size, string field)
    {
        var (status, problem, _) = await Plan(0, Block(1, kind, size: size));
        status.ShouldBe(400);
        problem!["field"]!.GetValue<string>().ShouldBe(field);
        (await server.Get("/api/desk/plan")).Body!["version"]!.GetValue<int>().ShouldBe(0);
    }

    [Fact]
    public async Task A_preview_keeps_nothing_and_says_where_a_fill_in_is_wrong()
    {
        var (_, sheet, _) = await server.Post(
            "/api/desk/plan/preview",
            new
            {
                day = "2026-11-27",
                blocks = (object[])[Block(1, "text", text: "It is {{ weekday }}."), Block(2, "text", text: "one\n{{ wekday }}")],
            }
        );
        sheet![0]!["text"]!.GetValue<string>().ShouldBe("It is Friday.");
        sheet[1]!["fault"]!.ShouldSatisfyAllConditions(
            f => f["line"]!.GetValue<int>().ShouldBe(2),
            f => f["reason"]!.GetValue<string>().ShouldContain("wekday")
        );
        (await server.Get("/api/commands")).Body!.AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task What_is_written_on_a_sheet_goes_where_it_belongs()
    {
        await Plan(
            0,
            Block(1, "lines", "First thoughts", size: 2),
            Block(2, "question", "Best", "What was best?"),
            Block(3, "writing", "Loose", size: 5)
        );
        var (made, slip, _) = await server.Post(
            "/api/desk/2026-11-20/blocks/1/lines",
            new { text = "A bridge for eels #eels", pull = 4 },
            ("Idempotency-Key", "line-1")
        );
        made.ShouldBe(201);
        slip!["day"]!.GetValue<string>().ShouldBe("2026-11-20");
        (
            await server.Post(
                "/api/desk/2026-11-20/blocks/1/lines",
                new { text = "A bridge for eels #eels", pull = 4 },
                ("Idempotency-Key", "line-1")
            )
        ).Body!["number"]!
            .GetValue<int>()
            .ShouldBe(slip["number"]!.GetValue<int>());
        (await server.Send(HttpMethod.Put, "/api/desk/2026-11-20/blocks/2", new { text = "The eels.", version = 0 })).Body!["version"]!
            .GetValue<int>()
            .ShouldBe(1);
        (await server.Send(HttpMethod.Put, "/api/desk/2026-11-20/blocks/2", new { text = "Theirs.", version = 0 })).Body!["current"]![
            "text"
        ]!
            .GetValue<string>()
            .ShouldBe("The eels.");
        (await server.Send(HttpMethod.Put, "/api/desk/2026-11-20/blocks/3", new { text = "not here", version = 0 })).Status.ShouldBe(404);
        (
            await server.Send(
                HttpMethod.Put,
                "/api/desk/2026-11-20/sheet",
                new
                {
                    text = "Rain.\n\nThe wrong bank #voices",
                    version = 0,
                    left = true,
                }
            )
        ).Status.ShouldBe(200);
        (
            await server.Send(
                HttpMethod.Put,
                "/api/desk/2026-11-20/sheet",
                new
                {
                    text = "Rain.",
                    version = 1,
                    idea = "Snow.",
                }
            )
        ).Body!["field"]!.GetValue<string>().ShouldBe("idea");

        var day = (await server.Get("/api/desk?day=2026-11-20")).Body!;
        day["slips"]!.AsArray().Select(s => s!["block"]?.GetValue<int>()).ShouldBe([1, null]);
        day["blocks"]![1]!["text"]!.GetValue<string>().ShouldBe("The eels.");
        var marks = (await server.Get("/api/desk/month?month=2026-11-20")).Body!["days"]![19]!;
        marks["wrote"]!.GetValue<bool>().ShouldBeTrue();
        marks["ideas"]!.GetValue<int>().ShouldBe(2);
    }

    [Fact]
    public async Task What_waited_on_the_phone_is_caught_when_it_was()
    {
        var (_, caught, _) = await server.Post(
            "/api/capture",
            new
            {
                lines = new[]
                {
                    new
                    {
                        text = "while walking",
                        origin = "phone",
                        at = "2026-11-03T18:20:00Z",
                    },
                },
            }
        );
        caught![0]!["slip"]!["caughtAt"]!.GetValue<DateTimeOffset>().ShouldBe(new DateTimeOffset(2026, 11, 3, 18, 20, 0, TimeSpan.Zero));
        (await server.Get("/api/sift")).Body!["groups"]![0]!["origin"]!.GetValue<string>().ShouldBe("phone");
    }
}

public sealed class PhoneTests : IDisposable
{
    private readonly Server server = new();

    public void Dispose() => server.Dispose();

    /// <summary>The page of the phone, what makes it installable, and what keeps it at hand.</summary>
    [Theory]
    [InlineData("/c", "text/html", "no-store")]
    [InlineData("/phone.webmanifest", "application/manifest+json", null)]
    [InlineData("/phone-worker.js", "text/javascript", "no-cache")]
    public async Task The_phone_gets_what_it_needs(string address, string type, string? kept)
    {
        var response = await server.Client.GetAsync(new Uri(address, UriKind.Relative), TestContext.Current.CancellationToken);
        ((int)response.StatusCode).ShouldBe(200);
        response.Content.Headers.ContentType!.MediaType.ShouldBe(type);
        if (kept is not null)
            response.Headers.CacheControl!.ToString().ShouldBe(kept);
        response.Headers.GetValues("Content-Security-Policy").Single().ShouldNotContain("unsafe");
    }

    [Fact]
    public async Task The_manifest_takes_what_other_apps_share()
    {
        var manifest = JsonNode.Parse(
            await server.Client.GetStringAsync(new Uri("/phone.webmanifest", UriKind.Relative), TestContext.Current.CancellationToken)
        )!;
        manifest["scope"]!.GetValue<string>().ShouldBe("/c");
        manifest["share_target"]!.ShouldSatisfyAllConditions(
            s => s["action"]!.GetValue<string>().ShouldBe("/c"),
            s => s["params"]!["url"]!.GetValue<string>().ShouldBe("url")
        );
        foreach (var icon in manifest["icons"]!.AsArray())
            (
                (int)
                    (
                        await server.Client.GetAsync(
                            new Uri(icon!["src"]!.GetValue<string>(), UriKind.Relative),
                            TestContext.Current.CancellationToken
                        )
                    ).StatusCode
            ).ShouldBe(200);
    }
}
