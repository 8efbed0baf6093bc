using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Capture;

public sealed record FeedRequest(string? Address, int Minutes = 60);

public sealed record FeedChange(int Minutes);

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
        api.MapGet(
            "/occasions",
            (OccasionStore occasions, PapersFile papers, int days = 60) =>
                TypedResults.Ok(occasions.Coming(papers.Today, Math.Clamp(days, 1, 730)))
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
