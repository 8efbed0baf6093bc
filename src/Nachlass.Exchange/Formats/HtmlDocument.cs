using AngleSharp.Html.Parser;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
using Nachlass.Exchange.Capture;

namespace Nachlass.Exchange.Formats;

/// <summary>A page or document in HTML: a source with its text, or a piece.</summary>
public sealed class HtmlDocument : IFormat
{
    public string Key => "html";
    public string Name => "Page (HTML)";
    public IReadOnlyList<DocumentsAs> Choices => [DocumentsAs.Source, DocumentsAs.Piece, DocumentsAs.Slip];

    public bool Recognises(InFile file, string start) =>
        file.Extension is ".html" or ".htm" or ".xhtml"
        || (
            file.Extension is ""
            && (
                start.StartsWith("<!doctype html", StringComparison.OrdinalIgnoreCase)
                || start.StartsWith("<html", StringComparison.OrdinalIgnoreCase)
            )
        );

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        var document = new HtmlParser().ParseDocument(HtmlDepth.Limited(TextIn.Whole(file)));
        var title =
            document.QuerySelector("h1")?.TextContent.Trim() is { Length: > 0 } heading ? heading
            : document.Title is { Length: > 0 } named ? named.Trim()
            : file.Title;
        string Meta(string name) => document.QuerySelector($"meta[name='{name}' i]")?.GetAttribute("content")?.Trim() ?? "";
        return Documents.As(
            how.Documents ?? DocumentsAs.Source,
            string.Join(' ', title.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)),
            HtmlText.Markdown(document),
            new FoundSource(title)
            {
                Type = SourceType.Page,
                Creators = Meta("author"),
                Date = Meta("date"),
                Language = document.DocumentElement.GetAttribute("lang") ?? "",
                Topics = ColumnMapping.Topics(Meta("keywords")),
            }
        );
    }
}

/// <summary>What a whole document becomes.</summary>
internal static class Documents
{
    public static IEnumerable<Found> As(DocumentsAs how, string title, string markdown, FoundSource source, string? doubt = null)
    {
        if (markdown.Length == 0)
            return [new Found.Unread(0, "there is no text in it.", title)];
        // The title is a field of its own; it does not stand in the text a second time.
        var first = markdown.Split('\n', 2)[0];
        var body = first == "# " + title || first == "# " + WordsAsMarkdown.Of(title) ? markdown[first.Length..].Trim() : markdown;
        if (how == DocumentsAs.Source && body.Length > Source.LongestWords)
            doubt = $"only its first {Source.LongestWords:N0} characters come in. {doubt}".Trim();
        return how switch
        {
            DocumentsAs.Piece => [new Found.OfPiece(0, title, body) { Doubt = doubt }],
            DocumentsAs.Slip when markdown.Length <= Slip.LongestText =>
            [
                new Found.OfSlip(0, new FoundSlip(markdown) { Kind = SlipKind.Note }) { Doubt = doubt },
            ],
            DocumentsAs.Slip =>
            [
                new Found.Unread(0, $"it is longer than {Slip.LongestText:N0} characters; bring it in as a source.", title),
            ],
            _ =>
            [
                new Found.OfSource(
                    0,
                    source with
                    {
                        Title = title,
                        Text = body.Length > Source.LongestWords ? body[..Source.LongestWords] : body,
                    }
                )
                {
                    Doubt = doubt,
                },
            ],
        };
    }
}
