using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Sift;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Sift;

/// <summary>The queue, decisions and advice.</summary>
internal static class SiftEndpoints
{
    public static void MapSift(this RouteGroupBuilder api)
    {
        api.MapGet("/sift", (SiftStore sift) => TypedResults.Ok(sift.Sitting()));
        api.MapPost("/slips/{number}/decision", (SlipNumber number, Decision decision, SiftStore sift, Request request) =>
            request.Ok(sift.Decide(number, decision, request.Once)));
        api.MapGet("/slips/{number}/advice", (SlipNumber number, AdviceStore advice) => TypedResults.Ok(advice.For(number)));
    }
}
