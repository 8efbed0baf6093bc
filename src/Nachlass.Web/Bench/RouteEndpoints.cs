using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Bench;

/// <summary>The outline as a route, what the material proposes for it, marks, and what is done to several sections.</summary>
internal static class RouteEndpoints
{
    public static void MapRoutes(this RouteGroupBuilder api)
    {
        api.MapGet("/pieces/{number}/route", (PieceNumber number, RouteStore routes) => TypedResults.Ok(routes.Of(number)));
        api.MapPut(
            "/pieces/{number}/route/aside",
            (PieceNumber number, SetAsideRequest asked, RouteStore routes, Request request) =>
                request.Ok(routes.SetAside(number, asked, request.Once))
        );
        api.MapGet("/pieces/{number}/proposal", (PieceNumber number, RouteStore routes) => TypedResults.Ok(routes.Proposal(number)));
        api.MapPost(
            "/pieces/{number}/proposal/take",
            (PieceNumber number, ProposalTaken taken, RouteStore routes, Request request) =>
                request.Ok(routes.Take(number, taken with { Version = request.Based(taken.Version) }, request.Once))
        );
        api.MapGet("/pieces/{number}/marks", (PieceNumber number, RouteStore routes) => TypedResults.Ok(routes.Marks(number)));
        api.MapPost(
            "/pieces/{number}/marks",
            (PieceNumber number, NewMark mark, RouteStore routes, Request request) =>
                request.Ok(routes.Mark(number, mark with { Version = request.Based(mark.Version) }, request.Once))
        );
        api.MapDelete(
            "/pieces/{number}/marks/{mark}",
            (PieceNumber number, MarkNumber mark, RouteStore routes, Request request) =>
                request.Ok(routes.Unmark(number, mark, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/outline/several",
            (PieceNumber number, SeveralSections several, DraftStore drafts, Request request) =>
                request.Ok(drafts.Several(number, several with { Version = request.Based(several.Version) }, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/outline/split",
            (PieceNumber number, SectionSplit split, DraftStore drafts, Request request) =>
                request.Ok(drafts.Split(number, split with { Version = request.Based(split.Version) }, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/outline/{section}/join",
            (PieceNumber number, SectionNumber section, BasedOn based, DraftStore drafts, Request request) =>
                request.Ok(drafts.Join(number, section, request.Based(based.Version), request.Once))
        );
    }
}
