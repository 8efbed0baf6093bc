using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Figures;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Catalogue;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Catalogue.Figures;
using Nachlass.Store.Papers;
using Nachlass.Web.Capture;
using Nachlass.Web.Catalogue.Queue;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Catalogue;

/// <summary>Whether a piece is never to go to an outlet.</summary>
public sealed record NeverThereRequest(bool Never);

/// <summary>What an outlet said to something that was asked of it.</summary>
/// <param name="Problem">What is wrong, in a sentence; empty when nothing is.</param>
public sealed record OutletAnswer(string Problem);

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
        api.MapGet("/catalogue/views", (CatalogueViewStore views) => TypedResults.Ok(views.List()));
        api.MapPost(
            "/catalogue/views",
            (CatalogueViewChange made, CatalogueViewStore views, Request request) => request.Ok(views.Add(made, request.Once))
        );
        api.MapPatch(
            "/catalogue/views/{number}",
            (CatalogueViewNumber number, CatalogueViewChange edit, CatalogueViewStore views, Request request) =>
                request.Ok(views.Edit(number, edit with { Version = request.Based(edit.Version) }, request.Once))
        );
        api.MapDelete(
            "/catalogue/views/{number}",
            (CatalogueViewNumber number, CatalogueViewStore views, Request request) => request.Ok(views.Remove(number, request.Once))
        );
        api.MapPost("/releases/import", Import);
        api.MapGet("/releases", (ReleaseStore releases) => TypedResults.Ok(releases.List()));
        api.MapGet(
                "/releases.csv",
                (CatalogueStore catalogue, ReleaseFigureStore figures) =>
                    TypedResults.File(
                        System.Text.Encoding.UTF8.GetBytes(CatalogueFile.Csv(Lines(catalogue.Get(), figures.Latest()))),
                        "text/csv; charset=utf-8",
                        "catalogue.csv"
                    )
            )
            .Produces<string>(200, "text/csv");
        api.MapGet("/releases/{number}/picture", Picture).Produces(200, contentType: "application/octet-stream");
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
        api.MapPost("/releases/{number}/corrections/there", PutRight);
        api.MapGet(
            "/releases/{number}/figures",
            (ReleaseNumber number, ReleaseFigureStore figures) => TypedResults.Ok(figures.Get(number))
        );
        api.MapPut(
            "/releases/{number}/figures",
            (ReleaseNumber number, FigureTyped typed, ReleaseFigureStore figures, Request request) =>
                request.Ok(figures.Type(number, typed, request.Once))
        );
        api.MapPost("/releases/{number}/figures/ask", AskFigures);
        api.MapGet(
            "/catalogue/comparison",
            (string? figure, Word<MeasuredAs>? @as, Word<ComparedBy>? by, int? after, OutletNumber? outlet, ReleaseFigureStore figures) =>
                TypedResults.Ok(
                    figures.Compare(
                        new ComparisonAsked(
                            figure ?? ReleaseFigures.Views,
                            @as?.Value ?? MeasuredAs.Middle,
                            by?.Value ?? ComparedBy.Format,
                            after ?? ReleaseFigureStore.UsualAfter,
                            outlet
                        )
                    )
                )
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

    /// <summary>The picture of its own that went out with a release.</summary>
    private static FileStreamHttpResult Picture(ReleaseNumber number, ReleaseStore releases, FileShelf shelf, HttpContext http)
    {
        if (releases.Get(number).Picture is not { } picture || !File.Exists(shelf.Path(picture.Hash)))
            throw new NotThereException($"a picture of R {number}");
        http.Response.Headers.ContentSecurityPolicy = "default-src 'none'; sandbox";
        http.Response.Headers.CacheControl = "private, max-age=3600";
        return TypedResults.Stream(shelf.Open(picture.Hash), picture.Type);
    }

    private static async Task<Ok<OutletAnswer>> PutRight(ReleaseNumber number, Sender sender, HttpContext http) =>
        TypedResults.Ok(new OutletAnswer(await sender.PutRight(number, http.RequestAborted)));

    private static async Task<Ok<OutletAnswer>> AskFigures(ReleaseNumber number, ReleaseStore releases, Sender sender, HttpContext http)
    {
        var release = releases.Get(number);
        if (release.Outlet is not { } outlet || release.Address.Length == 0)
            return TypedResults.Ok(new OutletAnswer("It has no address there, so nobody can be asked. Type the figures you know."));
        var told = await sender.AskFigures(new ToAsk(number, outlet, release.Address), http.RequestAborted);
        return TypedResults.Ok(new OutletAnswer(told.Problem));
    }

    private static IEnumerable<CatalogueLine> Lines(CatalogueShown catalogue, ILookup<ReleaseNumber, (string Name, int Total)> figures)
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
                    [.. row.Topics.Select(t => t.Name)],
                    [.. figures[r.Number]]
                ))
            )
            .OrderByDescending(l => l.Release.OutOn)
            .ThenByDescending(l => l.Release.Number.Value);
    }

    private const int MostUnread = 100;

    /// <summary>Brings the past in from feeds, mailboxes, tables and folders of Markdown, which are read as any strange file is, in a
    /// process of their own.</summary>
    /// <param name="outlet">Where all of it went out.</param>
    /// <param name="format">Key of the format of pieces that are made.</param>
    private static async Task<Ok<PastIn>> Import(
        HttpContext http,
        Imports imports,
        Reader reader,
        PastStore past,
        PapersFile papers,
        Request request,
        OutletNumber? outlet = null,
        string? format = null
    )
    {
        var parcel = imports.NewParcel();
        try
        {
            await ParcelIn.Read(http, parcel);
            if (parcel.Files.Count == 0)
                throw new BadInputException("files", "There is no file in it.");
            var reads = await Task.Run(() =>
                reader.Read(parcel, new ToRead(papers.Today, Documents: DocumentsAs.Source), stop: http.RequestAborted)
            );
            var (found, unread) = (new List<PastRelease>(), new List<string>());
            foreach (var (file, thing) in reads.Things(parcel))
                if (PastRelease.Of(thing, DayOf) is ({ } release, _))
                    found.Add(release);
                else
                    unread.Add($"{file.Name}{(thing.Line > 0 ? $", line {thing.Line}" : "")}: {PastRelease.Of(thing, DayOf).Why}");
            if (found.Count == 0)
                throw new BadInputException(
                    "files",
                    unread.Count > 0 ? $"No release could be read. {unread[0]}" : "There is nothing in it that went out."
                );
            return request.Ok(past.BringIn(outlet, format, found, request.Once, [.. unread.Take(MostUnread)]));
        }
        finally
        {
            Directory.Delete(parcel.Folder, recursive: true);
        }

        DateOnly DayOf(DateTimeOffset at) => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(at, papers.Time.LocalTimeZone).DateTime);
    }
}
