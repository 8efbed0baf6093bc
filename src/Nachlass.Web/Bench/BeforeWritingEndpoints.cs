using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Bench;

/// <summary>What is settled before a piece is written: brief, titles, cover, what to find out, references, heap.</summary>
internal static class BeforeWritingEndpoints
{
    public static void MapBeforeWriting(this RouteGroupBuilder api)
    {
        api.MapGet("/covers", (BriefStore briefs) => TypedResults.Ok(briefs.Covers()));
        api.MapGet("/pieces/{number}/brief", (PieceNumber number, BriefStore briefs) => TypedResults.Ok(briefs.Of(number)));
        api.MapPut(
            "/pieces/{number}/brief",
            (PieceNumber number, BriefChange edit, BriefStore briefs, Request request) =>
                request.Ok(briefs.Edit(number, edit, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/heap/over",
            (PieceNumber number, HeapOver over, BriefStore briefs, Request request) => request.Ok(briefs.Over(number, over, request.Once))
        );
        MapTitles(api);
        MapFindOut(api);
        MapReferences(api);
    }

    private static void MapTitles(RouteGroupBuilder api)
    {
        api.MapGet("/pieces/{number}/variants", (PieceNumber number, VariantStore variants) => TypedResults.Ok(variants.Of(number)));
        api.MapGet("/pieces/{number}/titles", (PieceNumber number, TitleStore titles) => TypedResults.Ok(titles.Of(number)));
        api.MapPut(
            "/pieces/{number}/titles",
            (PieceNumber number, TitlesChange all, TitleStore titles, Request request) => request.Ok(titles.Set(number, all, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/titles",
            (PieceNumber number, TitleChange made, TitleStore titles, Request request) => request.Ok(titles.Add(number, made, request.Once))
        );
        api.MapPatch(
            "/pieces/{number}/titles/{title}",
            (PieceNumber number, TitleNumber title, TitleChange edit, TitleStore titles, Request request) =>
                request.Ok(titles.Edit(number, title, edit, request.Once))
        );
        api.MapDelete(
            "/pieces/{number}/titles/{title}",
            (PieceNumber number, TitleNumber title, TitleStore titles, Request request) =>
                request.Ok(titles.Remove(number, title, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/titles/{title}/take",
            (PieceNumber number, TitleNumber title, TitleStore titles, Request request) =>
                request.Ok(titles.Take(number, title, request.Once))
        );
    }

    private static void MapFindOut(RouteGroupBuilder api)
    {
        api.MapGet("/pieces/{number}/to-find", (PieceNumber number, FindOutStore finding) => TypedResults.Ok(finding.Of(number)));
        api.MapPost(
            "/pieces/{number}/to-find",
            (PieceNumber number, NewToFind made, FindOutStore finding, Request request) =>
                request.Ok(finding.Add(number, made, request.Once))
        );
        api.MapPut(
            "/pieces/{number}/to-find/{item}/answer",
            (PieceNumber number, ToFindNumber item, ToFindAnswer answer, FindOutStore finding, Request request) =>
                request.Ok(finding.Answer(number, item, answer, request.Once))
        );
        api.MapDelete(
            "/pieces/{number}/to-find/{item}",
            (PieceNumber number, ToFindNumber item, FindOutStore finding, Request request) =>
                request.Ok(finding.Remove(number, item, request.Once))
        );
    }

    private static void MapReferences(RouteGroupBuilder api)
    {
        api.MapGet(
            "/pieces/{number}/references",
            (PieceNumber number, ReferenceStore references) => TypedResults.Ok(references.Of(number))
        );
        api.MapPut(
            "/pieces/{number}/references",
            (PieceNumber number, ReferencesChange all, ReferenceStore references, Request request) =>
                request.Ok(references.Set(number, all, request.Once))
        );
        api.MapPost(
            "/pieces/{number}/references",
            (PieceNumber number, ReferenceChange made, ReferenceStore references, Request request) =>
                request.Ok(references.Add(number, made, request.Once))
        );
        api.MapPatch(
            "/pieces/{number}/references/{reference}",
            (PieceNumber number, PieceReferenceNumber reference, ReferenceChange edit, ReferenceStore references, Request request) =>
                request.Ok(references.Edit(number, reference, edit, request.Once))
        );
        api.MapDelete(
            "/pieces/{number}/references/{reference}",
            (PieceNumber number, PieceReferenceNumber reference, ReferenceStore references, Request request) =>
                request.Ok(references.Remove(number, reference, request.Once))
        );
    }
}
