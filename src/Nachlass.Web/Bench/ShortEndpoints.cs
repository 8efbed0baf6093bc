using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Bench.Short;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Bench;

/// <summary>Short forms: standing texts, patterns, the posts of a day, and the parts of threads.</summary>
internal static class ShortEndpoints
{
    public static void MapShort(this RouteGroupBuilder api)
    {
        MapStandingTexts(api);
        MapPatterns(api);
        MapPosts(api);
        api.MapGet("/pieces/{number}/thread", (PieceNumber number, ThreadStore threads) => TypedResults.Ok(threads.Get(number)));
        api.MapPost(
            "/pieces/{number}/thread",
            (PieceNumber number, ThreadChange change, ThreadStore threads, Request request) =>
                request.Ok(threads.Edit(number, change with { Version = request.Based(change.Version) }, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/thread/ticks",
            (PieceNumber number, ThreadTick tick, ThreadStore threads, Request request) =>
                request.Ok(threads.Tick(number, tick, request.Once))
        );
    }

    private static void MapStandingTexts(RouteGroupBuilder api)
    {
        api.MapGet("/standing-texts", (StandingTextStore texts) => TypedResults.Ok(texts.List()));
        api.MapGet("/standing-texts/{number}", (StandingTextNumber number, StandingTextStore texts) => TypedResults.Ok(texts.Get(number)));
        api.MapPost(
            "/standing-texts",
            (StandingTextChange made, StandingTextStore texts, Request request) =>
            {
                var done = texts.Add(made, request.Once);
                return request.Created(done, $"/api/standing-texts/{done.Answer.Number}");
            }
        );
        api.MapPatch(
            "/standing-texts/{number}",
            (StandingTextNumber number, StandingTextChange change, StandingTextStore texts, Request request) =>
                request.Ok(texts.Edit(number, change with { Version = request.Based(change.Version) }, request.Once))
        );
        api.MapDelete(
            "/standing-texts/{number}",
            (StandingTextNumber number, StandingTextStore texts, Request request) => request.Ok(texts.Remove(number, request.Once))
        );
    }

    private static void MapPatterns(RouteGroupBuilder api)
    {
        api.MapGet("/patterns", (PatternStore patterns) => TypedResults.Ok(patterns.List()));
        api.MapGet(
            "/patterns/{number}/laid",
            (PatternNumber number, PatternStore patterns, PieceNumber? piece = null) => TypedResults.Ok(patterns.Lay(number, piece))
        );
        api.MapPost(
            "/patterns",
            (PatternChange made, PatternStore patterns, Request request) =>
                request.Created(patterns.Add(made, request.Once), "/api/patterns")
        );
        api.MapPatch(
            "/patterns/{number}",
            (PatternNumber number, PatternChange change, PatternStore patterns, Request request) =>
                request.Ok(patterns.Edit(number, change with { Version = request.Based(change.Version) }, request.Once))
        );
        api.MapDelete(
            "/patterns/{number}",
            (PatternNumber number, PatternStore patterns, Request request) => request.Ok(patterns.Remove(number, request.Once))
        );
    }

    private static void MapPosts(RouteGroupBuilder api)
    {
        api.MapGet("/posts", (PostStore posts, DateOnly? day = null) => TypedResults.Ok(day is { } of ? posts.Of(of) : posts.Ready()));
        api.MapPost(
            "/posts",
            (PostChange made, PostStore posts, Request request) => request.Created(posts.Add(made, request.Once), "/api/posts")
        );
        api.MapPatch(
            "/posts/{number}",
            (PostNumber number, PostChange change, PostStore posts, Request request) =>
                request.Ok(posts.Edit(number, change with { Version = request.Based(change.Version) }, request.Once))
        );
        api.MapDelete(
            "/posts/{number}",
            (PostNumber number, PostStore posts, Request request) => request.Ok(posts.Remove(number, request.Once))
        );
    }
}
