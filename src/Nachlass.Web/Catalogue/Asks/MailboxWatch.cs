using System.Net.Sockets;
using MailKit;
using MailKit.Net.Imap;
using MailKit.Search;
using MailKit.Security;
using Nachlass.Core.Catalogue.Asks;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Papers;
using Nachlass.Web.Capture;
using Nachlass.Web.Catalogue.Queue;

namespace Nachlass.Web.Catalogue.Asks;

/// <summary>What a look into the mailbox brought.</summary>
/// <param name="Problem">What is wrong, in a sentence; empty when nothing is.</param>
/// <param name="Certificate">SHA-256 of the certificate that nobody vouches for; empty where that is not the trouble.</param>
/// <param name="CertificateOf">Whose it says it is.</param>
public sealed record MailboxLooked(int Messages, string Problem, string Certificate = "", string CertificateOf = "");

/// <summary>
/// Looks into the watched mailbox when it is time, by IMAP (RFC 9051) over TLS, and takes in what is new. The box is opened for reading
/// only, so that nothing in it is ever changed, marked or moved. Mails are read as any strange file is, in a process of its own, and each
/// is known again by its Message-ID, so that none comes in twice however often a look breaks off.
/// </summary>
internal sealed class MailboxWatch(
    MailboxStore mailbox,
    MessageStore messages,
    Secrets secrets,
    Reader reader,
    PapersFile papers,
    ILogger<MailboxWatch> log
) : BackgroundService
{
    private const int MostAtOnce = 200;
    private const uint MostBytes = 16 << 20;

    private static readonly TimeSpan Between = TimeSpan.FromMinutes(5),
        Patience = TimeSpan.FromSeconds(60);

    private readonly SemaphoreSlim one = new(1);

    protected override async Task ExecuteAsync(CancellationToken stop)
    {
        using var timer = new PeriodicTimer(Between, papers.Time);
        try
        {
            do if (mailbox.Get() is { Rests: false })
                await Look(stop);
            while (await timer.WaitForNextTickAsync(stop));
        }
        catch (OperationCanceledException) { }
    }

    /// <summary>Looks once.</summary>
    public async Task<MailboxLooked> Look(CancellationToken stop)
    {
        await one.WaitAsync(stop);
        try
        {
            if (mailbox.Get() is not { Box: var box })
                return new MailboxLooked(0, "No mailbox is watched.");
            var place = mailbox.Place;
            var came = 0;
            var problem = "";
            var rests = false;
            using var client = new ImapClient();
            try
            {
                await Open(client, box, stop);
                var folder = await client.GetFolderAsync(box.Folder, stop);
                await folder.OpenAsync(FolderAccess.ReadOnly, stop);
                var first = place.From(folder.UidValidity);
                var query = SearchQuery.And(
                    SearchQuery.DeliveredAfter(box.Since.ToDateTime(TimeOnly.MinValue)),
                    SearchQuery.Uids(new UniqueIdRange(folder.UidValidity, first, uint.MaxValue))
                );
                // Of a range that begins behind the last, a box gives the last (RFC 9051, 6.4.8).
                var fresh = (await folder.SearchAsync(query, stop)).Where(u => u.Id >= first).OrderBy(u => u.Id).ToList();
                foreach (var some in fresh.Chunk(MostAtOnce))
                {
                    came += await Take(folder, some, stop);
                    place = new WatchedMailbox.Place(folder.UidValidity, some[^1].Id);
                    mailbox.Looked(box, place, 0, "", rests: false);
                }
                if (place.Numbers != folder.UidValidity)
                    place = new WatchedMailbox.Place(folder.UidValidity, 0);
            }
            catch (Exception error) when (Said(error, stop) is { } said)
            {
                (problem, rests) = said;
            }
            catch (Exception error) when (error is RefusedException or UnreadableFileException)
            {
                problem = error.Message;
            }
            catch (Exception error) when (error is not OperationCanceledException)
            {
                log.LogError(error, "The mailbox could not be looked into");
                problem = "Something went wrong in Nachlass; the server's log says more.";
            }
            finally
            {
                await Close(client);
            }
            mailbox.Looked(box, place, came, problem, rests);
            return new MailboxLooked(came, problem);
        }
        finally
        {
            one.Release();
        }
    }

    private async Task Open(ImapClient client, WatchedMailbox box, CancellationToken stop)
    {
        client.Timeout = (int)Patience.TotalMilliseconds;
        client.ServerCertificateValidationCallback = Certificates.Believed(box.Trusts);
        await Connect(client, box, stop);
        await client.AuthenticateAsync(box.User, secrets.Open(mailbox.Secret) ?? throw new AuthenticationException(), stop);
    }

    private static Task Connect(ImapClient client, WatchedMailbox box, CancellationToken stop)
    {
        var at = new Uri(box.Address);
        return client.ConnectAsync(
            at.Host,
            at.Port,
            at.Port == WatchedMailbox.OpenPort ? SecureSocketOptions.StartTls : SecureSocketOptions.SslOnConnect,
            stop
        );
    }

    /// <summary>Takes some mails in.</summary>
    /// <returns>How many of them were new messages.</returns>
    private async Task<int> Take(IMailFolder folder, IList<UniqueId> mails, CancellationToken stop)
    {
        var parcel = new Parcel(Path.Combine(papers.Folder, "incoming", Guid.NewGuid().ToString("N")));
        try
        {
            foreach (var mail in await folder.FetchAsync(mails, MessageSummaryItems.UniqueId | MessageSummaryItems.Size, stop))
            {
                // What is so large is no letter to a writer.
                if (mail.Size > MostBytes)
                    continue;
                await using var raw = await folder.GetStreamAsync(mail.UniqueId, "", stop);
                parcel.Add($"{mail.UniqueId.Id}.eml", raw);
            }
            if (parcel.Files.Count == 0)
                return 0;
            var reads = await Task.Run(() => reader.Read(parcel, new ToRead(papers.Today), stop: stop), stop);
            var found = reads.Things(parcel).Select(thing => AskEndpoints.Of(thing.Found)).OfType<NewMessage>().ToList();
            return BringIn(found);
        }
        finally
        {
            Directory.Delete(parcel.Folder, recursive: true);
        }
    }

    /// <summary>Brings messages in together; where one of them can't be taken, it keeps no other out.</summary>
    private int BringIn(List<NewMessage> found)
    {
        try
        {
            return found.Count == 0 || messages.AllThere(found) ? 0 : messages.BringIn(found, Once.Unkeyed).Answer.Messages;
        }
        catch (BadInputException error)
        {
            if (found.Count > 1)
                return found.Sum(one => BringIn([one]));
            log.LogWarning("A mail is no message: {Reason}", error.Message);
            return 0;
        }
    }

    /// <summary>What an error of the wire means, and whether to leave the box alone then; null when it is none.</summary>
    private static (string Problem, bool Rests)? Said(Exception error, CancellationToken stop) =>
        error switch
        {
            AuthenticationException => ("It does not take the name and password.", true),
            SslHandshakeException => (NobodyVouches, true),
            NotSupportedException => ("It offers no encryption, or no sign-in; nothing is asked in the open.", true),
            FolderNotFoundException missing => ($"It has no folder “{missing.FolderName}”.", true),
            ImapCommandException said => ($"It says: {Short(said.ResponseText)}", false),
            ServiceNotConnectedException or ImapProtocolException or IOException or SocketException or TimeoutException => (
                "It can’t be reached, or hangs up.",
                false
            ),
            OperationCanceledException when !stop.IsCancellationRequested => ("It does not answer in time.", false),
            _ => null,
        };

    private const string NobodyVouches = "Nobody vouches for its certificate.";

    private static string Short(string? said)
    {
        var line = string.Join(' ', (said ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        return line.Length > 200 ? line[..200] + "…" : line;
    }

    private static async Task Close(ImapClient client)
    {
        try
        {
            if (client.IsConnected)
                await client.DisconnectAsync(quit: true, CancellationToken.None);
        }
        catch (Exception error) when (error is ImapProtocolException or ImapCommandException or IOException or SocketException) { }
    }

    /// <summary>The certificate its server shows, when nobody vouches for it; null otherwise.</summary>
    public static async Task<(string Hash, string Name)?> Certificate(WatchedMailbox box, CancellationToken stop)
    {
        (string, string)? shown = null;
        using var client = new ImapClient();
        client.Timeout = (int)Patience.TotalMilliseconds;
        client.ServerCertificateValidationCallback = Certificates.OnlySeen((hash, name) => shown = (hash, name));
        try
        {
            await Connect(client, box, stop);
        }
        catch (Exception error) when (error is not OperationCanceledException || !stop.IsCancellationRequested) { }
        return shown;
    }

    /// <summary>Whether a problem is that of a certificate.</summary>
    public static bool IsOfCertificate(string problem) => problem == NobodyVouches;

    public override void Dispose()
    {
        one.Dispose();
        base.Dispose();
    }
}
