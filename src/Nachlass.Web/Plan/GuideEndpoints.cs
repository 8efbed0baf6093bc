using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Plan;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Plan;

/// <summary>Where a line of a guide is put.</summary>
/// <param name="Before">The line it stands before; behind all when null.</param>
public sealed record GuidePlace(GuideLineNumber? Before = null);

/// <summary>The guide for the day, the week and the month.</summary>
internal static class GuideEndpoints
{
    public static void MapGuide(this RouteGroupBuilder api)
    {
        api.MapGet("/guide", (GuideStore guide) => TypedResults.Ok(guide.List()));
        api.MapPost(
            "/guide",
            (GuideChange made, GuideStore guide, Request request) => request.Created(guide.Add(made, request.Once), "/api/guide")
        );
        api.MapPatch(
            "/guide/{number}",
            (GuideLineNumber number, GuideChange edit, GuideStore guide, Request request) =>
                request.Ok(guide.Edit(number, edit with { Version = request.Based(edit.Version) }, request.Once))
        );
        api.MapPut(
            "/guide/{number}/place",
            (GuideLineNumber number, GuidePlace place, GuideStore guide, Request request) =>
                request.Ok(guide.Place(number, place.Before, request.Once))
        );
        api.MapDelete(
            "/guide/{number}",
            (GuideLineNumber number, GuideStore guide, Request request) => request.Ok(guide.Remove(number, request.Once))
        );
    }
}
