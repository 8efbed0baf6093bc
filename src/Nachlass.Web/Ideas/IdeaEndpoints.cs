using System.Text.Json;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;
using Nachlass.Exchange;
using Nachlass.Store.Ideas;
using Nachlass.Store.Ideas.Month;
using Nachlass.Store.Ideas.Order;
using Nachlass.Store.Papers;
using Nachlass.Web.Hosting;
using Nachlass.Web.Ideas.Service;

namespace Nachlass.Web.Ideas;

/// <summary>The last line of a stream of ideas: they are kept, to be sorted.</summary>
/// <param name="Kept">How many there were.</param>
/// <param name="Command">The number under which asking can be taken back.</param>
/// <param name="Seed">The seed they were made with.</param>
/// <param name="Joined">How many more said nearly the same as one of them, or as one proposed before by a service.</param>
/// <param name="Problem">Why there are not more, where a service failed; else null.</param>
internal sealed record IdeasKept(int Kept, CommandNumber? Command, int Seed, int Joined, string? Problem = null);

/// <summary>What was drawn; none from an empty deck.</summary>
internal sealed record CardAsked(CardDrawn? Card);

/// <summary>Cards as a list, each line one; a heading begins a deck.</summary>
/// <param name="Deck">The deck of lines before any heading.</param>
internal sealed record DeckListSent(string? Text, string? Deck = null)
{
    public const int Longest = 500_000;
}

/// <summary>Dates of a month that are taken into the plan.</summary>
internal sealed record MonthRequest(IReadOnlyList<MonthTaken>? Places);

/// <summary>More ideas than one could use, and sorting them.</summary>
internal static class IdeaEndpoints
{
    public static void MapIdeas(this RouteGroupBuilder api)
    {
        api.MapPost("/topics/order", (TopicOrderAsked asked, TopicOrderStore order) => TypedResults.Ok(order.Order(asked)));
        api.MapGet("/topics/order/weights", (TopicWeighingStore weighing) => TypedResults.Ok(weighing.Get()));
        api.MapPut(
            "/topics/order/weights",
            (TopicWeighingChange change, TopicWeighingStore weighing, Request request) => request.Ok(weighing.Put(change, request.Once))
        );
        api.MapPost("/plan/proposal", (MonthAsked asked, MonthStore month) => TypedResults.Ok(month.Propose(asked)));
        api.MapPost("/plan/proposal/ideas", (MonthIdeasAsked asked, MonthStore month) => TypedResults.Ok(month.Others(asked)));
        api.MapPost(
            "/plan/proposal/taken",
            (MonthRequest taken, MonthStore month, Request request) => request.Ok(month.Take(taken.Places ?? [], request.Once))
        );
        api.MapGet("/decks", (DeckStore decks) => TypedResults.Ok(decks.Get()));
        api.MapPut("/decks", (DecksChange change, DeckStore decks, Request request) => request.Ok(decks.Put(change, request.Once)));
        api.MapGet(
            "/decks/draw",
            (DeckStore decks, string? deck = null, int turn = 0) => TypedResults.Ok(new CardAsked(decks.Draw(deck, turn)))
        );
        api.MapPost("/decks/used", (CardTicked ticked, DeckStore decks, Request request) => request.Ok(decks.Tick(ticked, request.Once)));
        api.MapPost(
            "/decks/list",
            (DeckListSent list, DeckStore decks, Request request) =>
                request.Ok(
                    decks.BringIn(
                        new DecksBroughtIn(
                            DeckList.Read(
                                Check.Text("list", list.Text, DeckListSent.Longest),
                                list.Deck?.Trim() is { Length: > 0 } d ? d : "My cards"
                            )
                        ),
                        request.Once
                    )
                )
        );
        api.MapGet(
                "/exports/decks.md",
                (DeckStore decks) => TypedResults.Text(DeckList.Write(decks.Get().Decks), "text/markdown", System.Text.Encoding.UTF8)
            )
            .Produces<string>(200, "text/markdown");
        api.MapGet("/angles", (AngleStore angles) => TypedResults.Ok(angles.Get()));
        api.MapPut("/angles", (AnglesChange change, AngleStore angles, Request request) => request.Ok(angles.Put(change, request.Once)));
        api.MapGet(
            "/occasions/ideas",
            (DateOnly? from, DateOnly? to, OccasionIdeaStore occasions) => TypedResults.Ok(occasions.Between(from, to))
        );
        api.MapGet("/ideas", (IdeaStore ideas) => TypedResults.Ok(ideas.ToSort()));
        api.MapPost("/ideas", Stream).Produces<IdeaComing>(StatusCodes.Status200OK, "application/x-ndjson");
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
    private static async Task Stream(IdeasWanted wanted, IdeaStore ideas, AskingService service, Request request, HttpContext http)
    {
        var stop = http.RequestAborted;
        var seed = ideas.Wish(wanted).Seed;
        var made = new List<IdeaComing>();
        var joined = 0;
        string? problem = null;
        wanted = wanted with { Seed = seed };
        var coming =
            wanted.By == IdeaGiver.Service
                ? service.Ask(wanted, () => joined++, said => problem = said, stop)
                : ideas.Make(wanted, stop, () => joined++).ToAsyncEnumerable();
        try
        {
            // The first is made before anything is answered, so that what can't be asked is said as an error.
            await foreach (var idea in coming)
            {
                made.Add(idea);
                await Line(http, idea, stop);
            }
        }
        catch (Exception error) when (stop.IsCancellationRequested && error is OperationCanceledException or IOException)
        {
            if (made.Count > 0)
                ideas.Keep(made, seed, request.Once);
            return;
        }
        var command = made.Count == 0 ? (CommandNumber?)null : ideas.Keep(made, seed, request.Once).Command;
        await Line(http, new IdeasKept(made.Count, command, seed, joined, problem), stop);
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
