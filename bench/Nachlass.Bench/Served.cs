using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using OpenQA.Selenium.Chrome;

namespace Nachlass.Bench;

/// <summary>A server with the demo papers, and a browser without a graphics card before it.</summary>
internal sealed class Served : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("nachlass-served-").FullName;
    private readonly Process server;

    public Served()
    {
        using var socket = new TcpListener(IPAddress.Loopback, 0);
        socket.Start();
        Url = $"http://127.0.0.1:{((IPEndPoint)socket.LocalEndpoint).Port}";
        socket.Stop();
        var start = new ProcessStartInfo("dotnet", [Path.Combine(Root, "src/Nachlass.Web/bin/Release/net10.0/Nachlass.Web.dll")])
        {
            RedirectStandardOutput = true,
        };
        start.Environment["NACHLASS_DATA"] = folder;
        start.Environment["NACHLASS_DEMO"] = Path.Combine(Root, "demo");
        start.Environment["NACHLASS_URL"] = Url;
        server = Process.Start(start)!;
        server.StandardOutput.ReadLine();
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments("--headless=new", "--no-sandbox", "--disable-gpu", "--disable-quic", "--window-size=1280,800");
        Driver = new ChromeDriver(ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver"), options);
    }

    public static string Root => Environment.CurrentDirectory;

    public string Url { get; }

    public ChromeDriver Driver { get; }

    public void Dispose()
    {
        Driver.Quit();
        Driver.Dispose();
        server.Kill();
        server.WaitForExit();
        server.Dispose();
        Directory.Delete(folder, recursive: true);
    }
}
