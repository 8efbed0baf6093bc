using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Pieces;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Web.Hosting;

namespace Nachlass.Web.Bench;

/// <summary>As what a piece goes out.</summary>
public enum ExportAs
{
    Markdown,
    Text,
    Html,

    /// <summary>HTML set for paper: numbered pages with running heads.</summary>
    PdfHtml,
    Docx,
    Epub,
    Fountain,
    Srt,
    Vtt,
    Opml,
}

/// <summary>Taking finished texts out.</summary>
internal static class OutEndpoints
{
    private const int Slowest = 60,
        Fastest = 400;

    public static void MapOut(this RouteGroupBuilder api)
    {
        api.MapGet("/pieces/{number}/export", Export)
            .Produces<string>(200, "text/markdown", "text/plain", "text/html", "text/vtt", "text/x-opml", "application/epub+zip");
        api.MapGet("/pieces/{number}/before-out", (PieceNumber number, OutStore outs) => TypedResults.Ok(outs.BeforeOut(number)));
        api.MapGet("/pieces/{number}/credits", (PieceNumber number, OutStore outs) => TypedResults.Ok(outs.Credits(number)));
        api.MapGet("/series/{number}/export", ExportSeries).Produces<string>(200, "application/epub+zip");
    }

    /// <summary>The finished text as a file to keep, or, with <c>fragment</c>, as HTML to put on the clipboard.</summary>
    /// <param name="pace">Words a minute of subtitles; as one reads aloud when it is not said.</param>
    /// <param name="title">Whether the piece's title stands at its head.</param>
    /// <param name="sections">Numbers of the sections that go out, with commas between; all when it is not said.</param>
    /// <param name="sides">Keys of side texts that follow the draft, with commas between.</param>
    /// <param name="side">Key of a side text that goes out by itself.</param>
    /// <param name="with">Numbers of pieces that stand behind it in the same book, with commas between.</param>
    private static FileContentHttpResult Export(
        PieceNumber number,
        PieceStore pieces,
        DraftStore drafts,
        OutStore outs,
        BriefStore briefs,
        FileShelf shelf,
        HttpContext http,
        Word<ExportAs>? @as = null,
        bool fragment = false,
        int? pace = null,
        bool title = true,
        Word<HeadingsAs>? headings = null,
        string? sections = null,
        Word<Citing>? citing = null,
        string? sides = null,
        string? side = null,
        string? with = null
    )
    {
        var piece = pieces.Get(number);
        var how = @as?.Value ?? ExportAs.Markdown;
        var markdown = outs.Finished(
            number,
            new OutAsked(title, headings?.Value ?? HeadingsAs.Kept, Numbered(sections), citing?.Value, Keys(sides), side)
        );
        if (pace is < Slowest or > Fastest)
            throw new BadInputException("pace", $"A pace is between {Slowest} and {Fastest} words a minute.");
        var lines = how is ExportAs.Srt or ExportAs.Vtt ? PlainFile.Spoken(markdown, pace ?? ReadingPace.Aloud) : [];
        var (content, type, ending) = how switch
        {
            ExportAs.Text => (Bytes(PlainFile.Text(markdown)), "text/plain", "txt"),
            ExportAs.Html => (
                Bytes(fragment ? PieceFile.Fragment(markdown, Find) : PieceFile.Html(piece.Title, markdown, piece.Language, Find)),
                "text/html",
                "html"
            ),
            ExportAs.PdfHtml => (Bytes(PieceFile.ForPaper(piece.Title, markdown, piece.Language, Find)), "text/html", "html"),
            ExportAs.Docx => (
                DocxFile.Write(piece.Title, markdown, piece.Language, Find),
                "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
                "docx"
            ),
            ExportAs.Epub => (
                EpubFile.Write(
                    new Book(
                        piece.Title,
                        piece.Language,
                        piece.ChangedAt,
                        [new BookPart(piece.Title, markdown, Find), .. Others(with, pieces, outs, shelf)]
                    )
                    {
                        Cover = briefs.Of(number).Brief.Cover is { } cover ? Find($"/api/attachments/{cover}/content") : null,
                    }
                ),
                "application/epub+zip",
                "epub"
            ),
            ExportAs.Fountain => (Bytes(PlainFile.Fountain(piece.Title, markdown)), "text/plain", "fountain"),
            ExportAs.Srt => (Bytes(Transcripts.SubRip(lines)), "application/x-subrip", "srt"),
            ExportAs.Vtt => (Bytes(Transcripts.WebVtt(lines)), "text/vtt", "vtt"),
            ExportAs.Opml => (Bytes(Xml(Opml.Write(piece.Title, drafts.Get(number).Text))), "text/x-opml", "opml"),
            _ => (Bytes(markdown), "text/markdown", "md"),
        };
        // What is printed or copied is looked at; all else is kept. A page that is looked at has its own styles and runs nothing.
        if (how == ExportAs.PdfHtml)
            http.Response.Headers.ContentSecurityPolicy =
                "default-src 'none'; style-src 'unsafe-inline'; img-src data:; frame-ancestors 'none'; base-uri 'none'; form-action 'none'";
        else if (!fragment)
            http.Response.Headers.ContentDisposition = Named(piece.Title, ending);
        return TypedResults.Bytes(content, type.StartsWith("text/", StringComparison.Ordinal) ? type + "; charset=utf-8" : type);

        Picture? Find(string address) => PictureOf(number, address, outs, shelf);
    }

    /// <summary>The pieces of a series, in order, as one book.</summary>
    private static FileContentHttpResult ExportSeries(
        SeriesNumber number,
        SeriesStore series,
        OutStore outs,
        FileShelf shelf,
        HttpContext http
    )
    {
        var shown = series.Get(number);
        if (shown.Pieces.Count == 0)
            throw new ClashException("There is no piece in this series yet that could stand in a book.");
        var parts = shown.Pieces.Select(p => new BookPart(
            p.Piece.Title,
            outs.Finished(p.Piece.Number),
            address => PictureOf(p.Piece.Number, address, outs, shelf)
        ));
        http.Response.Headers.ContentDisposition = Named(shown.Series.Name, "epub");
        return TypedResults.Bytes(
            EpubFile.Write(
                new Book(shown.Series.Name, shown.Pieces[0].Piece.Language, shown.Pieces.Max(p => p.Piece.ChangedAt), [.. parts])
            ),
            "application/epub+zip"
        );
    }

    /// <summary>Other pieces in a book, in the order in which they are named.</summary>
    private static IEnumerable<BookPart> Others(string? with, PieceStore pieces, OutStore outs, FileShelf shelf) =>
        (Keys(with) ?? []).Select(written =>
        {
            if (!PieceNumber.TryParse(written, out var number))
                throw new BadInputException("with", $"“{written}” is no number of a piece; they are given as 7,9.");
            return new BookPart(pieces.Get(number).Title, outs.Finished(number), address => PictureOf(number, address, outs, shelf));
        });

    private static string Named(string title, string ending) =>
        new System.Net.Mime.ContentDisposition { FileName = $"{PieceFile.Name(title)}.{ending}" }.ToString();

    private static byte[] Bytes(string text) => Encoding.UTF8.GetBytes(text);

    private static string Xml(System.Xml.Linq.XDocument document) => document.Declaration + "\n" + document + "\n";

    /// <summary>A picture of the piece by the name of its file, whatever folder a text that was brought in says it lies in, or any
    /// attached picture by its address here.</summary>
    private static Picture? PictureOf(PieceNumber piece, string address, OutStore outs, FileShelf shelf)
    {
        if (outs.PictureOf(piece, address) is not { } found)
            return null;
        using var content = shelf.Open(found.Hash);
        using var all = new MemoryStream();
        content.CopyTo(all);
        return new Picture(found.Type, all.ToArray(), found.Credit);
    }

    private static List<SectionNumber>? Numbered(string? sections) =>
        string.IsNullOrWhiteSpace(sections)
            ? null
            :
            [
                .. sections
                    .Split(',', 1001)
                    .Select(s =>
                        SectionNumber.TryParse(s.Trim(), out var number)
                            ? number
                            : throw new BadInputException("sections", $"“{s}” is no number of a section; they are given as 3,5.")
                    ),
            ];

    private static string[]? Keys(string? keys) => keys?.Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
}
