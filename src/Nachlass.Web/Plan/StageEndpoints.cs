using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Plan;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Plan;

/// <summary>How many pieces are to stand at a stage at once.</summary>
/// <param name="Most">Nothing for any number.</param>
public sealed record MostRequest(string? Stage, int? Most);

/// <summary>Where pieces stand, and what follows from it.</summary>
internal static class StageEndpoints
{
    public static void MapStages(this RouteGroupBuilder api)
    {
        api.MapGet("/stages", (StageStore stages) => TypedResults.Ok(stages.Get()));
        api.MapPut(
            "/formats/{key}/most",
            (string key, MostRequest most, FormatStore formats, Request request) =>
                request.Ok(formats.SetMost(key, most.Stage ?? "", most.Most, request.Once))
        );
        api.MapGet("/stage-rules", (StageRuleStore rules) => TypedResults.Ok(rules.List()));
        api.MapPost(
            "/stage-rules",
            (StageRuleChange rule, StageRuleStore rules, Request request) =>
            {
                var done = rules.Add(rule, request.Once);
                return request.Created(done, $"/api/stage-rules/{done.Answer.Number}");
            }
        );
        api.MapPost("/stage-rules/try", (StageRuleChange rule, StageRuleStore rules) => TypedResults.Ok(rules.Try(rule)));
        api.MapPatch(
            "/stage-rules/{number}",
            (StageRuleNumber number, StageRuleChange change, StageRuleStore rules, Request request) =>
                request.Ok(rules.Edit(number, change with { Version = request.Based(change.Version) }, request.Once))
        );
        api.MapDelete(
            "/stage-rules/{number}",
            (StageRuleNumber number, StageRuleStore rules, Request request) => request.Ok(rules.Remove(number, request.Once))
        );
    }
}
