using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Formats;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Capture;

/// <summary>What became of a clipped page.</summary>
/// <param name="Source">The number of its source.</param>
/// <param name="IsNew">Whether there was no such source before.</param>
/// <param name="Passage">Whether the selected words became a passage.</param>
/// <param name="Words">Words of readable text that were kept with it.</param>
public sealed record Clipped(SourceNumber Source, string Title, bool IsNew, bool Passage, int Words);

/// <summary>Pages sent from the reader's browser.</summary>
internal static class ClipEndpoints
{
    private const int ClipLimit = 20 << 20;

    public static void MapClips(this RouteGroupBuilder api) =>
        api.MapPost("/clips", Take).WithMetadata(new RequestSizeLimitAttribute(ClipLimit));

    private static Ok<Clipped> Take(
        ClippedPage page,
        ImportStore imports,
        Reader reader,
        Store.Sources.SourceStore sources,
        PapersFile papers,
        Request request,
        HttpContext http
    )
    {
        var found = reader.Clip(page, papers.Today);
        var done = imports.Run(
            $"clipped “{found.Title}”",
            Origin.Clip,
            Keys.Of(http)?.Name ?? new Uri(found.Address).Host,
            () => [("", new Found.OfSource(0, found))],
            request.Once
        );
        var source = sources.Known(found)!.Value;
        return request.Ok(
            new Done<Clipped>(
                done.Command,
                new Clipped(
                    source,
                    found.Title,
                    done.Answer.Sources > 0,
                    done.Answer.Slips > 0 && !string.IsNullOrWhiteSpace(page.Selection),
                    Core.Text.Counts.Of(found.Text).Words
                )
            )
        );
    }
}
