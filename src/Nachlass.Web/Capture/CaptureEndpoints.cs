using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Capture;

/// <summary>Lines to be caught in one go; or, for a short script, one text.</summary>
public sealed record CatchRequest(IReadOnlyList<ToCatch>? Lines, string? Text = null);

/// <summary>A line to be read without being caught.</summary>
public sealed record ReadRequest(string? Text);

/// <summary>How a typed text reads as a whole, and the lines it would fall into.</summary>
public sealed record ReadAnswer(CaptureReading Reading, IReadOnlyList<string> Lines);

/// <summary>A slip to be made from a text, with topics beside those in it and the format it would become.</summary>
public sealed record NewSlipRequest(string? Text, SlipKind? Kind = null, IReadOnlyList<string>? Topics = null, string? Format = null);

/// <summary>Catching and slips.</summary>
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
    }

    private static Created<IReadOnlyList<Caught>> Catch(CatchRequest caught, CaptureStore capture, Request request, HttpContext http)
    {
        var lines = caught.Lines ?? (caught.Text is { } text ? [new ToCatch(text)] : []);
        // Where a program's slips come from is what its key is called, whatever it says itself.
        if (Keys.Of(http) is { } key)
            lines = [.. lines.Select(line => line with { Origin = Origin.Program, OriginNote = key.Name })];
        return request.Created(capture.Catch(lines, request.Once), "/api/sift");
    }

    private static Ok<ReadAnswer> ReadLine(ReadRequest asked, PapersFile papers) =>
        TypedResults.Ok(new ReadAnswer(CaptureLine.Read(asked.Text ?? "", papers.Today), CaptureLine.Lines(asked.Text ?? "")));

    private static Created<Slip> Add(NewSlipRequest slip, CaptureStore capture, Request request)
    {
        var done = capture.CatchSlip(slip.Text, slip.Kind, request.Once, slip.Topics, slip.Format);
        return request.Created(done, $"/api/slips/{done.Answer.Number}");
    }

    private static Ok<Paged<Slip>> List(
        LibraryStore library,
        string? query = null,
        Word<InState>? state = null,
        TopicNumber? topic = null,
        Word<SlipKind>? kind = null,
        bool? used = null,
        int page = 1
    )
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
