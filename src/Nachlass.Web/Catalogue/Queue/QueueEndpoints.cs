using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue.Queue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Catalogue.Queue;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Catalogue.Queue;

/// <summary>How an outlet is to be reached.</summary>
/// <param name="Secret">Its token; left out, the one that is kept stays.</param>
public sealed record ConnectionRequest(ConnectionKind Kind, string? Address, string? Secret = null);

/// <summary>Whether an outlet answers.</summary>
/// <param name="Problem">What is wrong, in a sentence; empty when nothing is.</param>
public sealed record ConnectionTried(string Problem);

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
        api.MapGet("/queue", (QueueStore queue) => TypedResults.Ok(queue.List()));
        api.MapGet("/queue/{number}", (SendingNumber number, QueueStore queue) => TypedResults.Ok(queue.Get(number)));
        api.MapPost(
            "/queue/{number}/act",
            (SendingNumber number, QueueActRequest asked, QueueStore queue) => TypedResults.Ok(queue.Act(number, asked.Act))
        );
        api.MapPost(
            "/pieces/{number}/sending/preview",
            (PieceNumber number, NewSending asked, QueueStore queue) => TypedResults.Ok(queue.Preview(number, asked))
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
        if (asked.Kind == ConnectionKind.Micropub && string.IsNullOrEmpty(secret) && connections.Find(number) is not { HasSecret: true })
            throw new BadInputException("secret", "A Micropub endpoint wants a token; it gives you one.");
        connections.Set(number, asked.Kind, address, secret is null ? null : secrets.Close(secret));
        return TypedResults.Ok(connections.Find(number)!);
    }

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
        return TypedResults.Ok(new ConnectionTried(problem));
    }
}
