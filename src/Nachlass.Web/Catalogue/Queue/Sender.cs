using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Letters;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Catalogue.Pages;
using Nachlass.Exchange.Pieces;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Catalogue.Figures;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Store.Papers;
using Nachlass.Web.Catalogue.Audio;

namespace Nachlass.Web.Catalogue.Queue;

/// <summary>Sends what is due, a part at a time, in order. Whatever it does it writes down before and after, so that it goes on where it
/// was after the program ended in the middle.</summary>
internal sealed class Sender(
    QueueStore queue,
    ConnectionStore connections,
    Secrets secrets,
    PieceStore pieces,
    FormatStore formats,
    OutStore outs,
    ReleaseStore releases,
    ReleaseFigureStore figures,
    AttachmentStore attachments,
    FileShelf shelf,
    OutgoingPictures outgoing,
    Mail mail,
    AudioChannel audio,
    PapersFile papers,
    ILogger<Sender> log
) : BackgroundService
{
    private static readonly TimeSpan Between = TimeSpan.FromSeconds(1);
    private readonly Dictionary<ConnectionKind, IChannel> channels = new()
    {
        [ConnectionKind.Micropub] = new Micropub(),
        [ConnectionKind.Folder] = new Folder(),
        [ConnectionKind.Mail] = mail,
        [ConnectionKind.Feed] = audio,
    };
    private readonly SemaphoreSlim one = new(1);

    public IChannel Channel(ConnectionKind kind) => channels[kind];

    protected override async Task ExecuteAsync(CancellationToken stop)
    {
        using var timer = new PeriodicTimer(Between, papers.Time);
        try
        {
            do await SendDue(stop);
            while (await timer.WaitForNextTickAsync(stop));
        }
        catch (OperationCanceledException) { }
    }

    /// <summary>Sends all that is due once.</summary>
    public async Task SendDue(CancellationToken stop)
    {
        await one.WaitAsync(stop);
        try
        {
            foreach (var sending in queue.Due())
                await Send(sending, stop);
        }
        catch (Exception error) when (error is not OperationCanceledException)
        {
            // A full disk, or papers that are gone: it goes on when that is mended.
            log.LogError(error, "The queue could not be sent");
        }
        finally
        {
            one.Release();
        }
    }

    private async Task Send(Sending sending, CancellationToken stop)
    {
        while (sending.Parts.FirstOrDefault(p => p.State != PartState.Sent) is { } part)
        {
            if (connections.Find(sending.Outlet) is not { } connection)
            {
                queue.End(sending, part.Nth, new Outcome.Refused("The outlet is not connected any more."));
                return;
            }
            sending = queue.End(sending, part.Nth, await Attempt(sending, part, connection, stop));
            if (sending.Parts[part.Nth - 1].State != PartState.Sent)
                return;
        }
        queue.Finish(sending);
    }

    private async Task<Outcome> Attempt(Sending sending, SendingPart part, Connection connection, CancellationToken stop)
    {
        var channel = Channel(connection.Kind);
        var secret = secrets.Open(connections.Secret(sending.Outlet));
        if (secret is null)
            return new Outcome.Refused("Its token can't be read on this machine. Connect the outlet again.");
        var picture = part.Nth == 1 ? sending.Picture : null;
        if (picture is not null && !File.Exists(shelf.Path(picture.Hash)))
            return new Outcome.Refused($"The file of its picture, {picture.Name}, is gone. Take it out here, and send it anew.");
        var post = PostOf(
            sending.Piece,
            part.Key,
            Connection.IsWhole(connection.Kind) || (sending.Parts.Count == 1 && IsTitled(sending.Piece)) ? sending.Title : "",
            part.Text,
            part.Nth > 1 ? sending.Parts[part.Nth - 2].Address : "",
            picture
        );
        // It was sent before and nobody knows whether it arrived: look before it is repeated.
        if (part.State == PartState.Tries && await channel.Look(connection, secret, post, stop) is { } seen)
            // While it can't be asked, it is not known; it is not sent again on a guess.
            return seen is Outcome.Later(var reason, _) ? new Outcome.Unknown(reason) : seen;
        queue.Begin(sending, part.Nth);
        return await channel.Send(connection, secret, post, stop);
    }

    /// <summary>From whom letters come, as typed.</summary>
    /// <exception cref="BadInputException">There is no mail address in it.</exception>
    public static string From(string? typed) =>
        Reader.InList(typed) is { Read: [var (address, name)], Unread.Count: 0 }
            ? new MimeKit.MailboxAddress(name, address).ToString()
            : throw new BadInputException("sender", "Say from whom letters come: ada@letters.example, or a name and that in < >.");

    /// <summary>Sends a few words to an outlet, to see that they arrive.</summary>
    /// <returns>What is wrong, in a sentence; empty when nothing is.</returns>
    public async Task<string> Test(Connection connection, string secret, CancellationToken stop)
    {
        const string words = "This is a test. It was sent to see that it arrives; you can take it away.";
        var post = new Post(
            $"test-{Guid.NewGuid():N}",
            connection.Kind == ConnectionKind.Mail ? "A test letter" : "",
            words,
            "",
            default,
            "en",
            _ => null
        );
        if (connection.Kind == ConnectionKind.Mail)
            return await mail.SendTo(connection, secret, post, [MimeKit.MailboxAddress.Parse(connection.Sender).Address], stop);
        // Listeners would get a test in a feed like everything else.
        if (connection.Kind == ConnectionKind.Feed)
            return await audio.Try(connection, secret, stop);
        var outcome = await Channel(connection.Kind).Send(connection, secret, post, stop);
        return outcome is Outcome.Taken or Outcome.WasThere ? "" : Said(outcome);
    }

    /// <summary>Puts a release right where it went out.</summary>
    /// <returns>What is wrong, in a sentence; empty when it stands there now.</returns>
    /// <exception cref="ClashException">It can't be: see <see cref="QueueStore.PutRight"/>.</exception>
    public async Task<string> PutRight(ReleaseNumber number, CancellationToken stop)
    {
        var (release, parts) = queue.PutRight(number);
        if (release.Outlet is not { } outlet || connections.Find(outlet) is not { } connection)
            return "Its outlet is not connected. Put it right there by hand.";
        if (secrets.Open(connections.Secret(outlet)) is not { } secret)
            return "Its token can't be read on this machine. Connect the outlet again.";
        // What is told of a feed is read there: it has to stand in it before.
        if (connection.Kind == ConnectionKind.Feed)
            releases.IsRightThere(number);
        var before = "";
        foreach (var part in parts)
        {
            var titled = parts.Count == 1 && IsTitled(release.Piece) ? release.Title : "";
            // Beside words that have no title it stands by itself, and stays.
            var post = PostOf(release.Piece, part.Key, titled, part.Text, before, titled.Length > 0 ? release.Picture : null);
            before = part.Address;
            var outcome = await Channel(connection.Kind).PutRight(connection, secret, part.Address, post, stop);
            if (outcome is null)
                return connection.Kind == ConnectionKind.Mail
                    ? "A letter that is in a mailbox stays as it is. Tell its readers in the next one."
                    : "It did not go out from here, so nobody knows what to change there. Put it right by hand.";
            if (outcome is not (Outcome.Taken or Outcome.WasThere))
                return Said(outcome);
        }
        releases.IsRightThere(number);
        return "";
    }

    private static string Said(Outcome outcome) =>
        outcome switch
        {
            Outcome.Later(var reason, _) => reason,
            Outcome.Refused(var reason) => reason,
            Outcome.Unknown(var reason) => reason,
            _ => "Nobody can tell whether it arrived.",
        };

    /// <summary>Asks an outlet for the figures of a release, and keeps what it tells.</summary>
    public async Task<FiguresTold> AskFigures(ToAsk asked, CancellationToken stop)
    {
        if (connections.Find(asked.Outlet) is not { } connection)
            return new FiguresTold(null, "Its outlet is not connected, so nobody can be asked. Type the figures you know.");
        if (secrets.Open(connections.Secret(asked.Outlet)) is not { } secret)
            return new FiguresTold(null, "Its token can't be read on this machine. Connect the outlet again.");
        var told = await Channel(connection.Kind).Figures(connection, secret, asked.Address, stop);
        if (told.Figures is { } kept)
            figures.Told(asked.Release, kept);
        return told;
    }

    /// <summary>Sends a piece as it stands to some who are to read it before others.</summary>
    /// <returns>What is wrong, in a sentence; empty when all took it.</returns>
    public Task<string> SendDraft(
        Connection connection,
        string secret,
        PieceNumber number,
        IReadOnlyList<string> to,
        string words,
        CancellationToken stop
    )
    {
        var piece = pieces.Get(number);
        var text = outs.Finished(number, new OutAsked(WithTitle: false)).Trim();
        if (text.Length == 0)
            throw new BadInputException("to", $"There is not a word in P {number} yet.");
        var post = PostOf(
            number,
            $"draft-{Guid.NewGuid():N}",
            $"Draft: {piece.Title}",
            words.Length > 0 ? $"{words}\n\n---\n\n{text}" : text,
            "",
            picture: null
        );
        return mail.SendTo(connection, secret, post, to, stop);
    }

    /// <summary>How the parts of a piece would be seen where it goes out.</summary>
    public SendingPreview Shown(PieceNumber number, NewSending asked, SendingPreview preview)
    {
        if (asked.Outlet is not { } outlet || connections.Find(outlet) is not { } connection)
            return preview;
        var language = pieces.Get(number).Language;
        var title = Connection.IsWhole(connection.Kind) || (preview.Parts.Count == 1 && IsTitled(number)) ? preview.Title : "";
        return preview with
        {
            Shown =
            [
                .. preview.Parts.Select(
                    (text, at) =>
                        Channel(connection.Kind)
                            .Shown(
                                connection,
                                new Post(
                                    "",
                                    title,
                                    text,
                                    "",
                                    number,
                                    language,
                                    address => Found(address) is { } found ? new Picture(found.Type, [], found.Credit) : null,
                                    at == 0 && asked.Picture is not null ? asked.Shows ?? "" : null
                                ),
                                address => $"/api/attachments/{Found(address)!.Number}/content"
                            )
                ),
            ],
        };

        Attachment? Found(string address) =>
            address == Post.OwnPicture
                ? preview.Pictures.Any(p => p.Attachment == asked.Picture)
                    ? attachments.Find(asked.Picture!.Value)
                    : null
                : outs.PictureOf(number, address);
    }

    private Post PostOf(PieceNumber piece, string key, string title, string text, string replyTo, SentPicture? picture) =>
        new(
            key,
            title,
            text,
            replyTo,
            piece,
            pieces.Get(piece).Language,
            address => address == Post.OwnPicture && picture is not null ? outgoing.Of(picture) : outgoing.Of(piece, address),
            picture?.Shows
        );

    /// <summary>Whether it goes out under its title: a short post and a post of a thread do not, everything else does.</summary>
    private bool IsTitled(PieceNumber piece) =>
        formats.List().FirstOrDefault(f => f.Key == pieces.Get(piece).Format) is not { IsInParts: true };

    public override void Dispose()
    {
        foreach (var channel in channels.Values.OfType<IDisposable>())
            channel.Dispose();
        one.Dispose();
        base.Dispose();
    }
}
