using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Bench;

/// <summary>Drafts as they stood before.</summary>
internal static class VersionEndpoints
{
    /// <summary>Names the draft as it is now where a version is named.</summary>
    private const string Now = "now";

    public static void MapVersions(this RouteGroupBuilder api)
    {
        var versions = api.MapGroup("/pieces/{number}/versions");
        versions.MapGet("", (PieceNumber number, VersionStore store) => TypedResults.Ok(store.List(number)));
        versions.MapPost(
            "",
            (PieceNumber number, VersionName name, VersionStore store, Request request) =>
                request.Ok(store.Keep(number, name, request.Once))
        );
        versions.MapGet("/{a}", (PieceNumber number, VersionNumber a, VersionStore store) => TypedResults.Ok(store.Get(number, a)));
        versions.MapPatch(
            "/{a}",
            (PieceNumber number, VersionNumber a, VersionName name, VersionStore store, Request request) =>
                request.Ok(store.Rename(number, a, name, request.Once))
        );
        versions.MapDelete(
            "/{a}",
            (PieceNumber number, VersionNumber a, VersionStore store, Request request) => request.Ok(store.Remove(number, a, request.Once))
        );
        versions.MapGet(
            "/{a}/against/{b}",
            (PieceNumber number, VersionNumber a, string b, VersionStore store) =>
                TypedResults.Ok(store.Against(number, a, b == Now ? null : Other(b)))
        );
        versions.MapPost(
            "/{a}/take",
            (PieceNumber number, VersionNumber a, VersionTaken taken, VersionStore store, Request request) =>
                request.Ok(store.Take(number, a, taken with { Version = request.Based(taken.Version) }, request.Once))
        );
    }

    private static VersionNumber Other(string text) =>
        VersionNumber.TryParse(text, out var number)
            ? number
            : throw new BadInputException("b", $"A version is compared with the number of another, or with “{Now}”.");
}
