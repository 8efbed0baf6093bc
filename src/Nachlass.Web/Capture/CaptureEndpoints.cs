using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Capture;

/// <summary>Lines to be caught in one go.</summary>
public sealed record CatchRequest(IReadOnlyList<ToCatch>? Lines);

/// <summary>A line to be read without being caught.</summary>
public sealed record ReadRequest(string? Text);

/// <summary>How a typed text reads as a whole, and the lines it would fall into.</summary>
public sealed record ReadAnswer(CaptureReading Reading, IReadOnlyList<string> Lines);

/// <summary>A slip to be made from a text.</summary>
public sealed record NewSlipRequest(string? Text, SlipKind? Kind = null);

public sealed record SheetText(string? Text, int? Version);

public sealed record MoveRequest(string? Text, DateOnly? Due = null, PieceNumber? Piece = null, DateOnly? Day = null);

public sealed record MoveChange
{
    public int? Version { get; init; }
    public string? Text { get; init; }
    public Maybe<DateOnly?> Due { get; init; }
    public Maybe<PieceNumber?> Piece { get; init; }
    public bool? Done { get; init; }
}

/// <summary>Catching, slips, day sheets and moves.</summary>
internal static class CaptureEndpoints
{
    private const int SlipLimit = 1 << 20;

    public static void MapCapture(this RouteGroupBuilder api)
    {
        var limit = new RequestSizeLimitAttribute(SlipLimit);
        api.MapPost("/capture", Catch).WithMetadata(limit);
        api.MapPost("/capture/reading", ReadLine).WithMetadata(limit);
        api.MapPost("/slips", Add).WithMetadata(limit);
        api.MapGet("/slips", List);
        api.MapGet("/slips/{number}", Get);
        api.MapGet("/slips/{number}/opened", (SlipNumber number, SlipStore slips) => TypedResults.Ok(slips.Open(number)));
        api.MapPatch("/slips/{number}", Edit).WithMetadata(limit);
        api.MapGet("/desk", (DateOnly? day, DeskStore desk, PapersFile papers) => TypedResults.Ok(desk.Day(day ?? papers.Today)));
        api.MapPut("/desk/{day}/sheet", (DateOnly day, SheetText sheet, DeskStore desk, Request request) =>
            request.Ok(desk.Write(day, sheet.Text, request.Based(sheet.Version), request.Once)));
        api.MapGet("/purpose", (DeskStore desk) => TypedResults.Ok(desk.Purpose()));
        api.MapPut("/purpose", (SheetText purpose, DeskStore desk, Request request) =>
            request.Ok(desk.Write(purpose.Text, request.Based(purpose.Version), request.Once)));
        api.MapGet("/moves", (DeskStore desk) => TypedResults.Ok(desk.OpenMoves()));
        api.MapPost("/moves", (MoveRequest move, DeskStore desk, Request request) =>
            request.Created(desk.AddMove(move.Text, move.Due, move.Piece, move.Day, request.Once), "/api/moves"));
        api.MapPatch("/moves/{number}", (MoveNumber number, MoveChange change, DeskStore desk, Request request) =>
            request.Ok(desk.EditMove(number, request.Based(change.Version), change.Text, change.Due, change.Piece, change.Done, request.Once)));
        api.MapDelete("/moves/{number}", (MoveNumber number, DeskStore desk, Request request) => request.Ok(desk.RemoveMove(number, request.Once)));
    }

    private static Created<IReadOnlyList<Caught>> Catch(CatchRequest caught, CaptureStore capture, Request request) =>
        request.Created(capture.Catch(caught.Lines ?? [], request.Once), "/api/sift");

    private static Ok<ReadAnswer> ReadLine(ReadRequest asked, PapersFile papers) =>
        TypedResults.Ok(new ReadAnswer(CaptureLine.Read(asked.Text ?? "", papers.Today), CaptureLine.Lines(asked.Text ?? "")));

    private static Created<Slip> Add(NewSlipRequest slip, CaptureStore capture, Request request)
    {
        var done = capture.CatchSlip(slip.Text, slip.Kind, request.Once);
        return request.Created(done, $"/api/slips/{done.Answer.Number}");
    }

    private static Ok<Paged<Slip>> List(LibraryStore library, string? query = null, Word<InState>? state = null, TopicNumber? topic = null, Word<SlipKind>? kind = null,
        bool? used = null, int page = 1)
    {
        var found = library.List(new LibraryQuery(query, state?.Value ?? InState.Sight, kind?.Value, Sources: false, topic, used, page));
        return TypedResults.Ok(new Paged<Slip>([.. found.Items.Select(e => e.Slip!)], found.Total, found.Page, found.PageSize));
    }

    private static Ok<Slip> Get(SlipNumber number, SlipStore slips, Request request)
    {
        var slip = slips.Get(number);
        return request.Versioned(slip, slip.Version);
    }

    private static Ok<Slip> Edit(SlipNumber number, SlipChange change, SlipStore slips, Request request) =>
        request.Ok(slips.Edit(number, change with { Version = request.Based(change.Version) }, request.Once));
}
