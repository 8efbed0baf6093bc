using System.Buffers;
using System.Collections.Concurrent;
using System.Net;
using System.Text;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;
using MimeKit;
using SmtpServer;
using SmtpServer.Authentication;
using SmtpServer.Mail;
using SmtpServer.Protocol;
using SmtpServer.Storage;

namespace Nachlass.Standins.Catalogue;

/// <summary>A letter that the stand-in keeps.</summary>
/// <param name="Id">Its Message-ID.</param>
/// <param name="Raw">As it came over the wire.</param>
public sealed record KeptLetter(int Number, string Id, string To, string Subject, byte[] Raw)
{
    public MimeMessage Read() => MimeMessage.Load(new MemoryStream(Raw));
}

/// <summary>
/// Stands in for a letter service: a mail server (SMTP, RFC 5321) with STARTTLS and sign-in on a port of this machine, and a page beside it
/// that shows what came. It keeps what it got in a folder and can be told at <c>POST /faults</c> to fail for so many letters. A mailbox
/// whose
/// address begins with <c>gone</c> does not exist.
/// </summary>
public sealed class LetterServer : IAsyncDisposable
{
    private readonly WebApplication page;
    private readonly SmtpServer.SmtpServer server;
    private readonly CancellationTokenSource stop = new();
    private readonly Keeper keeper;
    private readonly Task running;

    private LetterServer(WebApplication page, SmtpServer.SmtpServer server, Keeper keeper, int port, string certificate)
    {
        (this.page, this.server, this.keeper, Port, Certificate) = (page, server, keeper, port, certificate);
        running = server.StartAsync(stop.Token);
    }

    /// <summary>Where letters are handed in.</summary>
    public int Port { get; }

    /// <summary>SHA-256 of its certificate, for which nobody vouches, in hexadecimal.</summary>
    public string Certificate { get; }

    public Uri Page => new(page.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First());

    public IReadOnlyList<KeptLetter> Letters => keeper.Letters;

    /// <summary>Makes the next letters fail.</summary>
    public void Fail(PostFault fault, int times = 1)
    {
        for (var i = 0; i < times; i++)
            keeper.Faults.Enqueue(fault);
    }

    /// <summary>Starts it.</summary>
    /// <param name="port">Where letters are handed in; the page is on the next. 0 for any free ones.</param>
    /// <param name="folder">Where it keeps what it got; null for nowhere.</param>
    public static async Task<LetterServer> Start(int port, string user, string password, string? folder)
    {
        var page = Standin.Page(port == 0 ? 0 : port + 1);
        var certificate = Standin.Certificate("Letters");
        var free = port == 0 ? Standin.FreePort() : port;
        var keeper = new Keeper(folder);
        var services = new SmtpServer.ComponentModel.ServiceProvider();
        services.Add((IMessageStore)keeper);
        services.Add((IMailboxFilter)keeper);
        services.Add(new Users(user, password));
        var server = new SmtpServer.SmtpServer(
            new SmtpServerOptionsBuilder()
                .ServerName("letters.example")
                .Endpoint(at => at.Endpoint(new IPEndPoint(IPAddress.Loopback, free)).Certificate(certificate).AuthenticationRequired())
                .Build(),
            services
        );
        page.MapGet("/", () => Results.Content(Listed(keeper.Letters), "text/html; charset=utf-8"));
        page.MapGet(
            "/letters/{number:int}",
            (int number) =>
                keeper.Letters.FirstOrDefault(l => l.Number == number) is { } letter
                    ? Results.Content(letter.Read().HtmlBody ?? "", "text/html; charset=utf-8")
                    : Results.NotFound()
        );
        page.MapGet(
            "/letters/{number:int}.eml",
            (int number) =>
                keeper.Letters.FirstOrDefault(l => l.Number == number) is { } letter
                    ? Results.Bytes(letter.Raw, "text/plain")
                    : Results.NotFound()
        );
        page.MapPost(
            "/faults",
            (PostFault fault, int times) =>
            {
                for (var i = 0; i < Math.Min(times, 10_000); i++)
                    keeper.Faults.Enqueue(fault);
            }
        );
        await page.StartAsync();
        return new LetterServer(page, server, keeper, free, Standin.HashOf(certificate));
    }

    private static string Listed(IReadOnlyList<KeptLetter> letters)
    {
        var list = new StringBuilder();
        foreach (var letter in letters.Reverse().Take(200))
            list.Append(
                $"<li><a href=\"/letters/{letter.Number}\">{WebUtility.HtmlEncode(letter.Subject)}</a> to "
                    + $"{WebUtility.HtmlEncode(letter.To)} <a href=\"/letters/{letter.Number}.eml\">as it came</a></li>"
            );
        return "<!doctype html><html lang=en><meta charset=utf-8><title>Letters</title>"
            + "<style>body{font:16px/1.5 Georgia,serif;max-width:44rem;margin:3rem auto;padding:0 1rem}</style><h1>Letters</h1>"
            + "<p>A stand-in: it keeps what it is sent, and fails when it is told to "
            + "(POST /faults?fault=Lost&amp;times=1; Slow, Full, Down, Wrong, Lost).</p>"
            + (letters.Count == 0 ? "<p>Nothing came yet.</p>" : $"<p>{letters.Count} came.</p><ol reversed>{list}</ol>");
    }

    public async ValueTask DisposeAsync()
    {
        await stop.CancelAsync();
        server.Shutdown();
        try
        {
            await running.WaitAsync(TimeSpan.FromSeconds(2));
        }
        catch (Exception error) when (error is OperationCanceledException or TimeoutException) { }
        using var soon = new CancellationTokenSource(TimeSpan.FromSeconds(1));
        await page.StopAsync(soon.Token);
        await page.DisposeAsync();
        stop.Dispose();
    }

    private sealed class Users(string user, string password) : IUserAuthenticator
    {
        public Task<bool> AuthenticateAsync(ISessionContext context, string name, string said, CancellationToken stop) =>
            Task.FromResult(name == user && said == password);
    }

    private sealed class Keeper : MessageStore, IMailboxFilter
    {
        private readonly string? folder;
        private readonly Lock gate = new();
        private readonly List<KeptLetter> letters = [];

        public Keeper(string? folder)
        {
            this.folder = folder;
            if (folder is null)
                return;
            Directory.CreateDirectory(folder);
            foreach (var file in Directory.EnumerateFiles(folder, "*.eml").Order(StringComparer.Ordinal))
                letters.Add(Of(letters.Count + 1, File.ReadAllBytes(file)));
        }

        public ConcurrentQueue<PostFault> Faults { get; } = new();

        public IReadOnlyList<KeptLetter> Letters
        {
            get
            {
                lock (gate)
                    return [.. letters];
            }
        }

        private static KeptLetter Of(int number, byte[] raw)
        {
            var message = MimeMessage.Load(new MemoryStream(raw));
            return new KeptLetter(
                number,
                message.MessageId ?? "",
                message.To.Mailboxes.FirstOrDefault()?.Address ?? "",
                message.Subject ?? "",
                raw
            );
        }

        public Task<bool> CanAcceptFromAsync(ISessionContext context, IMailbox from, int size, CancellationToken stop) =>
            Task.FromResult(true);

        public Task<bool> CanDeliverToAsync(ISessionContext context, IMailbox to, IMailbox from, CancellationToken stop) =>
            Task.FromResult(!to.User.StartsWith("gone", StringComparison.OrdinalIgnoreCase));

        public override async Task<SmtpResponse> SaveAsync(
            ISessionContext context,
            IMessageTransaction transaction,
            ReadOnlySequence<byte> buffer,
            CancellationToken stop
        )
        {
            Faults.TryDequeue(out var fault);
            switch (fault)
            {
                case PostFault.Slow:
                    await Task.Delay(TimeSpan.FromSeconds(8), stop);
                    break;
                case PostFault.Full:
                    return new SmtpResponse(SmtpReplyCode.InsufficientStorage, "This place has taken enough for now.");
                case PostFault.Down:
                    return new SmtpResponse(SmtpReplyCode.ServiceUnavailable, "Closing for now.");
                case PostFault.Wrong:
                    return new SmtpResponse(SmtpReplyCode.TransactionFailed, "It works!");
            }
            lock (gate)
            {
                var letter = Of(letters.Count + 1, buffer.ToArray());
                letters.Add(letter);
                if (folder is not null)
                    File.WriteAllBytes(Path.Combine(folder, $"{letter.Number:000000}.eml"), letter.Raw);
            }
            if (fault == PostFault.Lost)
            {
                // The line is cut before an answer is on it.
                context.Pipe.Dispose();
                throw new OperationCanceledException("cut");
            }
            return SmtpResponse.Ok;
        }
    }
}
