using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue.Letters;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Catalogue.Queue;

/// <summary>How an outlet is to be reached.</summary>
/// <param name="Secret">Its token or password; left out, the one that is kept stays.</param>
/// <param name="User">Who signs in at a letter service.</param>
/// <param name="Sender">From whom letters come: a mail address, or a name and an address.</param>
/// <param name="Trusts">SHA-256 of a certificate that is to be believed although nobody vouches for it.</param>
public sealed record ConnectionRequest(
    ConnectionKind Kind,
    string? Address,
    string? Secret = null,
    string? User = null,
    string? Sender = null,
    string? Trusts = null
);

/// <summary>Whether an outlet answers.</summary>
/// <param name="Problem">What is wrong, in a sentence; empty when nothing is.</param>
/// <param name="Certificate">SHA-256 of the certificate that nobody vouches for; empty where that is not the trouble.</param>
/// <param name="CertificateOf">Whose it says it is.</param>
public sealed record ConnectionTried(string Problem, string Certificate = "", string CertificateOf = "");

/// <summary>A letter to some who are to read a draft.</summary>
/// <param name="Outlet">Through whose letter service it goes.</param>
/// <param name="To">Their addresses, one a line.</param>
/// <param name="Words">What is said to them before it.</param>
public sealed record DraftLetter(OutletNumber? Outlet, string? To, string? Words = null);

/// <summary>What became of it.</summary>
/// <param name="Problem">What is wrong, in a sentence; empty when all took it.</param>
public sealed record DraftSent(int To, string Problem);

/// <summary>What is to be done with something in the queue.</summary>
public sealed record QueueActRequest(QueueAct Act);

/// <summary>Connecting outlets, and what is on its way to them.</summary>
internal static class QueueEndpoints
{
    public static void MapQueue(this RouteGroupBuilder api)
    {
        api.MapGet("/connections", (ConnectionStore connections) => TypedResults.Ok(connections.List()));
        api.MapPut("/outlets/{number}/connection", Connect);
        api.MapDelete(
            "/outlets/{number}/connection",
            (OutletNumber number, ConnectionStore connections) =>
            {
                connections.Remove(number);
                return TypedResults.NoContent();
            }
        );
        api.MapPost("/outlets/{number}/connection/try", Try);
        api.MapPost("/outlets/{number}/connection/test", Test);
        api.MapPost("/pieces/{number}/draft-letter", SendDraft);
        api.MapGet("/queue", (QueueStore queue) => TypedResults.Ok(queue.List()));
        api.MapGet("/queue/{number}", (SendingNumber number, QueueStore queue) => TypedResults.Ok(queue.Get(number)));
        api.MapPost(
            "/queue/{number}/act",
            (SendingNumber number, QueueActRequest asked, QueueStore queue) => TypedResults.Ok(queue.Act(number, asked.Act))
        );
        api.MapPost(
            "/pieces/{number}/sending/preview",
            (PieceNumber number, NewSending asked, QueueStore queue, Sender sender) =>
                TypedResults.Ok(sender.Shown(number, asked, queue.Preview(number, asked)))
        );
        api.MapPost(
            "/pieces/{number}/sending",
            (PieceNumber number, NewSending asked, QueueStore queue, Request request) =>
            {
                var done = queue.Queue(number, asked, request.Once);
                return request.Created(done, $"/api/queue/{done.Answer.Number}");
            }
        );
    }

    private static Ok<Connection> Connect(OutletNumber number, ConnectionRequest asked, ConnectionStore connections, Secrets secrets)
    {
        var address = Connection.CheckedAddress(asked.Kind, asked.Address);
        var secret = asked.Secret is null ? null : Check.Length("secret", asked.Secret.Trim(), Connection.LongestSecret);
        // What was given to one place is told to no other.
        if (
            secret is null
            && connections.Find(number) is { HasSecret: true } before
            && PlaceOf(before.Kind, before.Address) != PlaceOf(asked.Kind, address)
        )
            secret = "";
        if (
            asked.Kind == ConnectionKind.Micropub
            && string.IsNullOrEmpty(secret)
            && (secret is not null || connections.Find(number) is not { HasSecret: true })
        )
            throw new BadInputException("secret", "A Micropub endpoint wants a token; it gives you one.");
        var mail = asked.Kind == ConnectionKind.Mail;
        var sender = mail ? Sender.From(asked.Sender) : "";
        connections.Set(
            new Connection(
                number,
                asked.Kind,
                address,
                HasSecret: false,
                mail ? Check.Length("user", asked.User?.Trim(), Connection.LongestUser) : "",
                sender,
                mail ? Check.Length("trusts", asked.Trusts?.Trim().ToLowerInvariant(), 64) : ""
            ),
            secret is null ? null : secrets.Close(secret)
        );
        return TypedResults.Ok(connections.Find(number)!);
    }

    private static (ConnectionKind, string) PlaceOf(ConnectionKind kind, string address) =>
        (kind, Uri.TryCreate(address, UriKind.Absolute, out var at) ? at.Authority : address);

    private static async Task<Ok<ConnectionTried>> Try(
        OutletNumber number,
        ConnectionStore connections,
        Secrets secrets,
        Sender sender,
        CancellationToken stop
    )
    {
        var connection = connections.Find(number) ?? throw new NotThereException($"a connection of outlet {number}");
        var problem = secrets.Open(connections.Secret(number)) is { } secret
            ? await sender.Channel(connection.Kind).Try(connection, secret, stop)
            : "Its token can't be read on this machine. Give it once more.";
        // A certificate that nobody vouches for may be the writer's own server's; that is theirs to say.
        if (problem.Length > 0 && connection.Kind == ConnectionKind.Mail && await Mail.Certificate(connection, stop) is { } shown)
            return TypedResults.Ok(
                shown.Hash == connection.Trusts ? new ConnectionTried(problem) : new ConnectionTried(problem, shown.Hash, shown.Name)
            );
        return TypedResults.Ok(new ConnectionTried(problem));
    }

    /// <summary>Sends a few words of ours to an outlet, which are not kept as a release.</summary>
    private static async Task<Ok<ConnectionTried>> Test(
        OutletNumber number,
        ConnectionStore connections,
        Secrets secrets,
        Sender sender,
        CancellationToken stop
    )
    {
        var connection = connections.Find(number) ?? throw new NotThereException($"a connection of outlet {number}");
        var problem = secrets.Open(connections.Secret(number)) is { } secret
            ? await sender.Test(connection, secret, stop)
            : "Its token can't be read on this machine. Give it once more.";
        return TypedResults.Ok(new ConnectionTried(problem));
    }

    private const int MostDraftReaders = 20;

    private static async Task<Ok<DraftSent>> SendDraft(
        PieceNumber number,
        DraftLetter asked,
        ConnectionStore connections,
        Secrets secrets,
        Sender sender,
        CancellationToken stop
    )
    {
        var (read, unread) = Reader.InList(asked.To);
        if (unread.Count > 0)
            throw new BadInputException("to", $"“{unread[0]}” is no mail address.");
        if (read.Count is 0 or > MostDraftReaders)
            throw new BadInputException("to", $"Say to whom, one a line; at most {MostDraftReaders}.");
        var words = Check.Length("words", asked.Words?.Trim(), 4_000);
        var connection =
            asked.Outlet is { } outlet && connections.Find(outlet) is { Kind: ConnectionKind.Mail } found
                ? found
                : throw new BadInputException("outlet", "Choose an outlet that sends letters.");
        var problem = secrets.Open(connections.Secret(connection.Outlet)) is { } secret
            ? await sender.SendDraft(connection, secret, number, [.. read.Select(r => r.Address)], words, stop)
            : "Its password can't be read on this machine. Give it once more.";
        return TypedResults.Ok(new DraftSent(read.Count, problem));
    }
}
