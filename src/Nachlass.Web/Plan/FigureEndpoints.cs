using Nachlass.Core.Plan;
using Nachlass.Exchange.Formats;
using Nachlass.Store.Plan;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Plan;

/// <summary>How it goes, and the goals it goes towards.</summary>
internal static class FigureEndpoints
{
    public static void MapFigures(this RouteGroupBuilder api)
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
    }
}
