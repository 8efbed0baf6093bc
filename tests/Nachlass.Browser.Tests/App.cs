using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using System.Runtime.CompilerServices;

namespace Nachlass.Browser.Tests;

/// <summary>The program, running by itself on a port and in a folder of its own; it can be stopped and started again.</summary>
public sealed class App : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("nachlass-browser-").FullName;
    private readonly bool demo;
    private Process? process;

    private App(bool demo)
    {
        this.demo = demo;
        using (var socket = new TcpListener(IPAddress.Loopback, 0))
        {
            socket.Start();
            Url = $"http://127.0.0.1:{((IPEndPoint)socket.LocalEndpoint).Port}";
        }
        Start(demo);
    }

    public static App WithDemoPapers() => new(demo: true);

    public static App Empty() => new(demo: false);

    public string Url { get; }

    /// <summary>The folder of the repository.</summary>
    public static string Root { get; } = Path.GetFullPath(Path.Combine(Path.GetDirectoryName(Here())!, "..", ".."));

    private static string Here([CallerFilePath] string file = "") => file;

    private void Start(bool renew)
    {
        var start = new ProcessStartInfo("dotnet", [Path.Combine(AppContext.BaseDirectory, "Nachlass.Web.dll")]) { RedirectStandardOutput = true };
        start.Environment["NACHLASS_DATA"] = folder;
        start.Environment["NACHLASS_URL"] = Url;
        if (renew && demo) start.Environment["NACHLASS_DEMO"] = Path.Combine(Root, "demo");
        process = Process.Start(start)!;
        process.StandardOutput.ReadLine().ShouldNotBeNull("the server did not start");
    }

    /// <summary>Kills it, as a power cut would.</summary>
    public void Stop()
    {
        process?.Kill(entireProcessTree: true);
        process?.WaitForExit();
        process?.Dispose();
        process = null;
    }

    /// <summary>Starts it again with the papers it had.</summary>
    public void StartAgain() => Start(renew: false);

    public void Dispose()
    {
        Stop();
        Directory.Delete(folder, recursive: true);
    }
}
