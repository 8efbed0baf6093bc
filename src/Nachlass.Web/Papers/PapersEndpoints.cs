using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Papers;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Papers;

/// <summary>How the server is.</summary>
/// <param name="Indexed">Whether the index of near texts is filled.</param>
public sealed record Health(string Status, bool Indexed);

/// <summary>Where a name leads; null when nothing has it.</summary>
public sealed record Destination(string? Address);

/// <summary>Keys by what they do; an empty one gives back the key it is born with.</summary>
public sealed record KeysGiven(IReadOnlyDictionary<string, string>? Keys);

/// <summary>The papers as a whole: counts, finding, history and undo, events.</summary>
internal static class PapersEndpoints
{
    private const string Zip = "application/zip";
    private const long ImportLimit = 512L << 20;

    public static void MapPapers(this RouteGroupBuilder api)
    {
        api.MapGet("/health", Healthy).ProducesProblem(503);
        api.MapGet("/tally", (TallyStore tally) => TypedResults.Ok(tally.Count()));
        api.MapGet("/find", (FindStore find, string? query = null) => TypedResults.Ok(find.Find(query)));
        api.MapGet("/find/recent", (FindStore find) => TypedResults.Ok(find.Recent()));
        api.MapGet("/go", (FindStore find, string name) => TypedResults.Ok(new Destination(find.AddressOf(name))));
        api.MapGet("/own-keys", (OwnKeyStore keys) => TypedResults.Ok(keys.List()));
        api.MapPut(
            "/own-keys",
            (KeysGiven given, OwnKeyStore keys, Request request) =>
                request.Ok(keys.Give(given.Keys ?? throw new BadInputException("keys", "Name what each key is to do."), request.Once))
        );
        api.MapGet("/commands", (HistoryStore history) => TypedResults.Ok(history.Latest()));
        api.MapPost(
            "/commands/{number}/undo",
            (CommandNumber number, HistoryStore history, Request request) => request.Ok(history.Undo(number, request.Once))
        );
        api.MapGet("/papers/export", TakeOut).Produces(200, contentType: Zip);
        api.MapPost("/papers/import", BringIn)
            .WithMetadata(new RequestSizeLimitAttribute(ImportLimit))
            .Accepts<Stream>(Zip)
            .Produces<BroughtIn>();
        api.MapGet("/events", Listen).ExcludeFromDescription();
    }

    private static Ok<Health> Healthy(PapersFile papers, Nearby nearby)
    {
        papers.Check();
        return TypedResults.Ok(new Health(papers.Read(_ => "well"), nearby.IsFilled));
    }

    /// <summary>All papers as one zip of Markdown files.</summary>
    private static FileStreamHttpResult TakeOut(ImageStore images, PapersFile papers, FileShelf shelf)
    {
        // Written to a file of its own first, so that a failure is an answer and not half a zip.
        var file = Bodies.Passing();
        PapersZip.Write(images.Take(), file, shelf.Open);
        file.Position = 0;
        return TypedResults.Stream(file, Zip, $"papers-{papers.Today:yyyy-MM-dd}.zip");
    }

    /// <summary>The same zip, read into papers that are empty.</summary>
    private static async Task<Ok<BroughtIn>> BringIn(HttpContext http, ImageStore images, FileShelf shelf, Request request)
    {
        if (http.Request.ContentType?.StartsWith(Zip, StringComparison.OrdinalIgnoreCase) != true)
            throw new BadInputException("Content-Type", $"The zip is sent as the body, with the content type {Zip}.");
        await using var file = new FileStream(
            Path.GetTempFileName(),
            FileMode.Open,
            FileAccess.ReadWrite,
            FileShare.None,
            81_920,
            FileOptions.DeleteOnClose
        );
        await http.Request.Body.CopyToAsync(file, http.RequestAborted);
        file.Position = 0;
        return request.Ok(images.Put(PapersZip.Read(file, content => shelf.Keep(content).Hash), request.Once));
    }

    private static ServerSentEventsResult<Changed?> Listen(Events events, IHostApplicationLifetime life, HttpContext http)
    {
        // A stopping server must not wait for tabs that only listen.
        var stop = CancellationTokenSource.CreateLinkedTokenSource(life.ApplicationStopping, http.RequestAborted);
        http.Response.RegisterForDispose(stop);
        return TypedResults.ServerSentEvents(events.Listen(stop.Token));
    }
}
