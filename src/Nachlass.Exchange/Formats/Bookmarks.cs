using System.Globalization;
using System.Text;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Exchange.Capture;

namespace Nachlass.Exchange.Formats;

/// <summary>Bookmarks as browsers write them (the Netscape bookmark file): each a source, its innermost folder a topic.</summary>
public sealed class Bookmarks : IFormat
{
    public string Key => "bookmarks";
    public string Name => "Browser bookmarks";

    public bool Recognises(InFile file, string start) => start.Contains("NETSCAPE-Bookmark-file", StringComparison.OrdinalIgnoreCase);

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        var document = new HtmlParser(new HtmlParserOptions { IsKeepingSourceReferences = true }).ParseDocument(
            HtmlDepth.Limited(TextIn.Whole(file))
        );
        foreach (var link in document.QuerySelectorAll("dt > a, p > a, dl > a"))
        {
            var line = link.SourceReference?.Position.Line ?? 0;
            var (title, address) = (link.TextContent.Trim(), link.GetAttribute("href") ?? "");
            if (!Uri.TryCreate(address, UriKind.Absolute, out var uri) || uri.Scheme is not ("http" or "https"))
            {
                yield return new Found.Unread(line, $"its address, “{address}”, is none of the web.", link.OuterHtml);
                continue;
            }
            var tags = ColumnMapping.Topics(link.GetAttribute("tags") ?? "");
            yield return new Found.OfSource(
                line,
                new FoundSource(title.Length > 0 ? title : address)
                {
                    Type = SourceType.Page,
                    Address = address,
                    Topics = [.. FolderOf(link).Concat(tags).Distinct(StringComparer.OrdinalIgnoreCase)],
                    Comments = Note(link),
                    Details =
                        long.TryParse(link.GetAttribute("add_date"), NumberStyles.None, CultureInfo.InvariantCulture, out var seconds)
                        && seconds is > 0 and < 253_402_300_800
                            ? new Dictionary<string, string>
                            {
                                ["accessed"] = DateTimeOffset
                                    .FromUnixTimeSeconds(seconds)
                                    .ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                            }
                            : [],
                }
            );
        }
    }

    private static readonly string[] NoTopics =
    [
        "bookmarks",
        "bookmarks bar",
        "bookmarks toolbar",
        "bookmarks menu",
        "other bookmarks",
        "mobile bookmarks",
        "favourites",
        "favorites",
        "sources",
    ];

    private static IEnumerable<string> FolderOf(IElement link)
    {
        var list = link.Closest("dl");
        var heading = list?.ParentElement?.Children.FirstOrDefault(c => c.LocalName == "h3") ?? Before(list);
        return heading?.TextContent.Trim() is { Length: > 0 } name && !NoTopics.Contains(name.ToLowerInvariant()) ? [name] : [];
    }

    private static IElement? Before(IElement? list)
    {
        for (var at = list?.PreviousElementSibling; at is not null; at = at.PreviousElementSibling)
            if (at.LocalName == "h3")
                return at;
            else if (at.QuerySelector("h3") is { } inside)
                return inside;
        return null;
    }

    private static string Note(IElement link)
    {
        var next = link.ParentElement?.NextElementSibling;
        return next is { LocalName: "dd" } ? next.ChildNodes.OfType<IText>().FirstOrDefault()?.Data.Trim() ?? "" : "";
    }

    /// <summary>Writes the sources that have a web address, those of one first topic in a folder.</summary>
    public static string Write(IEnumerable<Source> sources)
    {
        var text = new StringBuilder(
            "<!DOCTYPE NETSCAPE-Bookmark-file-1>\n<META HTTP-EQUIV=\"Content-Type\" CONTENT=\"text/html; "
                + "charset=UTF-8\">\n<TITLE>Sources</TITLE>\n<H1>Sources</H1>\n<DL><p>\n"
        );
        foreach (
            var group in sources
                .Where(s => s.Address.StartsWith("http", StringComparison.OrdinalIgnoreCase))
                .GroupBy(s => s.Topics.Count > 0 ? s.Topics[0].Name : "")
                .OrderBy(g => g.Key, StringComparer.Ordinal)
        )
        {
            if (group.Key.Length > 0)
                text.Append($"    <DT><H3>{Escape(group.Key)}</H3>\n    <DL><p>\n");
            foreach (var source in group)
            {
                var added =
                    source.Details.TryGetValue("accessed", out var seen)
                    && DateTimeOffset.TryParseExact(
                        seen,
                        "yyyy-MM-dd",
                        CultureInfo.InvariantCulture,
                        DateTimeStyles.AssumeUniversal,
                        out var day
                    )
                        ? $" ADD_DATE=\"{day.ToUnixTimeSeconds()}\""
                        : "";
                var tags =
                    source.Topics.Count > 1 ? $" TAGS=\"{Escape(string.Join(',', source.Topics.Skip(1).Select(t => t.Name)))}\"" : "";
                text.Append($"        <DT><A HREF=\"{Escape(source.Address)}\"{added}{tags}>{Escape(source.Title)}</A>\n");
                if (source.Comments.Length > 0)
                    text.Append($"        <DD>{Escape(source.Comments)}\n");
            }
            if (group.Key.Length > 0)
                text.Append("    </DL><p>\n");
        }
        return text.Append("</DL><p>\n").ToString();
    }

    private static string Escape(string text) => System.Net.WebUtility.HtmlEncode(text);
}
