using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Bench;

/// <summary>Where a piece stands in a series; nothing when it is in none.</summary>
public sealed record PieceInSeries(InSeries? In);

/// <summary>Pieces in an order.</summary>
internal static class SeriesEndpoints
{
    public static void MapSeries(this RouteGroupBuilder api)
    {
        api.MapGet("/series", (SeriesStore series) => TypedResults.Ok(series.List()));
        api.MapPost("/series", Add);
        api.MapGet("/series/{number}", (SeriesNumber number, SeriesStore series) => TypedResults.Ok(series.Get(number)));
        api.MapPatch(
            "/series/{number}",
            (SeriesNumber number, SeriesChange edit, SeriesStore series, Request request) =>
                request.Ok(series.Edit(number, edit with { Version = request.Based(edit.Version) }, request.Once))
        );
        api.MapDelete(
            "/series/{number}",
            (SeriesNumber number, SeriesStore series, Request request) => request.Ok(series.Remove(number, request.Once))
        );
        api.MapGet(
            "/pieces/{number}/series",
            (PieceNumber number, SeriesStore series) => TypedResults.Ok(new PieceInSeries(series.Of(number)))
        );
    }

    private static Created<SeriesShown> Add(SeriesChange made, SeriesStore series, Request request)
    {
        var done = series.Add(made, request.Once);
        return request.Created(done, $"/api/series/{done.Answer.Series.Number}");
    }
}
