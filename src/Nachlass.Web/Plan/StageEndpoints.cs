using Nachlass.Core.Plan;
using Nachlass.Store.Bench;
using Nachlass.Store.Plan;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Plan;

/// <summary>How many pieces are to stand at a stage at once.</summary>
/// <param name="Most">Nothing for any number.</param>
public sealed record MostRequest(string? Stage, int? Most);

/// <summary>Where a line of a guide is put.</summary>
/// <param name="Before">The line it stands before; behind all when null.</param>
public sealed record GuidePlace(GuideLineNumber? Before = null);

/// <summary>Where pieces stand, and what follows from it.</summary>
internal static class StageEndpoints
{
    public static void MapStages(this RouteGroupBuilder api)
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
