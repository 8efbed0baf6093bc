using Nachlass.Store.Plan;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Plan;

/// <summary>A cadence of a format; nothing takes it away.</summary>
/// <param name="Rule">In words (“every second Thursday”), or as a recurrence rule (RFC 5545).</param>
/// <param name="From">The day it counts from; today when it is left out.</param>
public sealed record CadenceRequest(string? Rule, DateOnly? From = null);

/// <summary>Dates.</summary>
internal static class PlanEndpoints
{
    public static void MapPlan(this RouteGroupBuilder api)
    {
        api.MapGet("/cadences", (CadenceStore cadences) => TypedResults.Ok(cadences.List()));
        api.MapPost(
            "/cadences/preview",
            (CadenceRequest cadence, CadenceStore cadences) => TypedResults.Ok(cadences.Preview(cadence.Rule, cadence.From))
        );
        api.MapPut(
            "/cadences/{format}",
            (string format, CadenceRequest cadence, CadenceStore cadences, Request request) =>
                request.Ok(cadences.Set(format, cadence.Rule, cadence.From, request.Once))
        );
    }
}
