using System.IO.Compression;
using System.Net;
using System.Security.Cryptography;
using System.Text;
using AngleSharp;
using AngleSharp.Dom;
using AngleSharp.Xhtml;

namespace Nachlass.Exchange.Pieces;

/// <summary>A book to be written: one piece, or several in an order.</summary>
/// <param name="Language">Of its text, as a BCP 47 tag.</param>
/// <param name="Changed">When its text was changed last.</param>
public sealed record Book(string Title, string Language, DateTimeOffset Changed, IReadOnlyList<BookPart> Parts)
{
    public Picture? Cover { get; init; }
}

/// <summary>A piece in a book.</summary>
/// <param name="Markdown">Its finished text, the title first.</param>
/// <param name="Picture">Finds a picture by the address it has in the text.</param>
public sealed record BookPart(string Title, string Markdown, Func<string, Picture?> Picture);

/// <summary>Writes EPUB 3.3 (W3C): a file for each piece, its pictures, contents two deep, a cover.</summary>
public static class EpubFile
{
    private const string Style = """
        body { font-family: serif; line-height: 1.5; margin: 0 5%; }
        h1 { font-size: 1.6em; line-height: 1.2; } h2 { font-size: 1.25em; margin-top: 2em; } h3 { font-size: 1.1em; }
        h1, h2, h3, h4 { break-after: avoid; } p { orphans: 2; widows: 2; }
        blockquote { margin: 1.2em 1.5em; font-style: italic; }
        img { max-width: 100%; } table { border-collapse: collapse; } td, th { padding: .3em .8em .3em 0; text-align: left; }
        """;

    public static byte[] Write(Book book)
    {
        var files = new List<(string Name, string Type, byte[] Content, string Properties)>();
        var contents = new StringBuilder();
        var pictures = new Dictionary<string, string>();
        if (book.Cover is { } cover && Extension(cover.Type) is { } ending)
            files.Add(($"cover.{ending}", cover.Type, cover.Content, "cover-image"));
        for (var at = 0; at < book.Parts.Count; at++)
        {
            var name = $"part-{at + 1}.xhtml";
            var body = FinishedPage.Of(book.Parts[at].Markdown, address => Known(book.Parts[at].Picture(address)));
            foreach (var image in body.QuerySelectorAll("img"))
                image.SetAttribute("src", Put(Known(book.Parts[at].Picture(image.GetAttribute("src")!))!));
            foreach (var image in body.QuerySelectorAll("img:not([alt])"))
                image.SetAttribute("alt", "");
            var inside = new StringBuilder();
            foreach (var (heading, nth) in body.QuerySelectorAll("h2").Select((h, i) => (h, i + 1)))
            {
                heading.Id = $"s{nth}";
                inside.Append($"<li><a href=\"{name}#s{nth}\">{Escaped(heading.TextContent)}</a></li>\n");
            }
            contents.Append($"<li><a href=\"{name}\">{Escaped(book.Parts[at].Title)}</a>");
            contents.Append(inside.Length > 0 ? $"<ol>\n{inside}</ol></li>\n" : "</li>\n");
            files.Add((name, "application/xhtml+xml", Page(book, book.Parts[at].Title, string.Concat(body.ChildNodes.Select(Xhtml))), ""));
        }
        files.Add(
            (
                "nav.xhtml",
                "application/xhtml+xml",
                Page(book, "Contents", $"<nav epub:type=\"toc\" id=\"toc\"><h1>Contents</h1>\n<ol>\n{contents}</ol></nav>"),
                "nav"
            )
        );
        files.Add(("style.css", "text/css", Encoding.UTF8.GetBytes(Style), ""));
        return Zipped(book, files);

        string Put(Picture found)
        {
            var hash = Convert.ToHexStringLower(SHA256.HashData(found.Content))[..16];
            if (!pictures.TryGetValue(hash, out var place))
            {
                pictures[hash] = place = $"picture-{pictures.Count + 1}.{Extension(found.Type)}";
                files.Add((place, found.Type, found.Content, ""));
            }
            return place;
        }
    }

    /// <summary>A picture of a kind that every reader shows; others are what they are called.</summary>
    private static Picture? Known(Picture? picture) => picture is not null && Extension(picture.Type) is not null ? picture : null;

    private static string? Extension(string type) =>
        type switch
        {
            "image/png" => "png",
            "image/jpeg" => "jpg",
            "image/gif" => "gif",
            "image/webp" => "webp",
            _ => null,
        };

    private static string Xhtml(INode node) => node.ToHtml(XhtmlMarkupFormatter.Instance);

    private static string Escaped(string words) => WebUtility.HtmlEncode(words.Trim());

    private static byte[] Page(Book book, string title, string body) =>
        Encoding.UTF8.GetBytes(
            $"""
            <?xml version="1.0" encoding="utf-8"?>
            <!DOCTYPE html>
            <html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops"
              lang="{book.Language}" xml:lang="{book.Language}">
            <head><title>{Escaped(title)}</title><link rel="stylesheet" type="text/css" href="style.css"/></head>
            <body>
            {body}
            </body>
            </html>
            """
        );

    private static byte[] Zipped(Book book, IReadOnlyList<(string Name, string Type, byte[] Content, string Properties)> files)
    {
        var manifest = string.Concat(
            files.Select(
                (f, i) =>
                    $"<item id=\"f{i}\" href=\"{f.Name}\" media-type=\"{f.Type}\""
                    + (f.Properties.Length > 0 ? $" properties=\"{f.Properties}\"" : "")
                    + "/>\n"
            )
        );
        var spine = string.Concat(
            files.Select((f, i) => f.Name.StartsWith("part-", StringComparison.Ordinal) ? $"<itemref idref=\"f{i}\"/>\n" : "")
        );
        // The same text is the same book, on whichever machine it is written.
        var hash = SHA256.HashData(files.SelectMany(f => f.Content).ToArray());
        var package = $"""
            <?xml version="1.0" encoding="utf-8"?>
            <package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="id" xml:lang="{book.Language}">
            <metadata xmlns:dc="http://purl.org/dc/elements/1.1/">
            <dc:identifier id="id">urn:uuid:{new Guid(hash[..16])}</dc:identifier>
            <dc:title>{Escaped(book.Title)}</dc:title>
            <dc:language>{book.Language}</dc:language>
            <meta property="dcterms:modified">{book.Changed.UtcDateTime:yyyy-MM-dd'T'HH:mm:ss'Z'}</meta>
            </metadata>
            <manifest>
            {manifest}</manifest>
            <spine>
            {spine}</spine>
            </package>
            """;
        const string container = """
            <?xml version="1.0" encoding="utf-8"?>
            <container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container">
            <rootfiles><rootfile full-path="book/package.opf" media-type="application/oebps-package+xml"/></rootfiles>
            </container>
            """;
        using var made = new MemoryStream();
        using (var zip = new ZipArchive(made, ZipArchiveMode.Create, leaveOpen: true))
        {
            // By its first entry, which is not packed, a file is known for a book.
            Add("mimetype", Encoding.ASCII.GetBytes("application/epub+zip"), CompressionLevel.NoCompression);
            Add("META-INF/container.xml", Encoding.UTF8.GetBytes(container));
            Add("book/package.opf", Encoding.UTF8.GetBytes(package));
            foreach (var (name, _, content, _) in files)
                Add("book/" + name, content);

            void Add(string name, byte[] content, CompressionLevel level = CompressionLevel.Optimal)
            {
                var entry = zip.CreateEntry(name, level);
                entry.LastWriteTime = new DateTimeOffset(1980, 1, 1, 0, 0, 0, TimeSpan.Zero);
                using var into = entry.Open();
                into.Write(content);
            }
        }
        return made.ToArray();
    }
}
