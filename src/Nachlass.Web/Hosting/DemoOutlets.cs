using System.Diagnostics;
using System.Globalization;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Ideas.Service;
using Nachlass.Core.Plan;
using Nachlass.Standins.Catalogue;
using Nachlass.Standins.Ideas;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Store.Ideas.Service;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Web.Hosting;

/// <summary>The outside world of the demo: a site, a place for short posts, a letter service, a listener, a mailbox and a service of ideas,
/// in a process of its own, talked to over the wire.</summary>
internal sealed class DemoOutlets : IDisposable
{
    /// <summary>The word by which the program is told to be the stand-ins.</summary>
    public const string Verb = "standins";

    private const string PagesToken = "demo-pages",
        PostsToken = "demo-posts",
        LettersUser = "tavle",
        LettersPassword = "demo-letters",
        MailboxUser = "readers",
        MailboxPassword = "demo-mailbox",
        IdeasKey = "demo-ideas";
    private static readonly OutletNumber Letters = OutletNumber.Of(1),
        Pages = OutletNumber.Of(2),
        Posts = OutletNumber.Of(3),
        Walks = OutletNumber.Of(4);

    private readonly Process process;

    private DemoOutlets(Process process) => this.process = process;

    /// <summary>Starts the stand-ins and connects the demo's outlets to them.</summary>
    public static async Task<DemoOutlets?> Start(
        Settings settings,
        ConnectionStore connections,
        MailboxStore mailbox,
        ServiceStore ideas,
        Secrets secrets,
        DateOnly today
    )
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
        {
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
            connections.Archive(Letters, isArchived: true);
        }
        if (await process.StandardOutput.ReadLineAsync() is { } hub)
            connections.Set(Walks, ConnectionKind.Feed, hub, null);
        if (await process.StandardOutput.ReadLineAsync() is { } box && box.Split(' ') is [var at, var vouched])
            mailbox.Watch(
                new WatchedMailbox(at, MailboxUser, WatchedMailbox.Inbox, today.AddDays(-WatchedMailbox.UsualDays), vouched),
                secrets.Close(MailboxPassword)
            );
        // It is there and off, as it would be for anybody.
        if (await process.StandardOutput.ReadLineAsync() is { } asked)
            ideas.Set(new IdeaService(asked, ServiceForm.Chat, "stand-in", IsOn: false, new ServiceLimits()), secrets.Close(IdeasKey));
        return new DemoOutlets(process);
    }

    /// <summary>Is the stand-ins, until whoever started it is gone.</summary>
    /// <param name="port">The first of eight ports; 0 for any that are free.</param>
    /// <param name="folder">Where they keep what they got.</param>
    public static async Task Run(int port, string folder)
    {
        int Next(int steps) => port == 0 ? 0 : port + steps;
        await using var pages = await On(
            port,
            at => PostServer.Start(at, "The Tavle pages", PagesToken, null, Path.Combine(folder, "got-pages.jsonl"), TimeProvider.System)
        );
        Console.WriteLine(pages.Endpoint);
        await using var posts = await On(
            Next(1),
            at => PostServer.Start(at, "Short posts", PostsToken, 300, Path.Combine(folder, "got-posts.jsonl"), TimeProvider.System)
        );
        Console.WriteLine(posts.Endpoint);
        await using var letters = await On(
            Next(2),
            at => LetterServer.Start(at, LettersUser, LettersPassword, Path.Combine(folder, "got-letters"))
        );
        Console.WriteLine($"smtp://127.0.0.1:{letters.Port} {letters.Certificate}");
        await using var listener = await On(Next(4), at => ListenerServer.Start(at, Path.Combine(folder, "heard.json")));
        Console.WriteLine(listener.Hub);
        await using var mailbox = await On(Next(5), at => MailboxServer.Start(at, MailboxUser, MailboxPassword, TimeProvider.System));
        mailbox.Deliver(
            "Hanne Rusk <hanne@readers.example>",
            "Re: Letter 40: The bell on the wrong bank",
            "Thank you for the bell. Could you write about how the ferrymen were paid in winter, when nobody crossed?"
        );
        Console.WriteLine($"imap://127.0.0.1:{mailbox.Port} {mailbox.Certificate}");
        await using var service = await On(Next(7), at => IdeaServer.Start(at, IdeasKey));
        Console.WriteLine(service.Chat);
        // The other end closes when the program that started it ends, however it ends.
        while (await Console.In.ReadLineAsync() is not null) { }
    }

    /// <summary>Starts a stand-in on a port; that may be another program's, and any other does as well.</summary>
    private static async Task<T> On<T>(int port, Func<int, Task<T>> start)
    {
        try
        {
            return await start(port);
        }
        catch (Exception error) when (port != 0 && error is IOException or System.Net.Sockets.SocketException)
        {
            return await start(0);
        }
    }

    public void Dispose()
    {
        process.StandardInput.Close();
        process.WaitForExit(3_000);
        process.Dispose();
    }
}
