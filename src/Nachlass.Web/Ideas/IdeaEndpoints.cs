using System.Text.Json;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;
using Nachlass.Store.Ideas;
using Nachlass.Store.Papers;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Ideas;

/// <summary>The last line of a stream of ideas: they are kept, to be sorted.</summary>
/// <param name="Kept">How many there were.</param>
/// <param name="Command">The number under which asking can be taken back.</param>
/// <param name="Seed">The seed they were made with.</param>
internal sealed record IdeasKept(int Kept, CommandNumber? Command, int Seed);

/// <summary>More ideas than one could use, and sorting them.</summary>
internal static class IdeaEndpoints
{
    public static void MapIdeas(this RouteGroupBuilder api)
    {
        api.MapGet("/angles", (AngleStore angles) => TypedResults.Ok(angles.Get()));
        api.MapPut("/angles", (AnglesChange change, AngleStore angles, Request request) => request.Ok(angles.Put(change, request.Once)));
        api.MapGet("/ideas", (IdeaStore ideas) => TypedResults.Ok(ideas.ToSort()));
        api.MapPost(
                "/ideas",
                (IdeasWanted wanted, IdeaStore ideas, Request request, HttpContext http) => Stream(wanted, ideas, request, http)
            )
            .Produces<IdeaComing>(StatusCodes.Status200OK, "application/x-ndjson");
        api.MapPost(
            "/ideas/sorted",
            (IdeasDecided decided, IdeaStore ideas, Request request) => request.Ok(ideas.Decide(decided, request.Once))
        );
        api.MapPatch(
            "/ideas/{number}",
            (OfferNumber number, IdeaReworded reworded, IdeaStore ideas, Request request) =>
                request.Ok(ideas.Reword(number, reworded, request.Once))
        );
    }

    /// <summary>
    /// Ideas as lines of JSON, each as soon as it is made; the last line says that they are kept. Whoever stops listening keeps what was
    /// made until then.
    /// </summary>
    private static async Task Stream(IdeasWanted wanted, IdeaStore ideas, Request request, HttpContext http)
    {
        var stop = http.RequestAborted;
        var seed = ideas.Wish(wanted).Seed;
        var made = new List<IdeaComing>();
        try
        {
            // The first is made before anything is answered, so that what can't be asked is said as an error.
            foreach (var idea in ideas.Make(wanted with { Seed = seed }, stop))
            {
                made.Add(idea);
                await Line(http, idea, stop);
            }
        }
        catch (OperationCanceledException) when (stop.IsCancellationRequested)
        {
            if (made.Count > 0)
                ideas.Keep(made, seed, request.Once);
            return;
        }
        var command = made.Count == 0 ? (CommandNumber?)null : ideas.Keep(made, seed, request.Once).Command;
        await Line(http, new IdeasKept(made.Count, command, seed), stop);
    }

    private static async Task Line<T>(HttpContext http, T line, CancellationToken stop)
    {
        if (!http.Response.HasStarted)
            http.Response.ContentType = "application/x-ndjson; charset=utf-8";
        await JsonSerializer.SerializeAsync(http.Response.Body, line, Answers.Json, stop);
        await http.Response.Body.WriteAsync("\n"u8.ToArray(), stop);
        await http.Response.Body.FlushAsync(stop);
    }
}
