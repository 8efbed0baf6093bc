using System.Diagnostics;
using System.Text.Json.Nodes;

namespace Nachlass.Web.Tests;

/// <summary>The plan over HTTP, and as a calendar that another program reads.</summary>
public sealed class PlanTests : IDisposable
{
    private readonly Server server = new();

    public void Dispose() => server.Dispose();

    private async Task<JsonNode> Put(string path, object body)
    {
        var (status, answer, _) = await server.Send(HttpMethod.Put, path, body);
        status.ShouldBe(200, answer?.ToString());
        return answer!;
    }

    private async Task<JsonNode> Post(string path, object body)
    {
        var (status, answer, _) = await server.Send(HttpMethod.Post, path, body);
        status.ShouldBeOneOf(200, 201);
        return answer!;
    }

    private async Task<int> Letters()
    {
        var outlet = (await Post("/api/outlets", new { name = "Low Water", formats = (string[])["letter"] }))["number"]!.GetValue<int>();
        await Put($"/api/outlets/{outlet}/cadences/letter", new { said = "every Thursday", from = "2026-12-03" });
        return outlet;
    }

    [Fact]
    public async Task Outlets_hours_and_dates_are_set_and_make_the_plan()
    {
        var outlet = await Letters();
        (await server.Get("/api/outlets")).Body!.AsArray().Count.ShouldBe(1);
        await Put("/api/plan/hours", new { byWeekday = (double[])[3, 3, 3, 3, 3, 0, 0] });
        var piece = (
            await Post(
                "/api/pieces",
                new
                {
                    title = "Letter 40",
                    format = "letter",
                    due = "2026-12-10",
                    outlet,
                }
            )
        )["number"]!;
        var plan = (await server.Get("/api/plan?from=2026-11-30&to=2026-12-20")).Body!;
        plan["weeks"]!.AsArray().Count.ShouldBe(3);
        var entries = plan["entries"]!.AsArray();
        entries.Count(e => e!["kind"]!.GetValue<string>() == "open").ShouldBe(2);
        entries.Count(e => e!["kind"]!.GetValue<string>() == "stage").ShouldBe(5);
        var tried = (await server.Get($"/api/plan/trying?piece={piece}&on=2026-12-17")).Body!;
        tried["missing"]!.GetValue<double>().ShouldBe(0);
        (await server.Get("/api/plan/mix?by=format")).Body!["lines"]!.AsArray().Count.ShouldBeGreaterThan(3);
        var filling = await Post("/api/plan/filling", new { from = "2026-12-01", to = "2026-12-31" });
        filling["bound"].ShouldNotBeNull();

        var (status, refused, _) = await server.Send(HttpMethod.Put, "/api/plan/hours", new { byWeekday = (double[])[1, 2] });
        status.ShouldBe(400);
        refused!.ToString().ShouldContain("seven days");
        (await server.Get("/api/plan/mix?by=colour")).Status.ShouldBe(400);
    }

    [Fact]
    public async Task The_calendar_is_read_at_its_secret_address_by_another_program_until_it_is_withdrawn()
    {
        var outlet = await Letters();
        await Post(
            "/api/pieces",
            new
            {
                title = "Letter 40: naïve; a, b",
                format = "letter",
                due = "2026-12-10",
                outlet,
            }
        );
        await Post("/api/moves", new { text = "ask Pell", due = "2026-12-01" });
        (await server.Get("/api/plan/calendar")).Body!["isOn"]!.GetValue<bool>().ShouldBeFalse();
        var first = (await Post("/api/plan/calendar", new { }))["path"]!.GetValue<string>();
        var second = (await Post("/api/plan/calendar", new { }))["path"]!.GetValue<string>();
        (await server.Client.GetAsync(new Uri(first, UriKind.Relative), TestContext.Current.CancellationToken)).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.NotFound
        );
        using var answer = await server.Client.GetAsync(new Uri(second, UriKind.Relative), TestContext.Current.CancellationToken);
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("text/calendar");
        var text = await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        Read(text).ShouldBe(["2026-12-01 ask Pell alarm", "2026-12-03 Open: Letter", "2026-12-10 Letter 40: naïve; a, b goes out"]);
        // Each thing is one, and the same at the next asking.
        var uids = text.Split('\n').Where(line => line.StartsWith("UID:", StringComparison.Ordinal)).ToList();
        uids.ShouldBe(uids.Distinct());

        (await server.Send(HttpMethod.Delete, "/api/plan/calendar", null)).Status.ShouldBe(200);
        (await server.Client.GetAsync(new Uri(second, UriKind.Relative), TestContext.Current.CancellationToken)).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.NotFound
        );
    }

    /// <summary>The events up to the letter, as an independent reader has them where one is installed, else as our own has.</summary>
    private static string[] Read(string calendar)
    {
        const string reader = """
            import sys
            from icalendar import Calendar
            for event in Calendar.from_ical(sys.stdin.buffer.read()).walk('VEVENT'):
                day = event['DTSTART'].dt.isoformat()
                print(event['UID'], day, event['SUMMARY'], 'alarm' if event.subcomponents else '', sep='|')
            """;
        var read = By(reader, calendar) ?? string.Join('\n', Ical.Net.Calendar.Load(calendar)!.Events.Select(Said));
        return
        [
            .. read.Split('\n', StringSplitOptions.RemoveEmptyEntries)
                .Select(line => line.Split('|'))
                .Where(e => !e[0].StartsWith("stage", StringComparison.Ordinal) && string.CompareOrdinal(e[1], "2026-12-10") <= 0)
                .Select(e => $"{e[1]} {e[2]} {e[3]}".Trim()),
        ];
    }

    private static string Said(Ical.Net.CalendarComponents.CalendarEvent e) =>
        $"{e.Uid}|{e.Start!.Value:yyyy-MM-dd}|{e.Summary}|{(e.Alarms.Count > 0 ? "alarm" : "")}";

    /// <summary>What a script in Python makes of a text; null where it can't be run.</summary>
    private static string? By(string script, string text)
    {
        if (!File.Exists("/usr/bin/python3"))
            return null;
        var start = new ProcessStartInfo("/usr/bin/python3", ["-c", script])
        {
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
        };
        start.Environment["PYTHONIOENCODING"] = "utf-8";
        using var run = Process.Start(start)!;
        run.StandardInput.Write(text);
        run.StandardInput.Close();
        var said = run.StandardOutput.ReadToEnd();
        run.WaitForExit();
        return run.ExitCode == 0 ? said : null;
    }
}
