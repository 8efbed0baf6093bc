using System.Collections.Concurrent;
using System.Globalization;
using System.Net;
using System.Net.Security;
using System.Net.Sockets;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;
using MimeKit;

namespace Nachlass.Standins.Catalogue;

/// <summary>A mail in the stand-in's box.</summary>
/// <param name="Uid">Its number there (RFC 9051, 2.3.1.1).</param>
public sealed record BoxedMail(uint Uid, DateTimeOffset At, byte[] Raw);

/// <summary>
/// Stands in for a mailbox: as much of IMAP (RFC 9051, with the answers of RFC 3501) over TLS as it takes to sign in, look into the inbox
/// without changing it, search by day and number, and fetch mails; on a port of this machine, with a page beside it that shows what lies
/// in it and takes a mail. It can be told at <c>POST /faults</c> to fail for so many sign-ins.
/// </summary>
public sealed partial class MailboxServer : IAsyncDisposable
{
    private readonly TcpListener listener;
    private readonly WebApplication page;
    private readonly X509Certificate2 certificate;
    private readonly string user;
    private readonly string password;
    private readonly TimeProvider time;
    private readonly CancellationTokenSource stop = new();
    private readonly ConcurrentQueue<PostFault> faults = new();
    private readonly Lock gate = new();
    private readonly List<BoxedMail> mails = [];
    private readonly Task running;

    private MailboxServer(
        TcpListener listener,
        WebApplication page,
        X509Certificate2 certificate,
        string user,
        string password,
        TimeProvider time
    )
    {
        (this.listener, this.page, this.certificate) = (listener, page, certificate);
        (this.user, this.password, this.time) = (user, password, time);
        running = Listen();
    }

    /// <summary>Starts it.</summary>
    /// <param name="port">Where; its page is on the next. 0 for any free ones.</param>
    public static async Task<MailboxServer> Start(int port, string user, string password, TimeProvider time)
    {
        var page = Standin.Page(port == 0 ? 0 : port + 1);
        var listener = new TcpListener(IPAddress.Loopback, port);
        listener.Start();
        var server = new MailboxServer(listener, page, Standin.Certificate("Mailbox"), user, password, time);
        page.MapGet("/", () => Results.Content(server.Page(), "text/html; charset=utf-8"));
        page.MapPost(
            "/",
            async (HttpContext http) =>
            {
                var form = await http.Request.ReadFormAsync();
                server.Deliver(form["from"].ToString(), form["subject"].ToString(), form["text"].ToString());
                return Results.Redirect("/");
            }
        );
        page.MapPost("/faults", (PostFault fault, int times) => server.Fail(fault, times));
        await page.StartAsync();
        return server;
    }

    public int Port => ((IPEndPoint)listener.LocalEndpoint).Port;

    /// <summary>SHA-256 of its certificate, for which nobody vouches, in hexadecimal.</summary>
    public string Certificate => Standin.HashOf(certificate);

    public Uri PageAddress => new(page.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First());

    /// <summary>How often somebody signed in.</summary>
    public int SignIns { get; private set; }

    /// <summary>How often something was asked that would change the box.</summary>
    public int Changes { get; private set; }

    private uint validity = 1;

    /// <summary>Makes the next sign-ins fail.</summary>
    public void Fail(PostFault fault, int times = 1)
    {
        for (var i = 0; i < times; i++)
            faults.Enqueue(fault);
    }

    /// <summary>Puts a mail into the box.</summary>
    public void Deliver(string from, string subject, string text, DateTimeOffset? at = null)
    {
        using var mail = new MimeMessage();
        mail.From.Add(MailboxAddress.TryParse(from, out var sender) ? sender : new MailboxAddress(from, "somebody@readers.example"));
        mail.To.Add(new MailboxAddress("", $"{user}@tavle.example"));
        mail.Subject = subject;
        mail.Date = at ?? time.GetUtcNow();
        mail.Body = new TextPart("plain") { Text = text };
        using var raw = new MemoryStream();
        mail.WriteTo(raw);
        Deliver(raw.ToArray(), mail.Date);
    }

    public void Deliver(byte[] raw, DateTimeOffset at)
    {
        lock (gate)
            mails.Add(new BoxedMail((uint)mails.Count + 1, at, raw));
    }

    /// <summary>Numbers all its mails anew, as a box does that was put back from a copy.</summary>
    public void NumberAnew()
    {
        lock (gate)
        {
            validity++;
            for (var i = 0; i < mails.Count; i++)
                mails[i] = mails[i] with { Uid = (uint)(1_000 + i) };
        }
    }

    private async Task Listen()
    {
        try
        {
            while (true)
            {
                var client = await listener.AcceptTcpClientAsync(stop.Token);
                _ = Task.Run(() => Talk(client));
            }
        }
        catch (Exception error) when (error is OperationCanceledException or SocketException or ObjectDisposedException) { }
    }

    private async Task Talk(TcpClient client)
    {
        using var connection = client;
        await using var line = new SslStream(client.GetStream());
        try
        {
            await line.AuthenticateAsServerAsync(certificate);
            faults.TryDequeue(out var fault);
            if (fault == PostFault.Down)
                return;
            if (fault == PostFault.Wrong)
            {
                await Say(line, "<p>It works!</p>");
                return;
            }
            await Say(line, "* OK [CAPABILITY IMAP4rev1 AUTH=PLAIN SASL-IR] A stand-in.");
            using var reader = new StreamReader(line, Encoding.Latin1, leaveOpen: true);
            while (await reader.ReadLineAsync(stop.Token) is { } said)
                if (!await Answer(line, reader, said, fault))
                    return;
        }
        catch (Exception error)
            when (error is IOException or OperationCanceledException or System.Security.Authentication.AuthenticationException) { }
    }

    private Task Say(SslStream line, string words) => line.WriteAsync(Encoding.Latin1.GetBytes(words + "\r\n"), stop.Token).AsTask();

    /// <returns>Whether it listens on.</returns>
    private async Task<bool> Answer(SslStream line, StreamReader reader, string said, PostFault fault)
    {
        var words = said.Split(' ', 3);
        if (words.Length < 2)
        {
            await Say(line, "* BAD Say a tag and a command.");
            return true;
        }
        var (tag, command, rest) = (words[0], words[1].ToUpperInvariant(), words.Length > 2 ? words[2] : "");
        if (command == "UID" && rest.Split(' ', 2) is [var what, var of])
            (command, rest) = ("UID " + what.ToUpperInvariant(), of);
        switch (command)
        {
            case "CAPABILITY":
                await Say(line, "* CAPABILITY IMAP4rev1 AUTH=PLAIN SASL-IR");
                break;
            case "AUTHENTICATE":
                var given = rest.Split(' ') is [_, var initial] ? initial : "";
                if (given.Length == 0)
                {
                    await Say(line, "+ ");
                    given = await reader.ReadLineAsync(stop.Token) ?? "";
                }
                if (Encoding.UTF8.GetString(Convert.FromBase64String(given)) != $"\0{user}\0{password}")
                {
                    await Say(line, $"{tag} NO [AUTHENTICATIONFAILED] Name and password are not those of this box.");
                    return true;
                }
                SignIns++;
                break;
            case "LIST":
                await Say(
                    line,
                    rest.EndsWith("\"\"", StringComparison.Ordinal) ? "* LIST (\\Noselect) \"/\" \"\"" : "* LIST () \"/\" INBOX"
                );
                break;
            case "EXAMINE" when rest.Trim('"').Equals("INBOX", StringComparison.OrdinalIgnoreCase):
                if (fault == PostFault.Slow)
                    await Task.Delay(TimeSpan.FromSeconds(8), time, stop.Token);
                if (fault == PostFault.Full)
                {
                    await Say(line, $"{tag} NO [UNAVAILABLE] Too many look into this box at once.");
                    return true;
                }
                await Open(line);
                await Say(line, $"{tag} OK [READ-ONLY] done");
                return true;
            case "EXAMINE":
                await Say(line, $"{tag} NO [NONEXISTENT] There is no such folder.");
                return true;
            case "UID SEARCH":
                await Say(line, "* SEARCH" + string.Concat(Found(rest).Select(m => $" {m.Uid}")));
                break;
            case "UID FETCH":
                await Fetch(line, rest, isCut: fault == PostFault.Lost);
                if (fault == PostFault.Lost)
                    return false;
                break;
            case "LOGOUT":
                await Say(line, "* BYE");
                await Say(line, $"{tag} OK done");
                return false;
            case "NOOP" or "CLOSE" or "UNSELECT":
                break;
            case "SELECT" or "STORE" or "UID STORE" or "EXPUNGE" or "COPY" or "UID COPY" or "APPEND" or "DELETE":
                Changes++;
                await Say(line, $"{tag} NO This box is not to be changed.");
                return true;
            default:
                await Say(line, $"{tag} BAD This is not known here.");
                return true;
        }
        await Say(line, $"{tag} OK done");
        return true;
    }

    private IReadOnlyList<BoxedMail> All
    {
        get
        {
            lock (gate)
                return [.. mails];
        }
    }

    private async Task Open(SslStream line)
    {
        var all = All;
        await Say(line, "* FLAGS (\\Seen)");
        await Say(line, $"* {all.Count} EXISTS");
        await Say(line, "* 0 RECENT");
        await Say(line, $"* OK [UIDVALIDITY {validity}] its numbers hold");
        await Say(line, $"* OK [UIDNEXT {(all.Count == 0 ? 1 : all[^1].Uid + 1)}] the next");
    }

    private IEnumerable<BoxedMail> Found(string query)
    {
        var all = All;
        if (Since().Match(query) is { Success: true } since)
        {
            var day = DateTime.ParseExact(since.Groups[1].Value, "d-MMM-yyyy", CultureInfo.InvariantCulture);
            all = [.. all.Where(m => m.At.UtcDateTime.Date >= day)];
        }
        return Uids().Match(query) is { Success: true } uids ? all.Where(m => IsIn(m.Uid, uids.Groups[1].Value, all)) : all;
    }

    /// <summary>Whether a number is in a set such as <c>1:3,7,9:*</c>.</summary>
    private static bool IsIn(uint uid, string set, IReadOnlyList<BoxedMail> all) =>
        set.Split(',')
            .Any(part =>
            {
                var ends = part.Split(':')
                    .Select(e => e == "*" ? all.Select(m => m.Uid).DefaultIfEmpty(0u).Max() : uint.Parse(e, CultureInfo.InvariantCulture))
                    .ToList();
                return uid >= ends.Min() && uid <= ends.Max();
            });

    private async Task Fetch(SslStream line, string asked, bool isCut)
    {
        var all = All;
        var set = asked.Split(' ', 2);
        for (var i = 0; i < all.Count; i++)
        {
            var mail = all[i];
            if (!IsIn(mail.Uid, set[0], all))
                continue;
            var head = $"* {i + 1} FETCH (UID {mail.Uid}";
            if (set[1].Contains("RFC822.SIZE", StringComparison.OrdinalIgnoreCase))
                head += $" RFC822.SIZE {mail.Raw.Length}";
            if (!set[1].Contains("BODY.PEEK[]", StringComparison.OrdinalIgnoreCase))
            {
                await Say(line, head + ")");
                continue;
            }
            await Say(line, $"{head} BODY[] {{{mail.Raw.Length}}}");
            if (isCut)
            {
                await line.WriteAsync(mail.Raw.AsMemory(0, mail.Raw.Length / 2), stop.Token);
                return;
            }
            await line.WriteAsync(mail.Raw, stop.Token);
            await Say(line, ")");
        }
    }

    private string Page()
    {
        var list = new StringBuilder();
        foreach (var mail in All.Reverse().Take(100))
        {
            using var read = MimeMessage.Load(new MemoryStream(mail.Raw));
            list.Append(
                $"<li><b>{WebUtility.HtmlEncode(read.Subject)}</b> from {WebUtility.HtmlEncode(read.From.ToString())}, "
                    + $"{mail.At.ToString("d MMM yyyy HH:mm", CultureInfo.InvariantCulture)}</li>"
            );
        }
        return Standin.Html(
            "A mailbox",
            "<p>A stand-in: mails lie in it, and it fails when it is told to "
                + "(POST /faults?fault=Down&amp;times=1; Slow, Full, Down, Wrong, Lost).</p>"
                + "<form method=post><p><label>From <input name=from size=40 value=\"Ida Moll &lt;ida@readers.example&gt;\"></label></p>"
                + "<p><label>Subject <input name=subject size=40></label></p>"
                + "<p><label>Text<br><textarea name=text rows=6 cols=60></textarea></label></p><button>Put it into the box</button></form>"
                + $"<ul>{list}</ul>"
        );
    }

    public async ValueTask DisposeAsync()
    {
        await stop.CancelAsync();
        listener.Stop();
        await running;
        await page.DisposeAsync();
        certificate.Dispose();
        stop.Dispose();
    }

    [GeneratedRegex(@"\bSINCE (\d{1,2}-\w{3}-\d{4})", RegexOptions.IgnoreCase)]
    private static partial Regex Since();

    [GeneratedRegex(@"\bUID ([\d:,*]+)", RegexOptions.IgnoreCase)]
    private static partial Regex Uids();
}
