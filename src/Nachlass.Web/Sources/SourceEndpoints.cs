using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Store.Sources;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Sources;

/// <summary>The library and sources.</summary>
internal static class SourceEndpoints
{
    private const int SourceLimit = 4 << 20;

    public static void MapSources(this RouteGroupBuilder api)
    {
        var limit = new RequestSizeLimitAttribute(SourceLimit);
        api.MapGet("/library", List);
        api.MapGet("/library/facets", Facets);
        api.MapGet("/sources", Sources);
        api.MapPost("/sources", Add).WithMetadata(limit);
        api.MapGet("/sources/{number}", Get);
        api.MapGet("/sources/{number}/opened", (SourceNumber number, SourceStore sources) => TypedResults.Ok(sources.Open(number)));
        api.MapPatch("/sources/{number}", (SourceNumber number, SourceChange change, SourceStore sources, Request request) =>
            request.Ok(sources.Edit(number, change with { Version = request.Based(change.Version) }, request.Once))).WithMetadata(limit);
        api.MapPost("/sources/{number}/passages", AddPassage).WithMetadata(limit);
    }

    private static Ok<Paged<LibraryEntry>> List(LibraryStore library, string? query = null, Word<InState>? state = null, Word<SlipKind>? kind = null, bool? sources = null,
        TopicNumber? topic = null, bool? used = null, int page = 1) =>
        TypedResults.Ok(library.List(new LibraryQuery(query, state?.Value ?? InState.Sight, kind?.Value, sources, topic, used, page)));

    private static Ok<Facets> Facets(LibraryStore library, string? query = null, Word<InState>? state = null, Word<SlipKind>? kind = null, bool? sources = null,
        TopicNumber? topic = null, bool? used = null) =>
        TypedResults.Ok(library.Facets(new LibraryQuery(query, state?.Value ?? InState.Sight, kind?.Value, sources, topic, used)));

    private static Ok<Paged<Source>> Sources(LibraryStore library, string? query = null, TopicNumber? topic = null, bool trashed = false, int page = 1)
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

    private static Created<Slip> AddPassage(SourceNumber number, NewPassage passage, SourceStore sources, Request request)
    {
        var done = sources.AddPassage(number, passage, request.Once);
        return request.Created(done, $"/api/slips/{done.Answer.Number}");
    }
}
