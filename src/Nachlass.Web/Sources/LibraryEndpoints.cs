using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Text.Queries;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Views;
using Nachlass.Store.Sources;
using Nachlass.Store.Text;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Sources;

/// <summary>What a list of the library asks, as it stands in an address.</summary>
internal sealed record Asking(
    [FromQuery(Name = "query")] string? Query = null,
    [FromQuery(Name = "state")] Word<InState>? State = null,
    [FromQuery(Name = "kind")] Word<SlipKind>? Kind = null,
    [FromQuery(Name = "sources")] bool? Sources = null,
    [FromQuery(Name = "topic")] TopicNumber? Topic = null,
    [FromQuery(Name = "used")] bool? Used = null,
    [FromQuery(Name = "sort")] Word<ListSort>? Sort = null,
    [FromQuery(Name = "upward")] bool Upward = false
)
{
    public LibraryQuery Whole(int page = 1) =>
        new(Query, State?.Value ?? InState.Sight, Kind?.Value, Sources, Topic, Used, page, Sort?.Value, Upward);
}

/// <summary>The library: lists, tables, and the views kept of them.</summary>
internal static class LibraryEndpoints
{
    public static void MapLibrary(this RouteGroupBuilder api)
    {
        api.MapGet(
            "/library",
            ([AsParameters] Asking asked, LibraryStore library, int page = 1) => TypedResults.Ok(library.List(asked.Whole(page)))
        );
        api.MapGet("/library/all", ([AsParameters] Asking asked, LibraryStore library) => TypedResults.Ok(library.All(asked.Whole())));
        api.MapGet(
            "/library/facets",
            ([AsParameters] Asking asked, LibraryStore library) => TypedResults.Ok(library.Facets(asked.Whole()))
        );
        api.MapGet("/library/table.csv", Table).Produces<string>(200, "text/csv");
        api.MapGet("/query", (FindStore find, string? text = null, int? caret = null) => TypedResults.Ok(find.Understand(text, caret)));
        api.MapGet("/views", (ViewStore views) => TypedResults.Ok(views.List()));
        api.MapGet("/views/desk", (ViewStore views) => TypedResults.Ok(views.OnDesk()));
        api.MapPost(
            "/views",
            (ViewChange view, ViewStore views, Request request) =>
            {
                var done = views.Add(view, request.Once);
                return request.Created(done, $"/api/views/{done.Answer.Number}");
            }
        );
        api.MapPatch(
            "/views/{number}",
            (ViewNumber number, ViewChange change, ViewStore views, Request request) =>
                request.Ok(views.Edit(number, change with { Version = request.Based(change.Version) }, request.Once))
        );
        api.MapDelete(
            "/views/{number}",
            (ViewNumber number, ViewStore views, Request request) => request.Ok(views.Remove(number, request.Once))
        );
        api.MapGet(
                "/exports/views.json",
                (ViewStore views) =>
                    TypedResults.File(
                        Encoding.UTF8.GetBytes(ViewsFile.Write(views.List())),
                        "application/json; charset=utf-8",
                        "views.json"
                    )
            )
            .Produces<string>(200, "application/json");
        api.MapPost("/views/import", BringIn).Accepts<string>("application/json");
    }

    private static FileContentHttpResult Table([AsParameters] Asking asked, LibraryStore library, string? columns = null)
    {
        var chosen = string.IsNullOrEmpty(columns)
            ? SavedView.UsualColumns
            :
            [
                .. columns
                    .Split(',')
                    .Select(c =>
                        Enum.TryParse<ViewColumn>(c, true, out var column) && !char.IsAsciiDigit(c[0])
                            ? column
                            : throw new BadInputException("columns", $"There is no column “{c}”.")
                    ),
            ];
        var entries = library.All(asked.Whole());
        var text = CsvTable.Write(
            [.. chosen.Select(c => c.ToString().ToLowerInvariant())],
            entries.Select(e => (IReadOnlyList<string>)[.. chosen.Select(c => Cell(c, e))])
        );
        return TypedResults.File(Encoding.UTF8.GetBytes(text), "text/csv; charset=utf-8", "table.csv");
    }

    private static string Cell(ViewColumn column, LibraryEntry entry)
    {
        var (slip, source) = (entry.Slip, entry.Source);
        return column switch
        {
            ViewColumn.Number => (slip?.Number.Value ?? source?.Number.Value ?? entry.Other!.Thing.Number).ToString(
                CultureInfo.InvariantCulture
            ),
            ViewColumn.Text => slip?.Text ?? source?.Title ?? entry.Other!.Title,
            ViewColumn.Kind => slip is not null ? Named(slip.Kind)
            : source is not null ? "source"
            : Named(entry.Other!.Thing.Kind),
            ViewColumn.State => slip is null ? "" : Named(slip.State),
            ViewColumn.Topics => string.Join("; ", (slip?.Topics ?? source?.Topics ?? entry.Piece?.Topics ?? []).Select(t => t.Name)),
            ViewColumn.Worth => entry.Worth is { } worth ? Math.Round(worth).ToString(CultureInfo.InvariantCulture) : "",
            ViewColumn.Pull => slip?.Pull?.ToString(CultureInfo.InvariantCulture) ?? "",
            ViewColumn.Effort => slip?.Effort?.ToString(CultureInfo.InvariantCulture) ?? "",
            ViewColumn.Format => entry.Piece?.Format ?? string.Join("; ", slip?.Formats ?? []),
            ViewColumn.Stage => entry.Piece?.Stage ?? "",
            ViewColumn.Due => entry.Piece?.Due?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) ?? "",
            ViewColumn.Out => entry.Piece?.OutOn?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) ?? "",
            ViewColumn.Words => entry.Piece?.Words.ToString(CultureInfo.InvariantCulture) ?? "",
            ViewColumn.Fields => string.Join(
                "; ",
                (entry.Piece?.Fields ?? new Dictionary<string, string>()).Select(f => $"{f.Key}: {f.Value}")
            ),
            ViewColumn.Source => entry.From ?? source?.Title ?? "",
            ViewColumn.Locator => slip?.Locator ?? "",
            ViewColumn.Caught => slip?.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
                ?? source?.CaughtAt.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
                ?? "",
            ViewColumn.Origin => slip is null ? "" : Named(slip.Origin),
            _ => slip is null ? ""
            : slip.Used ? "yes"
            : "no",
        };
    }

    private static string Named<T>(T value)
        where T : struct, Enum => value.ToString().ToLowerInvariant();

    private static async Task<Ok<IReadOnlyList<SavedView>>> BringIn(HttpContext http, ViewStore views, Request request)
    {
        using var text = new StreamReader(http.Request.Body, Encoding.UTF8);
        return request.Ok(views.BringIn(ViewsFile.Read(await text.ReadToEndAsync(http.RequestAborted)), request.Once));
    }
}
