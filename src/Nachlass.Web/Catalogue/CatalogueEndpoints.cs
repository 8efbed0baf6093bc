using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Exchange.Catalogue;
using Nachlass.Store.Catalogue;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Catalogue;

/// <summary>Whether a piece is never to go to an outlet.</summary>
public sealed record NeverThereRequest(bool Never);

/// <summary>What went out.</summary>
internal static class CatalogueEndpoints
{
    public static void MapCatalogue(this RouteGroupBuilder api)
    {
        api.MapGet("/catalogue", (CatalogueStore catalogue) => TypedResults.Ok(catalogue.Get()));
        api.MapGet("/catalogue/mentions", (string? query, CatalogueStore catalogue) => TypedResults.Ok(catalogue.Mentions(query)));
        api.MapGet("/catalogue/years/{year:int}", (int year, CatalogueStore catalogue) => TypedResults.Ok(catalogue.Year(year)));
        api.MapGet(
                "/catalogue/years/{year:int}.md",
                (int year, CatalogueStore catalogue) =>
                    TypedResults.File(
                        System.Text.Encoding.UTF8.GetBytes(CatalogueFile.Year(catalogue.Year(year))),
                        "text/markdown; charset=utf-8",
                        $"{year} in review.md"
                    )
            )
            .Produces<string>(200, "text/markdown");
        api.MapGet("/releases", (ReleaseStore releases) => TypedResults.Ok(releases.List()));
        api.MapGet(
                "/releases.csv",
                (CatalogueStore catalogue) =>
                    TypedResults.File(
                        System.Text.Encoding.UTF8.GetBytes(CatalogueFile.Csv(Lines(catalogue.Get()))),
                        "text/csv; charset=utf-8",
                        "catalogue.csv"
                    )
            )
            .Produces<string>(200, "text/csv");
        api.MapGet("/releases/{number}", (ReleaseNumber number, ReleaseStore releases) => TypedResults.Ok(releases.Get(number)));
        api.MapGet(
            "/releases/{number}/offered",
            (ReleaseNumber number, ReleaseStore releases) => TypedResults.Ok(releases.Offered(number))
        );
        api.MapPatch(
            "/releases/{number}",
            (ReleaseNumber number, ReleaseChange edit, ReleaseStore releases, Request request) =>
                request.Ok(releases.Edit(number, edit with { Version = request.Based(edit.Version) }, request.Once))
        );
        api.MapDelete(
            "/releases/{number}",
            (ReleaseNumber number, ReleaseStore releases, Request request) => request.Ok(releases.Remove(number, request.Once))
        );
        api.MapPost(
            "/releases/{number}/corrections",
            (ReleaseNumber number, CorrectionNote note, ReleaseStore releases, Request request) =>
                request.Ok(releases.Correct(number, note, request.Once))
        );
        api.MapPost(
            "/releases/{number}/call-back",
            (ReleaseNumber number, CallBackRequest asked, ReleaseStore releases, Request request) =>
                request.Ok(releases.CallBack(number, asked, request.Once))
        );
        api.MapGet("/pieces/{number}/releases", (PieceNumber number, ReleaseStore releases) => TypedResults.Ok(releases.Of(number)));
        api.MapPost(
            "/pieces/{number}/releases",
            (PieceNumber number, NewRelease made, ReleaseStore releases, Request request) =>
            {
                var done = releases.Record(number, made, request.Once);
                return request.Created(done, $"/api/releases/{done.Answer.Number}");
            }
        );
        api.MapGet(
            "/outlets/{number}/missing",
            (OutletNumber number, CatalogueStore catalogue) => TypedResults.Ok(catalogue.Missing(number))
        );
        api.MapPut(
            "/pieces/{number}/never/{outlet}",
            (PieceNumber number, OutletNumber outlet, NeverThereRequest never, ReleaseStore releases, Request request) =>
                request.Ok(releases.SetNever(number, outlet, never.Never, request.Once))
        );
    }

    private static IEnumerable<CatalogueLine> Lines(CatalogueShown catalogue)
    {
        var outlets = catalogue.Outlets.ToDictionary(o => o.Number, o => o.Name);
        return catalogue
            .Rows.SelectMany(row =>
                row.Releases.Select(r => new CatalogueLine(
                    r,
                    r.Outlet is { } at ? outlets[at] : "",
                    row.FormatName,
                    row.Series,
                    row.Summary,
                    row.Files,
                    [.. row.Topics.Select(t => t.Name)]
                ))
            )
            .OrderByDescending(l => l.Release.OutOn)
            .ThenByDescending(l => l.Release.Number.Value);
    }
}
