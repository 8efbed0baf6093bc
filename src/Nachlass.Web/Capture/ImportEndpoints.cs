using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Pieces;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Capture;

/// <summary>A format as it is named to the writer.</summary>
public sealed record FormatName(string Key, string Name);

/// <summary>Bringing in files, and taking single kinds of thing out in the same formats.</summary>
internal static class ImportEndpoints
{
    public static void MapImports(this RouteGroupBuilder api)
    {
        api.MapGet(
            "/imports/formats",
            () => TypedResults.Ok<IReadOnlyList<FormatName>>([.. FormatsIn.All.Select(f => new FormatName(f.Key, f.Name))])
        );
        api.MapGet("/imports", (HistoryStore history) => TypedResults.Ok(history.CameIn()));
        api.MapPost("/imports", Begin).WithMetadata(new RequestSizeLimitAttribute(Parcel.MostBytes + (64 << 20)));
        api.MapGet("/imports/{id}", (string id, Imports imports) => TypedResults.Ok(imports.Get(id)));
        api.MapPut(
            "/imports/{id}/reading",
            (string id, ImportReading reading, Imports imports) => TypedResults.Ok(imports.Read(id, reading))
        );
        api.MapPost("/imports/{id}/run", (string id, Imports imports) => TypedResults.Ok(imports.Run(id)));
        api.MapDelete("/imports/{id}", (string id, Imports imports) => TypedResults.Ok(imports.Stop(id)));
        api.MapGet("/imports/{id}/unread", Unread).Produces<string>(200, "text/plain");
        api.MapGet("/exports/slips.{format}", Slips).Produces<string>(200, "text/plain");
        api.MapGet("/exports/sources.{format}", Sources).Produces<string>(200, "text/plain");
        api.MapGet("/exports/transcripts/{number}.{format}", TranscriptOf).Produces<string>(200, "text/plain");
        api.MapGet("/exports/outlines/{number}.opml", OutlineOf).Produces<string>(200, "text/x-opml");
        api.MapGet(
                "/exports/calendar.ics",
                (ImageStore images) =>
                    File(Calendar.Write(images.Take().Occasions, images.Take().Moves), "text/calendar", "occasions and moves.ics")
            )
            .Produces<string>(200, "text/calendar");
    }

    /// <summary>Takes in files and begins to look through them.</summary>
    private static async Task<Ok<ImportState>> Begin(HttpContext http, Imports imports)
    {
        var parcel = imports.NewParcel();
        try
        {
            await ParcelIn.Read(http, parcel);
            var names = parcel.Files.Select(f => f.Name).ToList();
            return TypedResults.Ok(imports.Begin(names.Count == 1 ? $"“{names[0]}”" : $"{names.Count} files", parcel));
        }
        catch
        {
            Directory.Delete(parcel.Folder, recursive: true);
            throw;
        }
    }

    private static FileContentHttpResult Unread(string id, Imports imports) =>
        File(
            string.Join('\n', imports.Unread(id)) + "\n",
            "text/plain",
            imports.Get(id).Files is [{ Columns: not null }] ? "to mend.csv" : "to mend.txt"
        );

    private static FileContentHttpResult Slips(string format, ImageStore images, TopicNumber? topic = null)
    {
        var papers = images.Take();
        var sources = papers.Sources.ToDictionary(s => s.Number);
        var slips = papers
            .Slips.Where(s => s.MergedInto is null && (topic is null || s.Topics.Any(t => t.Number == topic)))
            .Select(s => (s, s.Source is { } of ? sources.GetValueOrDefault(of) : null))
            .ToList();
        switch (format)
        {
            case "csv":
                using (var text = new StringWriter())
                {
                    CsvTable.Write(text, slips);
                    return File(text.ToString(), "text/csv", "slips.csv");
                }
            case "json":
                using (var stream = new MemoryStream())
                {
                    JsonTable.Write(stream, slips);
                    return File(System.Text.Encoding.UTF8.GetString(stream.ToArray()), "application/json", "slips.json");
                }
            case "opml":
                return File(Xml(Opml.Write("Slips", slips.Select(s => s.s))), "text/x-opml", "slips.opml");
            case "txt":
                return File(PlainList.Write(slips.Select(s => s.s)), "text/plain", "slips.txt");
            default:
                throw new NotThereException($"format {format} for slips; there are csv, json, opml and txt");
        }
    }

    private static FileContentHttpResult Sources(string format, ImageStore images, TopicNumber? topic = null)
    {
        var sources = images.Take().Sources.Where(s => s.TrashedAt is null && (topic is null || s.Topics.Any(t => t.Number == topic)));
        return format switch
        {
            "bib" => File(BibTex.Write(sources), "application/x-bibtex", "sources.bib"),
            "ris" => File(Ris.Write(sources), "application/x-research-info-systems", "sources.ris"),
            "json" => File(CslJson.Write(sources), "application/vnd.citationstyles.csl+json", "sources.csl.json"),
            "html" => File(Bookmarks.Write(sources), "text/html", "bookmarks.html"),
            _ => throw new NotThereException($"format {format} for sources; there are bib, ris, json and html"),
        };
    }

    private static FileContentHttpResult TranscriptOf(SourceNumber number, string format, TranscriptStore transcripts, SourceStore sources)
    {
        var name = PieceFile.Name(sources.Get(number).Title);
        var lines = transcripts.Lines(number).Select(l => new Core.Sources.TranscriptLine(l.From, l.To, l.Text, l.Speaker));
        return format switch
        {
            "vtt" => File(Transcripts.WebVtt(lines), "text/vtt", name + ".vtt"),
            "srt" => File(Transcripts.SubRip(lines), "application/x-subrip", name + ".srt"),
            _ => throw new NotThereException($"format {format} for transcripts; there are vtt and srt"),
        };
    }

    private static FileContentHttpResult OutlineOf(PieceNumber number, PieceStore pieces, DraftStore drafts) =>
        File(
            Xml(Opml.Write(pieces.Get(number).Title, drafts.Get(number).Text)),
            "text/x-opml",
            PieceFile.Name(pieces.Get(number).Title) + ".opml"
        );

    private static string Xml(System.Xml.Linq.XDocument document) => document.Declaration + "\n" + document + "\n";

    private static FileContentHttpResult File(string text, string type, string name) =>
        TypedResults.File(System.Text.Encoding.UTF8.GetBytes(text), type + "; charset=utf-8", name);
}
