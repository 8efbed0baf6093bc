using Nachlass.Core.Papers;
using Nachlass.Store.Plan;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Plan;

/// <summary>Pieces that are pinned, in order.</summary>
public sealed record PinnedRequest(IReadOnlyList<PieceNumber>? Pieces);

/// <summary>Whether something is never to be offered for open dates.</summary>
public sealed record NeverRequest(bool Never);

/// <summary>Choosing what goes out in a period, and what is pinned.</summary>
internal static class PeriodEndpoints
{
    public static void MapPeriod(this RouteGroupBuilder api)
    {
        api.MapGet("/pinned", (PinnedStore pinned) => TypedResults.Ok(pinned.List()));
        api.MapPut(
            "/pinned",
            (PinnedRequest pinned, PinnedStore store, Request request) => request.Ok(store.Set(pinned.Pieces ?? [], request.Once))
        );
        api.MapGet("/plan/sitting", (DateOnly? from, DateOnly? to, ChoosingStore choosing) => TypedResults.Ok(choosing.Get(from, to)));
        api.MapGet(
            "/plan/sitting/{kind}/{number}/near",
            (Word<CandidateKind> kind, int number, ChoosingStore choosing) => TypedResults.Ok(choosing.Near(kind.Value, number))
        );
        api.MapPut(
            "/plan/never/{kind}/{number}",
            (Word<ThingKind> kind, int number, NeverRequest never, ChoosingStore choosing, Request request) =>
                request.Ok(choosing.Never(new Reference(kind.Value, number), never.Never, request.Once))
        );
    }
}
