using System.Diagnostics;
using System.Globalization;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Plan;
using Nachlass.Standins.Catalogue;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Web.Hosting;

/// <summary>The outside world of the demo: a site, a place for short posts and a letter service, in a process of its own, talked to
/// over the wire.</summary>
internal sealed class DemoOutlets : IDisposable
{
    /// <summary>The word by which the program is told to be the stand-ins.</summary>
    public const string Verb = "standins";

    private const string PagesToken = "demo-pages",
        PostsToken = "demo-posts",
        LettersUser = "tavle",
        LettersPassword = "demo-letters";
    private static readonly OutletNumber Letters = OutletNumber.Of(1),
        Pages = OutletNumber.Of(2),
        Posts = OutletNumber.Of(3),
        Walks = OutletNumber.Of(4);

    private readonly Process process;

    private DemoOutlets(Process process) => this.process = process;

    /// <summary>Starts the stand-ins and connects the demo's outlets to them.</summary>
    public static async Task<DemoOutlets?> Start(Settings settings, ConnectionStore connections, Secrets secrets)
    {
        if (settings.Demo is null)
            return null;
        var first = settings.Url.Port == 0 ? 0 : settings.Url.Port + 2;
        var start = new ProcessStartInfo(Environment.ProcessPath!) { RedirectStandardInput = true, RedirectStandardOutput = true };
        if (Path.GetFileNameWithoutExtension(Environment.ProcessPath) == "dotnet")
            start.ArgumentList.Add(typeof(DemoOutlets).Assembly.Location);
        foreach (var argument in (string[])[Verb, first.ToString(CultureInfo.InvariantCulture), settings.Data])
            start.ArgumentList.Add(argument);
        var process = Process.Start(start)!;
        foreach (var (outlet, token) in ((OutletNumber, string)[])[(Pages, PagesToken), (Posts, PostsToken)])
            if (await process.StandardOutput.ReadLineAsync() is { } address)
                connections.Set(outlet, ConnectionKind.Micropub, address, secrets.Close(token));
        if (await process.StandardOutput.ReadLineAsync() is { } service && service.Split(' ') is [var letters, var certificate])
            connections.Set(
                new Connection(
                    Letters,
                    ConnectionKind.Mail,
                    letters,
                    HasSecret: false,
                    LettersUser,
                    "Low Water <low-water@tavle.example>",
                    certificate
                ),
                secrets.Close(LettersPassword)
            );
        connections.Set(Walks, ConnectionKind.Folder, Path.Combine(settings.Data, "walks"), null);
        return new DemoOutlets(process);
    }

    /// <summary>Is the stand-ins, until whoever started it is gone.</summary>
    /// <param name="port">The first of four ports; 0 for any that are free.</param>
    /// <param name="folder">Where they keep what they got.</param>
    public static async Task Run(int port, string folder)
    {
        await using var pages = await On(port, "The Tavle pages", PagesToken, null, Path.Combine(folder, "got-pages.jsonl"));
        Console.WriteLine(pages.Endpoint);
        await using var posts = await On(port == 0 ? 0 : port + 1, "Short posts", PostsToken, 300, Path.Combine(folder, "got-posts.jsonl"));
        Console.WriteLine(posts.Endpoint);
        await using var letters = await OnLetters(port == 0 ? 0 : port + 2, Path.Combine(folder, "got-letters"));
        Console.WriteLine($"smtp://127.0.0.1:{letters.Port} {letters.Certificate}");
        // The other end closes when the program that started it ends, however it ends.
        while (await Console.In.ReadLineAsync() is not null) { }
    }

    private static async Task<PostServer> On(int port, string name, string token, int? limit, string file)
    {
        try
        {
            return await PostServer.Start(port, name, token, limit, file, TimeProvider.System);
        }
        // The port may be another program's; any other does as well.
        catch (IOException) when (port != 0)
        {
            return await PostServer.Start(0, name, token, limit, file, TimeProvider.System);
        }
    }

    private static async Task<LetterServer> OnLetters(int port, string folder)
    {
        try
        {
            return await LetterServer.Start(port, LettersUser, LettersPassword, folder);
        }
        catch (IOException) when (port != 0)
        {
            return await LetterServer.Start(0, LettersUser, LettersPassword, folder);
        }
    }

    public void Dispose()
    {
        process.StandardInput.Close();
        process.WaitForExit(3_000);
        process.Dispose();
    }
}
