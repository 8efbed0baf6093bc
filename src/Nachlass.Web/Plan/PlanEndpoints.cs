using Nachlass.Store.Plan;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Plan;

/// <summary>A cadence of a format; an empty rule takes it away.</summary>
public sealed record CadenceRequest(string? Rule, DateOnly? From = null);

/// <summary>Dates.</summary>
internal static class PlanEndpoints
{
    public static void MapPlan(this RouteGroupBuilder api)
    {
        api.MapGet("/cadences", (CadenceStore cadences) => TypedResults.Ok(cadences.List()));
        api.MapPut(
            "/cadences/{format}",
            (string format, CadenceRequest cadence, CadenceStore cadences, Request request) =>
                request.Ok(cadences.Set(format, cadence.Rule, cadence.From, request.Once))
        );
    }
}
