using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text.Json.Nodes;

namespace Nachlass.Web.Tests;

/// <summary>The program as it is started from a shell: what it says, and what is left when it is killed.</summary>
public sealed class ProgramTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("nachlass-run-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private static int FreePort()
    {
        using var socket = new TcpListener(IPAddress.Loopback, 0);
        socket.Start();
        return ((IPEndPoint)socket.LocalEndpoint).Port;
    }

    private static Process Start(string data, string url)
    {
        // A shell that runs the tests in the background has its children ignore Ctrl+C; a terminal does not.
        var start = new ProcessStartInfo(
            "env",
            ["--default-signal=INT", "dotnet", Path.Combine(AppContext.BaseDirectory, "Nachlass.Web.dll")]
        )
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        start.Environment["NACHLASS_DATA"] = data;
        start.Environment["NACHLASS_URL"] = url;
        return Process.Start(start)!;
    }

    private static async Task<string> Running(Process process)
    {
        var line = await process
            .StandardOutput.ReadLineAsync(TestContext.Current.CancellationToken)
            .AsTask()
            .WaitAsync(TimeSpan.FromSeconds(60));
        return line.ShouldNotBeNull(await ErrorOf(process));
    }

    private static async Task<string> ErrorOf(Process process) => process.HasExited ? await process.StandardError.ReadToEndAsync() : "";

    private static async Task<(int Code, string Error)> Ended(Process process)
    {
        await process.WaitForExitAsync(TestContext.Current.CancellationToken).WaitAsync(TimeSpan.FromSeconds(60));
        return (process.ExitCode, (await process.StandardError.ReadToEndAsync(TestContext.Current.CancellationToken)).Trim());
    }

    [Fact]
    public async Task An_acknowledged_write_survives_being_killed()
    {
        var url = $"http://127.0.0.1:{FreePort()}";
        using var client = new HttpClient { BaseAddress = new Uri(url) };
        var numbers = new List<int>();
        using (var first = Start(folder, url))
        {
            (await Running(first)).ShouldContain(url);
            for (var i = 0; i < 20; i++)
            {
                var answer = await client.PostAsJsonAsync("/api/slips", new { text = $"idea {i}" }, TestContext.Current.CancellationToken);
                numbers.Add(
                    JsonNode.Parse(await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken))![
                        "number"
                    ]!.GetValue<int>()
                );
            }
            first.Kill(entireProcessTree: true);
            await first.WaitForExitAsync(TestContext.Current.CancellationToken);
        }
        using var second = Start(folder, url);
        await Running(second);
        foreach (var number in numbers)
            (
                await client.GetAsync(new Uri($"/api/slips/{number}", UriKind.Relative), TestContext.Current.CancellationToken)
            ).StatusCode.ShouldBe(HttpStatusCode.OK);

        // Ctrl+C: it stops cleanly and soon, also while a tab listens.
        using var listening = await client.GetStreamAsync(new Uri("/api/events", UriKind.Relative), TestContext.Current.CancellationToken);
        using (var signal = Process.Start("kill", ["-INT", second.Id.ToString(System.Globalization.CultureInfo.InvariantCulture)]))
            await signal.WaitForExitAsync(TestContext.Current.CancellationToken);
        (await Ended(second)).ShouldBe((0, ""));
    }

    [Fact]
    public async Task A_port_that_is_taken_is_said_in_one_line()
    {
        using var taken = new TcpListener(IPAddress.Loopback, 0);
        taken.Start();
        using var process = Start(folder, $"http://127.0.0.1:{((IPEndPoint)taken.LocalEndpoint).Port}");
        var (code, error) = await Ended(process);
        code.ShouldBe(1);
        error.ShouldContain("NACHLASS_URL");
        error.Split('\n').Length.ShouldBe(1);
    }

    [Theory]
    [InlineData("http://0.0.0.0:5999", "read along")]
    [InlineData("nonsense", "should be an address")]
    public async Task An_address_others_can_reach_is_refused(string url, string says)
    {
        using var process = Start(folder, url);
        var (code, error) = await Ended(process);
        code.ShouldBe(1);
        error.ShouldContain(says);
    }

    [Fact]
    public async Task A_file_that_is_damaged_is_said_in_one_line()
    {
        await File.WriteAllTextAsync(Path.Combine(folder, "papers.db"), new string('x', 9000), TestContext.Current.CancellationToken);
        using var process = Start(folder, $"http://127.0.0.1:{FreePort()}");
        var (code, error) = await Ended(process);
        code.ShouldBe(1);
        error.ShouldContain("damaged");
        error.Split('\n').Length.ShouldBe(1);
    }

    [Fact]
    public async Task A_demo_never_replaces_real_papers()
    {
        var precious = Path.Combine(folder, "papers.db");
        await File.WriteAllTextAsync(precious, "precious", TestContext.Current.CancellationToken);
        var demo = Path.Combine(Shape.Root, "demo");
        var start = new ProcessStartInfo(
            "dotnet",
            [Path.Combine(AppContext.BaseDirectory, "Nachlass.Web.dll"), "--demo", demo, "--data", folder]
        )
        {
            RedirectStandardError = true,
        };
        using var process = Process.Start(start)!;
        var (code, error) = await Ended(process);
        code.ShouldBe(1);
        error.ShouldContain("would replace it");
        (await File.ReadAllTextAsync(precious, TestContext.Current.CancellationToken)).ShouldBe("precious");
    }
}
