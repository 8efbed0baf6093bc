using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Capture;

/// <summary>A day's free writing, or what is written into one of its blocks.</summary>
/// <param name="Left">Whether the writer has left it; then its paragraphs with a topic become slips.</param>
/// <param name="Idea">A sentence or paragraph of it that becomes a slip now.</param>
public sealed record SheetText(string? Text, int? Version, bool? Left = null, string? Idea = null);

/// <summary>The plan of the day sheets, changed.</summary>
public sealed record PlanChange(IReadOnlyList<PlanBlock>? Blocks, IReadOnlyList<DayOfWeek>? DaysOff, int? Version)
{
    public DayPlan Plan => new(Blocks ?? throw new BadInputException("blocks", "The blocks are missing."), DaysOff ?? []);
}

/// <summary>A plan to be seen on a day, without keeping it.</summary>
public sealed record PlanPreview(IReadOnlyList<PlanBlock>? Blocks, DateOnly Day);

public sealed record MoveRequest(string? Text, DateOnly? Due = null, PieceNumber? Piece = null, DateOnly? Day = null);

/// <summary>The day that was written; null when it is none.</summary>
public sealed record DateRead(DateOnly? Day);

/// <summary>Where a move is put.</summary>
/// <param name="Before">The move it stands before; behind all when null.</param>
public sealed record MovePlace(MoveNumber? Before = null);

/// <summary>Day sheets, their plan, the purpose line and moves.</summary>
internal static class DeskEndpoints
{
    public static void MapDesk(this RouteGroupBuilder api)
    {
        api.MapGet("/desk", (DateOnly? day, DeskStore desk, PapersFile papers) => TypedResults.Ok(desk.Day(day ?? papers.Today)));
        api.MapGet(
            "/desk/month",
            (DateOnly? month, DayPlanStore plans, PapersFile papers) => TypedResults.Ok(plans.Month(month ?? papers.Today))
        );
        api.MapGet("/desk/fill-ins", (DayPlanStore plans) => TypedResults.Ok(plans.FillIns()));
        api.MapGet("/desk/plan", (DayPlanStore plans) => TypedResults.Ok(plans.Plan()));
        api.MapPut(
            "/desk/plan",
            (PlanChange plan, DayPlanStore plans, Request request) =>
                request.Ok(plans.Write(plan.Plan, request.Based(plan.Version), request.Once))
        );
        api.MapPost(
            "/desk/plan/preview",
            (PlanPreview preview, DayPlanStore plans) =>
                TypedResults.Ok(plans.Preview(new PlanChange(preview.Blocks, [], null).Plan, preview.Day))
        );
        api.MapPut(
            "/desk/{day}/sheet",
            (DateOnly day, SheetText sheet, DeskStore desk, Request request) =>
                request.Ok(desk.Write(day, sheet.Text, request.Based(sheet.Version), request.Once, sheet.Left == true, sheet.Idea))
        );
        api.MapPut(
            "/desk/{day}/blocks/{block}",
            (DateOnly day, int block, SheetText text, DeskStore desk, Request request) =>
                request.Ok(desk.WriteBlock(day, block, text.Text, request.Based(text.Version), request.Once))
        );
        api.MapPost("/desk/{day}/blocks/{block}/lines", CatchLine);
        api.MapGet("/purpose", (DeskStore desk) => TypedResults.Ok(desk.Purpose()));
        api.MapPut(
            "/purpose",
            (SheetText purpose, DeskStore desk, Request request) =>
                request.Ok(desk.Write(purpose.Text, request.Based(purpose.Version), request.Once))
        );
        api.MapGet(
            "/dates",
            (string text, PapersFile papers) =>
                TypedResults.Ok(new DateRead(DateInText.Written(Check.Length("text", text, 200), papers.Today)))
        );
        api.MapGet("/moves", (DeskStore desk) => TypedResults.Ok(desk.OpenMoves()));
        api.MapPost(
            "/moves",
            (MoveRequest move, DeskStore desk, Request request) =>
                request.Created(desk.AddMove(move.Text, move.Due, move.Piece, move.Day, request.Once), "/api/moves")
        );
        api.MapPatch(
            "/moves/{number}",
            (MoveNumber number, MoveChange change, DeskStore desk, Request request) =>
                request.Ok(desk.EditMove(number, change with { Version = request.Based(change.Version) }, request.Once))
        );
        api.MapPut(
            "/moves/{number}/place",
            (MoveNumber number, MovePlace place, DeskStore desk, Request request) =>
                request.Ok(desk.PlaceMove(number, place.Before, request.Once))
        );
        api.MapDelete(
            "/moves/{number}",
            (MoveNumber number, DeskStore desk, Request request) => request.Ok(desk.RemoveMove(number, request.Once))
        );
    }

    private static Created<Slip> CatchLine(DateOnly day, int block, SheetLine line, DeskStore desk, Request request)
    {
        var done = desk.CatchLine(day, block, line, request.Once);
        return request.Created(done, $"/api/slips/{done.Answer.Number}");
    }
}
