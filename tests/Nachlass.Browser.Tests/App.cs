using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using System.Runtime.CompilerServices;
using Microsoft.AspNetCore.Builder;

namespace Nachlass.Browser.Tests;

/// <summary>The program on a port and in a folder of its own. It runs here, beside the others, so that not every test waits until a
/// program is warm; a test that kills it says so with <c>[Trait(App.Server, App.IsKilled)]</c> and has one that runs by itself.</summary>
public sealed class App : IDisposable
{
    public const string Server = "server";
    public const string IsKilled = "is killed";

    private readonly string folder = Directory.CreateTempSubdirectory("nachlass-browser-").FullName;
    private readonly bool demo;
    private readonly string papers;
    private Process? process;
    private WebApplication? beside;

    /// <summary>Whether this test is one that kills its program.</summary>
    private static bool RunsByItself =>
        TestContext.Current.TestMethod?.Traits.TryGetValue(Server, out var said) == true && said.Contains(IsKilled);

    private App(bool demo, bool whole = false)
    {
        this.demo = demo;
        papers = whole ? Path.Combine(Root, "demo") : folder + "-demo";
        using (var socket = new TcpListener(IPAddress.Loopback, 0))
        {
            socket.Start();
            Url = $"http://127.0.0.1:{((IPEndPoint)socket.LocalEndpoint).Port}";
        }
        if (demo && !whole)
        {
            CopyInto(folder, Prepared.Value);
            Start(renew: false);
        }
        else
            Start(demo);
    }

    /// <summary>The port that is ten above may be another test's.</summary>
    private const string AnyPort = "http://127.0.0.1:0";

    private void StartBeside()
    {
        beside = Web.Startup.Build(["--data", folder, "--url", Url, "--pages", AnyPort]);
        beside.StartAsync().GetAwaiter().GetResult();
    }

    /// <summary>The papers of the demo, brought in once and copied for each test.</summary>
    private static readonly Lazy<string> Prepared = new(() =>
    {
        var app = new App(demo: false);
        app.End();
        var from = app.folder + "-demo";
        CopyPapers(from);
        app.Start(renew: false, ("NACHLASS_DEMO", from), ("NACHLASS_DATA", from + "-papers"));
        app.Stop();
        Directory.Delete(from, recursive: true);
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Directory.Delete(from + "-papers", recursive: true);
        return from + "-papers";
    });

    private static void CopyInto(string folder, string from)
    {
        foreach (
            var file in Directory
                .EnumerateFiles(from, "*", SearchOption.AllDirectories)
                // All of the copies are mirrored into the first one's folder, while this reads it.
                .Where(f => !f.EndsWith(".lock", StringComparison.Ordinal) && !f.Contains("/mirror/", StringComparison.Ordinal))
        )
        {
            var copy = Path.Combine(folder, Path.GetRelativePath(from, file));
            Directory.CreateDirectory(Path.GetDirectoryName(copy)!);
            File.Copy(file, copy);
        }
    }

    /// <summary>With the papers of the demo as they are before anything is brought in, so that what is in them stands still.</summary>
    public static App WithDemoPapers() => new(demo: true);

    /// <summary>With all of the demo, as it comes in through the importers and goes on by its feed.</summary>
    public static App WithWholeDemo() => new(demo: true, whole: true);

    public static App Empty() => new(demo: false);

    public string Url { get; }

    /// <summary>The folder of the repository.</summary>
    public static string Root { get; } = Path.GetFullPath(Path.Combine(Path.GetDirectoryName(Here())!, "..", ".."));

    private static string Here([CallerFilePath] string file = "") => file;

    private void Start(bool renew, params IReadOnlyList<(string Name, string Value)> with)
    {
        if (!RunsByItself && with.Count == 0 && !(renew && demo))
        {
            StartBeside();
            return;
        }
        var start = new ProcessStartInfo("dotnet", [Path.Combine(AppContext.BaseDirectory, "Nachlass.Web.dll")])
        {
            RedirectStandardOutput = true,
        };
        start.Environment["NACHLASS_DATA"] = folder;
        start.Environment["NACHLASS_URL"] = Url;
        start.Environment["NACHLASS_PAGES"] = AnyPort;
        if (renew && demo)
            start.Environment["NACHLASS_DEMO"] = papers;
        foreach (var (name, value) in with)
            start.Environment[name] = value;
        process = Process.Start(start)!;
        process.StandardOutput.ReadLine().ShouldNotBeNull("the server did not start");
    }

    /// <summary>Kills it, as a power cut would.</summary>
    public void Stop()
    {
        if (beside is not null)
            throw new InvalidOperationException("Say at the test that its server is killed.");
        process?.Kill(entireProcessTree: true);
        process?.WaitForExit();
        process?.Dispose();
        process = null;
    }

    /// <summary>Starts it again with the papers it had.</summary>
    public void StartAgain(params IReadOnlyList<(string Name, string Value)> with) => Start(renew: false, with);

    private static void CopyPapers(string papers)
    {
        var demoPapers = Path.Combine(Root, "demo");
        foreach (
            var file in Directory
                .EnumerateFiles(demoPapers, "*", SearchOption.AllDirectories)
                .Where(f => !f.Contains("/incoming/", StringComparison.Ordinal) && !f.Contains("/feed/", StringComparison.Ordinal))
        )
        {
            var copy = Path.Combine(papers, Path.GetRelativePath(demoPapers, file));
            Directory.CreateDirectory(Path.GetDirectoryName(copy)!);
            File.Copy(file, copy);
        }
    }

    private void End()
    {
        if (beside is null)
        {
            Stop();
            return;
        }
        using var soon = new CancellationTokenSource(TimeSpan.FromSeconds(1));
        beside.StopAsync(soon.Token).GetAwaiter().GetResult();
        beside.DisposeAsync().AsTask().GetAwaiter().GetResult();
        beside = null;
    }

    public void Dispose()
    {
        End();
        Directory.Delete(folder, recursive: true);
        if (Directory.Exists(folder + "-demo"))
            Directory.Delete(folder + "-demo", recursive: true);
    }
}
