using System.Globalization;
using System.Net.Sockets;
using MailKit;
using MailKit.Net.Smtp;
using MailKit.Security;
using MimeKit;
using Nachlass.Core.Catalogue.Letters;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Exchange.Catalogue.Letters;
using Nachlass.Exchange.Pieces;
using Nachlass.Store.Catalogue.Letters;
using Nachlass.Store.Papers;
using Nachlass.Web.Catalogue.Letters;
using Nachlass.Web.Catalogue.Pages;

namespace Nachlass.Web.Catalogue.Queue;

/// <summary>
/// Sends letters to a list of readers by mail (SMTP, RFC 5321; TLS always; sign-in, RFC 4954). Each reader gets one of their own, which is
/// written down before it leaves and after it was taken. SMTP knows no question whether something arrived: where the connection breaks
/// after the last byte of a letter, nobody knows, the others go on, and at the end its writer is asked.
/// </summary>
internal sealed class Mail(LetterStore letters, PublicSite site, PapersFile papers) : IChannel
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(60);

    public async Task<Outcome> Send(Connection connection, string secret, Post post, CancellationToken stop)
    {
        var waiting = letters.Waiting(post.Key, connection.Outlet);
        var letter = LetterOf(connection, post);
        Outcome? trouble = null;
        using var heard = new Heard();
        using var client = new SmtpClient(heard);
        var again = 0;
        foreach (var reader in waiting)
        {
            if (!client.IsConnected)
            {
                if (await Open(client, connection, secret, stop) is { } closed)
                {
                    trouble = closed;
                    break;
                }
                // A server that hangs up after each letter is left alone for a while.
                if (++again > MostConnections)
                {
                    trouble = new Outcome.Later("It hangs up again and again.");
                    break;
                }
            }
            var message = LetterFile.To(
                letter,
                reader.Address,
                reader.Name,
                $"{post.Key}.{reader.Number}",
                papers.Time.GetUtcNow(),
                new Uri(site.Site.Address, $"leave/{reader.Token}")
            );
            if (!letters.Stand(post.Key, reader, CopyState.Tries))
                continue;
            trouble = await One(client, heard, message, reader, post.Key, stop) ?? trouble;
            if (trouble is Outcome.Refused or Outcome.Later { After: not null })
                break;
        }
        await Close(client);
        return Ended(letters.Count(post.Key), trouble, letter);
    }

    private const int MostConnections = 20;

    /// <summary>What is to be waited for when the whole service asks for it, and not one mailbox.</summary>
    private static readonly TimeSpan LeftAlone = TimeSpan.FromMinutes(1);

    private static Outcome Ended(LetterCount? count, Outcome? trouble, Letter letter)
    {
        if (count is null)
            return new Outcome.Refused("Nobody is on its list of readers.");
        if (trouble is Outcome.Refused)
            return trouble;
        if (count.Waits > 0)
            return new Outcome.Later(
                $"{Said(count.Sent)} of {Said(count.All)} letters are out. {(trouble as Outcome.Later)?.Reason ?? "The rest waits."}",
                (trouble as Outcome.Later)?.After
            );
        if (count.Unknown > 0)
            return new Outcome.CannotTell(
                $"{Said(count.Sent)} of {Said(count.All)} letters are out. Of {(count.Unknown == 1 ? "one" : Said(count.Unknown))} nobody "
                    + "knows: the connection broke at the end. Look in the letter service whether it arrived there."
            );
        return count.Sent == 0 ? new Outcome.Refused("No mailbox took it.") : new Outcome.Taken(letter.OnTheWeb?.ToString() ?? "");
    }

    private static string Said(int count) => count.ToString("N0", CultureInfo.InvariantCulture);

    /// <summary>Hands a letter over.</summary>
    /// <returns>What keeps others from going; null for nothing.</returns>
    private async Task<Outcome?> One(SmtpClient client, Heard heard, MimeMessage message, Reader reader, string key, CancellationToken stop)
    {
        heard.Begin();
        try
        {
            await client.SendAsync(message, stop, heard);
            letters.Stand(key, reader, CopyState.Sent);
            return null;
        }
        catch (SmtpCommandException error)
        {
            var isForNow = (int)error.StatusCode is >= 400 and < 500;
            var isOfReader = error.ErrorCode == SmtpErrorCode.RecipientNotAccepted;
            letters.Stand(key, reader, isOfReader && !isForNow ? CopyState.Refused : CopyState.Waits, Short(error.Message));
            if (isOfReader)
                return isForNow ? new Outcome.Later($"A mailbox takes nothing for now: {Short(error.Message)}") : null;
            return isForNow
                ? new Outcome.Later($"It takes no more for now: {Short(error.Message)}", LeftAlone)
                : new Outcome.Refused($"It does not take the letter: {Short(error.Message)}");
        }
        catch (Exception error)
            when (error is SmtpProtocolException or IOException or SocketException or ServiceNotConnectedException or TimeoutException
                || (error is OperationCanceledException && !stop.IsCancellationRequested)
            )
        {
            await client.DisconnectAsync(quit: false, CancellationToken.None);
            // What was said of it holds, whatever became of the connection then; before its last byte has gone it can't have been
            // taken.
            if (heard.Answer is >= 200 and < 300)
                letters.Stand(key, reader, CopyState.Sent);
            else if (!heard.IsWhole || heard.Answer is not null)
                letters.Stand(key, reader, CopyState.Waits);
            return heard.Answer is >= 400 ? new Outcome.Later("It takes no more for now.", LeftAlone) : null;
        }
    }

    private static string Short(string said)
    {
        var line = string.Join(' ', said.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        return line.Length > 200 ? line[..200] + "…" : line;
    }

    /// <summary>Listens to what is said on the wire, so that it is known whether all of a letter was handed over and what was answered to
    /// that, however the connection ended.</summary>
    private sealed class Heard : ITransferProgress, IProtocolLogger
    {
        public bool IsWhole { get; private set; }

        /// <summary>The code of the first answer after the whole letter; null for none.</summary>
        public int? Answer { get; private set; }

        public IAuthenticationSecretDetector? AuthenticationSecretDetector { get; set; }

        public void Begin() => (IsWhole, Answer) = (false, null);

        public void Report(long bytesTransferred, long totalSize) => IsWhole |= bytesTransferred >= totalSize;

        // Where the size is not known it may have been the last.
        public void Report(long bytesTransferred) => IsWhole = true;

        public void LogConnect(Uri uri) { }

        public void LogClient(byte[] buffer, int offset, int count) { }

        public void LogServer(byte[] buffer, int offset, int count)
        {
            if (
                IsWhole
                && Answer is null
                && count >= 3
                && int.TryParse(buffer.AsSpan(offset, 3), CultureInfo.InvariantCulture, out var code)
            )
                Answer = code;
        }

        public void Dispose() { }
    }

    /// <summary>Connects and signs in.</summary>
    /// <returns>Why it can't be; null when it is done.</returns>
    private static async Task<Outcome?> Open(SmtpClient client, Connection connection, string secret, CancellationToken stop)
    {
        var at = new Uri(connection.Address);
        client.Timeout = (int)Patience.TotalMilliseconds;
        client.ServerCertificateValidationCallback = Certificates.Believed(connection.Trusts);
        try
        {
            await client.ConnectAsync(
                at.Host,
                at.Port,
                at.Port == Connection.SubmissionsPort ? SecureSocketOptions.SslOnConnect : SecureSocketOptions.StartTls,
                stop
            );
            if (connection.User.Length > 0)
                await client.AuthenticateAsync(connection.User, secret, stop);
            return null;
        }
        catch (AuthenticationException)
        {
            return new Outcome.Refused("It does not take the name and password.");
        }
        catch (SslHandshakeException)
        {
            return new Outcome.Refused("Nobody vouches for its certificate. Connect it again to look at that.");
        }
        catch (NotSupportedException)
        {
            return new Outcome.Refused("It offers no encryption, or no sign-in; nothing is sent in the open.");
        }
        catch (SmtpCommandException error)
        {
            return new Outcome.Later($"It takes nothing for now: {Short(error.Message)}", LeftAlone);
        }
        catch (Exception error)
            when (error is SmtpProtocolException or IOException or SocketException or TimeoutException
                || (error is OperationCanceledException && !stop.IsCancellationRequested)
            )
        {
            return new Outcome.Later("It can't be reached.", LeftAlone);
        }
    }

    private static async Task Close(SmtpClient client)
    {
        try
        {
            if (client.IsConnected)
                await client.DisconnectAsync(quit: true, CancellationToken.None);
        }
        catch (Exception error) when (error is SmtpProtocolException or SmtpCommandException or IOException or SocketException) { }
    }

    private Letter LetterOf(Connection connection, Post post) =>
        new(post.Title, post.Whole, post.Language, Address(connection), Named(connection), OnTheWeb(connection, post), post.Picture);

    /// <summary>Where it can be read: on a page of its own, else among the letters that went out; null for nowhere.</summary>
    private Uri? OnTheWeb(Connection connection, Post post) =>
        site.PageOf(post.Piece)
        ?? (connection.IsArchived && site.Listens is not null ? LetterDoors.AddressOf(site.Site, connection.Outlet, post.Piece) : null);

    public ShownPart Shown(Connection connection, Post post, Func<string, string> at) =>
        new(
            Named(connection) is { Length: > 0 } name ? $"{name} <{Address(connection)}>" : Address(connection),
            post.Title,
            PieceFile.Fragment(post.Whole, post.Picture, (address, _) => at(address)),
            "",
            OnTheWeb(connection, post) is null ? LetterFile.LeavingWords : $"{LetterFile.OnTheWebWords} · {LetterFile.LeavingWords}"
        );

    private static string Address(Connection connection) => MailboxAddress.Parse(connection.Sender).Address;

    private static string Named(Connection connection) => MailboxAddress.Parse(connection.Sender).Name ?? "";

    /// <summary>Those that were being handed over as the program ended are left as they are; the others go on.</summary>
    public Task<Outcome?> Look(Connection connection, string secret, Post post, CancellationToken stop) =>
        Task.FromResult(
            letters.Count(post.Key) is { } count && count.Waits == 0 ? Ended(count, null, LetterOf(connection, post)) : (Outcome?)null
        );

    public async Task<string> Try(Connection connection, string secret, CancellationToken stop)
    {
        using var client = new SmtpClient();
        var problem = await Open(client, connection, secret, stop) switch
        {
            null => "",
            Outcome.Refused(var reason) => reason,
            Outcome.Later(var reason, _) => reason,
            _ => "It can't be reached.",
        };
        await Close(client);
        return problem;
    }

    /// <summary>The SHA-256 of the certificate a letter service shows, in hexadecimal, with whom it says it is; null where it shows
    /// none.</summary>
    public static async Task<(string Hash, string Name)?> Certificate(Connection connection, CancellationToken stop)
    {
        (string, string)? shown = null;
        using var client = new SmtpClient();
        client.Timeout = (int)Patience.TotalMilliseconds;
        client.ServerCertificateValidationCallback = Certificates.OnlySeen((hash, name) => shown = (hash, name));
        var at = new Uri(connection.Address);
        try
        {
            await client.ConnectAsync(
                at.Host,
                at.Port,
                at.Port == Connection.SubmissionsPort ? SecureSocketOptions.SslOnConnect : SecureSocketOptions.StartTls,
                stop
            );
        }
        catch (Exception error) when (error is not OperationCanceledException || !stop.IsCancellationRequested) { }
        return shown;
    }

    /// <summary>Sends one letter to somebody who is on no list, now.</summary>
    /// <returns>What is wrong, in a sentence; empty when it was taken.</returns>
    public async Task<string> SendTo(
        Connection connection,
        string secret,
        Post post,
        IReadOnlyList<string> addresses,
        CancellationToken stop
    )
    {
        using var client = new SmtpClient();
        if (await Open(client, connection, secret, stop) is { } closed)
            return closed is Outcome.Refused(var refused) ? refused
                : closed is Outcome.Later(var later, _) ? later
                : "It can't be reached.";
        // It went to no list, and so is not among what went out.
        var letter = LetterOf(connection with { IsArchived = false }, post);
        var untaken = new List<string>();
        foreach (var (address, nth) in addresses.Select((a, i) => (a, i + 1)))
            try
            {
                await client.SendAsync(LetterFile.To(letter, address, "", $"{post.Key}.{nth}", papers.Time.GetUtcNow(), leave: null), stop);
            }
            catch (SmtpCommandException error)
            {
                untaken.Add($"{address} ({Short(error.Message)})");
            }
            catch (Exception error) when (error is SmtpProtocolException or IOException or SocketException)
            {
                return $"The connection broke at {address}. Those before it have the letter.";
            }
        await Close(client);
        return untaken.Count == 0 ? "" : $"Not taken: {string.Join(", ", untaken)}.";
    }
}
