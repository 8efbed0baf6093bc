using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Exchange.Formats;
using Nachlass.Store.Bench;
using Nachlass.Store.Plan;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Plan;

/// <summary>How many pieces are to stand at a stage at once.</summary>
/// <param name="Most">Nothing for any number.</param>
public sealed record MostRequest(string? Stage, int? Most);

/// <summary>Pieces that are pinned, in order.</summary>
public sealed record PinnedRequest(IReadOnlyList<PieceNumber>? Pieces);

/// <summary>Whether something is never to be offered for open dates.</summary>
public sealed record NeverRequest(bool Never);

/// <summary>Where a line of a guide is put.</summary>
/// <param name="Before">The line it stands before; behind all when null.</param>
public sealed record GuidePlace(GuideLineNumber? Before = null);

/// <summary>Where pieces stand, and what follows from it.</summary>
internal static class StageEndpoints
{
    public static void MapStages(this RouteGroupBuilder api)
    {
        api.MapGet("/figures", (DateOnly? from, DateOnly? to, FigureStore figures) => TypedResults.Ok(figures.Get(from, to)));
        api.MapGet(
                "/figures.csv",
                (DateOnly? from, DateOnly? to, FigureStore figures) =>
                    TypedResults.Text(FiguresFile.Write(figures.Get(from, to)), "text/csv", System.Text.Encoding.UTF8)
            )
            .Produces<string>(200, "text/csv");
        api.MapGet("/goals", (GoalStore goals) => TypedResults.Ok(goals.List()));
        api.MapPost(
            "/goals",
            (GoalChange made, GoalStore goals, Request request) => request.Created(goals.Add(made, request.Once), "/api/goals")
        );
        api.MapPatch(
            "/goals/{number}",
            (GoalNumber number, GoalChange edit, GoalStore goals, Request request) => request.Ok(goals.Edit(number, edit, request.Once))
        );
        api.MapDelete(
            "/goals/{number}",
            (GoalNumber number, GoalStore goals, Request request) => request.Ok(goals.Remove(number, request.Once))
        );
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
