using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Store.Plan;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Plan;

/// <summary>One date of a cadence.</summary>
/// <param name="Date">The date it gives.</param>
/// <param name="To">The day it is instead; nothing lets it fall out.</param>
public sealed record ExceptionRequest(DateOnly Date, DateOnly? To = null);

/// <summary>Hours of the week.</summary>
/// <param name="ByWeekday">Seven, from Monday, 0 to 24 each; nothing for the usual ones.</param>
public sealed record HoursRequest(IReadOnlyList<double>? ByWeekday);

/// <summary>Days without work.</summary>
/// <param name="To">The last of them; the first when it is left out.</param>
public sealed record AwayRequest(DateOnly From, DateOnly? To, string? Name);

/// <summary>A day for a piece or a stage of it.</summary>
/// <param name="On">The day; nothing for none.</param>
/// <param name="Outlet">Where it is to go out; left out, that stays as it is.</param>
public sealed record PlaceOnDayRequest(DateOnly? On, OutletNumber? Outlet = null);

/// <summary>Places of a proposal that are taken.</summary>
public sealed record FillingRequest(IReadOnlyList<FillingTaken>? Places);

/// <summary>Outlets, cadences, hours and dates.</summary>
internal static class PlanEndpoints
{
    public static void MapPlan(this RouteGroupBuilder api)
    {
        api.MapGet("/outlets", (OutletStore outlets) => TypedResults.Ok(outlets.List()));
        api.MapPost(
            "/outlets",
            (OutletChange made, OutletStore outlets, Request request) =>
            {
                var done = outlets.Add(made, request.Once);
                return request.Created(done, $"/api/outlets/{done.Answer.Number}");
            }
        );
        api.MapGet("/outlets/{number}", (OutletNumber number, OutletStore outlets) => TypedResults.Ok(outlets.Get(number)));
        api.MapPatch(
            "/outlets/{number}",
            (OutletNumber number, OutletChange edit, OutletStore outlets, Request request) =>
                request.Ok(outlets.Edit(number, edit, request.Once))
        );
        api.MapDelete(
            "/outlets/{number}",
            (OutletNumber number, OutletStore outlets, Request request) => request.Ok(outlets.Remove(number, request.Once))
        );
        api.MapPut(
            "/outlets/{number}/cadences/{format}",
            (OutletNumber number, string format, CadenceWritten cadence, CadenceStore cadences, Request request) =>
                request.Ok(cadences.Set(number, format, cadence, request.Once))
        );
        api.MapPost(
            "/outlets/{number}/cadences/{format}/other-dates",
            (OutletNumber number, string format, ExceptionRequest other, CadenceStore cadences, Request request) =>
                request.Ok(cadences.Except(number, format, other.Date, other.To, request.Once))
        );
        api.MapGet("/cadences", (CadenceStore cadences) => TypedResults.Ok(cadences.List()));
        api.MapPost("/cadences/preview", (CadenceWritten cadence, CadenceStore cadences) => TypedResults.Ok(cadences.Preview(cadence)));

        api.MapGet("/plan", (DateOnly? from, DateOnly? to, PlanStore plan) => TypedResults.Ok(plan.Get(from, to)));
        api.MapGet("/plan/trying", (PieceNumber piece, DateOnly on, PlanStore plan) => TypedResults.Ok(plan.Try(piece, on)));
        api.MapPut(
            "/plan/pieces/{number}",
            (PieceNumber number, PlaceOnDayRequest day, PlanStore plan, Request request) =>
                request.Ok(plan.Place(number, day.On, day.Outlet, request.Once))
        );
        api.MapPut(
            "/plan/pieces/{number}/stages/{stage}",
            (PieceNumber number, string stage, PlaceOnDayRequest day, PlanStore plan, Request request) =>
                request.Ok(plan.PlaceStage(number, stage, day.On, request.Once))
        );
        api.MapGet(
            "/plan/mix",
            (DateOnly? from, DateOnly? to, Word<MixBy>? by, Word<MixIn>? counted, TopicNumber? axis, MixStore mix) =>
                TypedResults.Ok(mix.Get(from, to, by?.Value ?? MixBy.Topic, counted?.Value ?? MixIn.Pieces, axis))
        );
        api.MapPost("/plan/filling", (FillingAsked asked, FillingStore filling) => TypedResults.Ok(filling.Propose(asked)));
        api.MapPost(
            "/plan/filling/taken",
            (FillingRequest taken, FillingStore filling, Request request) => request.Ok(filling.Take(taken.Places ?? [], request.Once))
        );
        api.MapGet("/plan/hours", (HoursStore hours) => TypedResults.Ok(hours.Get()));
        api.MapPut(
            "/plan/hours",
            (HoursRequest hours, HoursStore store, Request request) => request.Ok(store.Set(hours.ByWeekday, request.Once))
        );
        api.MapPost(
            "/plan/away",
            (AwayRequest away, HoursStore store, Request request) => request.Ok(store.AddAway(away.From, away.To, away.Name, request.Once))
        );
        api.MapPut(
            "/plan/away/{number}",
            (AwayNumber number, AwayRequest away, HoursStore store, Request request) =>
                request.Ok(store.EditAway(number, away.From, away.To, away.Name, request.Once))
        );
        api.MapDelete(
            "/plan/away/{number}",
            (AwayNumber number, HoursStore store, Request request) => request.Ok(store.RemoveAway(number, request.Once))
        );
    }
}
