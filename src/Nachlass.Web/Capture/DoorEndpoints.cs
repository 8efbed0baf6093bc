using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Capture;

public sealed record FeedRequest(string? Address, int Minutes = 60);

public sealed record FeedChange(int Minutes);

/// <summary>Countries whose public holidays are seen.</summary>
/// <param name="Countries">By their codes (ISO 3166-1 alpha-2), <c>UN</c> for international days.</param>
public sealed record CountriesRequest(IReadOnlyList<string>? Countries);

/// <summary>Names of topics; those that are not there are made.</summary>
public sealed record TopicsRequest(IReadOnlyList<string>? Topics);

/// <summary>What came when a feed was asked.</summary>
public sealed record FeedAsked(int Slips);

public sealed record DropFolderRequest(string? Folder);

/// <summary>Doors by which things come in by themselves: watched feeds, the drop folder; and the occasions of calendars.</summary>
internal static class DoorEndpoints
{
    public static void MapDoors(this RouteGroupBuilder api)
    {
        api.MapGet("/feeds", (FeedStore feeds) => TypedResults.Ok(feeds.List()));
        api.MapPost(
            "/feeds",
            (FeedRequest feed, FeedStore feeds, Request request) =>
                request.Created(feeds.Watch(feed.Address, feed.Minutes, request.Once), "/api/feeds")
        );
        api.MapPatch(
            "/feeds/{number}",
            (FeedNumber number, FeedChange change, FeedStore feeds, Request request) =>
                request.Ok(feeds.Edit(number, change.Minutes, request.Once))
        );
        api.MapDelete(
            "/feeds/{number}",
            (FeedNumber number, FeedStore feeds, Request request) => request.Ok(feeds.Stop(number, request.Once))
        );
        api.MapPost(
            "/feeds/{number}/asking",
            async (FeedNumber number, FeedStore feeds, FeedWatch watch, CancellationToken cancel) =>
                TypedResults.Ok(
                    new FeedAsked(
                        await watch.Ask(
                            feeds.List().FirstOrDefault(f => f.Number == number) ?? throw new NotThereException($"feed {number}"),
                            cancel
                        )
                    )
                )
        );
        api.MapGet("/drop-folder", (DropFolder folder) => TypedResults.Ok(folder.State));
        api.MapPut("/drop-folder", (DropFolderRequest chosen, DropFolder folder) => TypedResults.Ok(folder.Choose(chosen.Folder)));
        api.MapGet("/occasions", (DateOnly? from, DateOnly? to, AheadStore ahead) => TypedResults.Ok(ahead.Between(from, to)));
        api.MapGet(
            "/occasions/own",
            (OccasionStore occasions, PapersFile papers, int days = 60) =>
                TypedResults.Ok(occasions.Coming(papers.Today, Math.Clamp(days, 1, 730)))
        );
        api.MapPost(
            "/occasions",
            (OccasionChange made, OccasionStore occasions, Request request) =>
                request.Created(occasions.Add(made, request.Once), "/api/occasions")
        );
        api.MapPatch(
            "/occasions/{number}",
            (OccasionNumber number, OccasionChange edit, OccasionStore occasions, Request request) =>
                request.Ok(occasions.Edit(number, edit, request.Once))
        );
        api.MapGet("/holidays/countries", (HolidayStore holidays) => TypedResults.Ok(holidays.Countries()));
        api.MapPut(
            "/holidays/countries",
            (CountriesRequest chosen, HolidayStore holidays, Request request) =>
                request.Ok(holidays.Choose(chosen.Countries ?? [], request.Once))
        );
        api.MapPut(
            "/occasions/{number}/topics",
            (OccasionNumber number, TopicsRequest topics, OccasionStore occasions, Request request) =>
                request.Ok(occasions.SetTopics(number, topics.Topics ?? [], request.Once))
        );
        api.MapDelete(
            "/occasions/{number}",
            (OccasionNumber number, OccasionStore occasions, Request request) => request.Ok(occasions.Remove(number, request.Once))
        );
    }
}
