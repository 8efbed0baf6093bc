using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Formats;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Sources;

/// <summary>An answer to one of the writer's questions.</summary>
public sealed record AnswerRequest(string? Question, string? Answer);

public sealed record QuestionsRequest(IReadOnlyList<string>? Questions);

/// <summary>What is decided about a new source; passages named are dropped although it is kept.</summary>
public sealed record ReviewRequest(bool Keep, IReadOnlyList<SlipNumber>? Without = null);

/// <summary>A transcript as WebVTT, SubRip or plain text with times; an empty one takes it away.</summary>
public sealed record TranscriptRequest(string? Text);

/// <summary>A transcript that was taken in.</summary>
/// <param name="Unread">Places that could not be read.</param>
public sealed record TranscriptWritten(int Lines, IReadOnlyList<UnreadLine> Unread);

public sealed record UnreadLine(int Line, string Reason, string Raw);

/// <summary>Neighbouring lines of a transcript, counted from 1.</summary>
public sealed record LinesRequest(int First, int Last);

/// <summary>Sources.</summary>
internal static class SourceEndpoints
{
    private const int SourceLimit = 4 << 20;

    public static void MapSources(this RouteGroupBuilder api)
    {
        var limit = new RequestSizeLimitAttribute(SourceLimit);
        api.MapGet("/sources", Sources);
        api.MapPost("/sources", Add).WithMetadata(limit);
        api.MapGet("/sources/{number}", Get);
        api.MapGet("/sources/{number}/opened", (SourceNumber number, SourceStore sources) => TypedResults.Ok(sources.Open(number)));
        api.MapPatch(
                "/sources/{number}",
                (SourceNumber number, SourceChange change, SourceStore sources, Request request) =>
                    request.Ok(sources.Edit(number, change with { Version = request.Based(change.Version) }, request.Once))
            )
            .WithMetadata(limit);
        api.MapPost("/sources/{number}/passages", AddPassage).WithMetadata(limit);
        api.MapPost(
            "/sources/{number}/comments",
            (SourceNumber number, AnswerRequest said, SourceStore sources, Request request) =>
                request.Ok(sources.Answer(number, said.Question, said.Answer, request.Once))
        );
        api.MapGet("/sources/forms", () => TypedResults.Ok(SourceForms.All));
        api.MapGet("/sources/questions", (SourceStore sources) => TypedResults.Ok(sources.Questions()));
        api.MapPut(
            "/sources/questions",
            (QuestionsRequest asked, SourceStore sources, Request request) =>
                request.Ok(sources.SetQuestions(asked.Questions ?? [], request.Once))
        );
        api.MapGet("/sources/new", (SourceStore sources) => TypedResults.Ok<IReadOnlyList<int>>([.. sources.New().Select(n => n.Value)]));
        api.MapPost(
            "/sources/{number}/review",
            (SourceNumber number, ReviewRequest review, SourceStore sources, Request request) =>
                request.Ok(sources.Review(number, review.Keep, review.Without ?? [], request.Once))
        );
        api.MapGet(
            "/sources/{number}/transcript",
            (SourceNumber number, TranscriptStore transcripts) => TypedResults.Ok(transcripts.Lines(number))
        );
        api.MapPut("/sources/{number}/transcript", WriteTranscript).WithMetadata(limit);
        api.MapPost(
            "/sources/{number}/transcript/passages",
            (SourceNumber number, LinesRequest lines, TranscriptStore transcripts, Request request) =>
                request.Ok(transcripts.KeepPassage(number, lines.First, lines.Last, request.Once))
        );
        api.MapGet(
            "/bibliography",
            (SourceStore sources, TopicNumber? topic = null, PieceNumber? piece = null) =>
                TypedResults.Ok(sources.Bibliography(topic, piece))
        );
    }

    private static Ok<Paged<Source>> Sources(
        LibraryStore library,
        string? query = null,
        TopicNumber? topic = null,
        bool trashed = false,
        int page = 1
    )
    {
        var found = library.List(new LibraryQuery(query, trashed ? InState.Trashed : InState.All, null, Sources: true, topic, null, page));
        return TypedResults.Ok(new Paged<Source>([.. found.Items.Select(e => e.Source!)], found.Total, found.Page, found.PageSize));
    }

    private static Created<Source> Add(SourceChange source, SourceStore sources, Request request)
    {
        var done = sources.Add(source, request.Once);
        return request.Created(done, $"/api/sources/{done.Answer.Number}");
    }

    private static Ok<Source> Get(SourceNumber number, SourceStore sources, Request request)
    {
        var source = sources.Get(number);
        return request.Versioned(source, source.Version);
    }

    /// <exception cref="BadInputException">There is not one time in it.</exception>
    private static Ok<TranscriptWritten> WriteTranscript(
        SourceNumber number,
        TranscriptRequest transcript,
        TranscriptStore transcripts,
        Request request
    )
    {
        var read = Transcripts.Read(Check.Length("transcript", transcript.Text, SourceLimit));
        if (read.Lines.Count == 0 && !string.IsNullOrWhiteSpace(transcript.Text))
            throw new BadInputException(
                "transcript",
                "There is no time in it, such as 12:40 before a line. A transcript is WebVTT, SubRip, or lines that begin with a time."
            );
        var done = transcripts.Write(number, read.Lines, request.Once);
        return request.Ok(
            new Done<TranscriptWritten>(
                done.Command,
                new TranscriptWritten(done.Answer, [.. read.Unread.Select(u => new UnreadLine(u.Line, u.Reason, u.Raw))])
            )
        );
    }

    private static Created<Slip> AddPassage(SourceNumber number, NewPassage passage, SourceStore sources, Request request)
    {
        var done = sources.AddPassage(number, passage, request.Once);
        return request.Created(done, $"/api/slips/{done.Answer.Number}");
    }
}
