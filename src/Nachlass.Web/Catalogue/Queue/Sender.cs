using Nachlass.Core.Catalogue.Queue;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Store.Papers;

namespace Nachlass.Web.Catalogue.Queue;

/// <summary>Sends what is due, a part at a time, in order. Whatever it does it writes down before and after, so that it goes on where it
/// was after the program ended in the middle.</summary>
internal sealed class Sender(
    QueueStore queue,
    ConnectionStore connections,
    Secrets secrets,
    PieceStore pieces,
    FormatStore formats,
    PapersFile papers,
    ILogger<Sender> log
) : BackgroundService
{
    private static readonly TimeSpan Between = TimeSpan.FromSeconds(1);
    private readonly Dictionary<ConnectionKind, IChannel> channels = new()
    {
        [ConnectionKind.Micropub] = new Micropub(),
        [ConnectionKind.Folder] = new Folder(),
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
        var post = new Post(
            part.Key,
            IsTitled(sending) ? sending.Title : "",
            part.Text,
            part.Nth > 1 ? sending.Parts[part.Nth - 2].Address : ""
        );
        // It was sent before and nobody knows whether it arrived: look before it is repeated.
        if (part.State == PartState.Tries && await channel.Look(connection, secret, post, stop) is { } seen)
            // While it can't be asked, it is not known; it is not sent again on a guess.
            return seen is Outcome.Later(var reason, _) ? new Outcome.Unknown(reason) : seen;
        queue.Begin(sending, part.Nth);
        return await channel.Send(connection, secret, post, stop);
    }

    /// <summary>Whether it goes out under its title: a short post and a post of a thread do not, everything else does.</summary>
    private bool IsTitled(Sending sending) =>
        sending.Parts.Count == 1
        && formats.List().FirstOrDefault(f => f.Key == pieces.Get(sending.Piece).Format) is not { IsInParts: true };

    public override void Dispose()
    {
        foreach (var channel in channels.Values.OfType<IDisposable>())
            channel.Dispose();
        one.Dispose();
        base.Dispose();
    }
}
