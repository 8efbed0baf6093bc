using Nachlass.Core.Papers;
using Nachlass.Store.Catalogue;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Catalogue;

/// <summary>Whether a piece is closed.</summary>
public sealed record ClosedRequest(bool Closed);

/// <summary>Closing pieces that went out, and what was learned from them.</summary>
internal static class ClosingEndpoints
{
    public static void MapClosing(this RouteGroupBuilder api)
    {
        api.MapGet("/closings", (ClosingStore closings) => TypedResults.Ok(closings.List()));
        api.MapGet("/formats/{key}/learned", (string key, ClosingStore closings) => TypedResults.Ok(closings.Learned(key)));
        api.MapGet("/pieces/{number}/closing", (PieceNumber number, ClosingStore closings) => TypedResults.Ok(closings.Get(number)));
        api.MapPatch(
            "/pieces/{number}/closing",
            (PieceNumber number, ClosingChange edit, ClosingStore closings, Request request) =>
                request.Ok(closings.Write(number, edit with { Version = request.Based(edit.Version) }, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/closing/kept",
            (PieceNumber number, PassageToKeep passage, ClosingStore closings, Request request) =>
                request.Ok(closings.Keep(number, passage, request.Once))
        );
        api.MapPut(
            "/pieces/{number}/closing/closed",
            (PieceNumber number, ClosedRequest asked, ClosingStore closings, Request request) =>
                request.Ok(asked.Closed ? closings.Close(number, request.Once) : closings.Reopen(number, request.Once))
        );
    }
}
