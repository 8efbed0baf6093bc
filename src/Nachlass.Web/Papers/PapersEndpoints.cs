using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Papers;

/// <summary>How the server is.</summary>
/// <param name="Indexed">Whether the index of near texts is filled.</param>
public sealed record Health(string Status, bool Indexed);

/// <summary>Where a name leads; null when nothing has it.</summary>
public sealed record Destination(string? Address);

/// <summary>The papers as a whole: counts, finding, history and undo, events.</summary>
internal static class PapersEndpoints
{
    public static void MapPapers(this RouteGroupBuilder api)
    {
        api.MapGet("/health", (PapersFile papers, Nearby nearby) => TypedResults.Ok(new Health(papers.Read(_ => "well"), nearby.IsFilled)));
        api.MapGet("/tally", (TallyStore tally) => TypedResults.Ok(tally.Count()));
        api.MapGet("/find", (FindStore find, string? query = null) => TypedResults.Ok(find.Find(query)));
        api.MapGet("/go", (FindStore find, string name) => TypedResults.Ok(new Destination(find.AddressOf(name))));
        api.MapGet("/commands", (HistoryStore history) => TypedResults.Ok(history.Latest()));
        api.MapPost("/commands/{number}/undo", (CommandNumber number, HistoryStore history, Request request) => request.Ok(history.Undo(number, request.Once)));
        api.MapGet("/events", Listen).ExcludeFromDescription();
    }

    private static ServerSentEventsResult<Changed?> Listen(Events events, IHostApplicationLifetime life, HttpContext http)
    {
        // A stopping server must not wait for tabs that only listen.
        var stop = CancellationTokenSource.CreateLinkedTokenSource(life.ApplicationStopping, http.RequestAborted);
        http.Response.RegisterForDispose(stop);
        return TypedResults.ServerSentEvents(events.Listen(stop.Token));
    }
}
