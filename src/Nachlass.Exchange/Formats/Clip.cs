using System.Text.RegularExpressions;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
using SmartReader;

namespace Nachlass.Exchange.Formats;

/// <summary>A page as the reader's own browser sent it.</summary>
/// <param name="Address">Its address.</param>
/// <param name="Title">Its title.</param>
/// <param name="Selection">The words that were selected in it.</param>
/// <param name="Html">The whole page; without it only address, title and selection are kept.</param>
public sealed record ClippedPage(string? Address, string? Title = null, string? Selection = null, string? Html = null);

/// <summary>Makes a source of a clipped page: what is to be read on it, and the selected words as a passage. Nothing is fetched.</summary>
public static partial class Clip
{
    public const int LongestHtml = 8_000_000;

    /// <param name="whole">Takes all the words of the page, without looking for the part that is to be read.</param>
    /// <exception cref="BadInputException">The address is none of the web, or something is too long.</exception>
    public static FoundSource Read(ClippedPage page, DateOnly today, bool whole = false)
    {
        var address = Check.Text("address", page.Address, Source.LongestField);
        if (!Uri.TryCreate(address, UriKind.Absolute, out var uri) || uri.Scheme is not ("http" or "https"))
            throw new BadInputException("address", "Only pages of the web can be clipped.");
        // Where on the page the reader stood is not the page's address.
        address = uri.GetComponents(UriComponents.AbsoluteUri & ~UriComponents.Fragment, UriFormat.UriEscaped);
        var selection = Check.Length("selection", page.Selection, Slip.LongestText).Trim();
        var html = Check.Length("html", page.Html?.Replace("\0", "", StringComparison.Ordinal), LongestHtml);
        var article = whole || html.Length == 0 ? null : Article(uri, html);
        var title =
            article?.Title is { Length: > 0 } read ? read
            : page.Title is { Length: > 0 } said ? said
            : uri.Host + uri.AbsolutePath.TrimEnd('/');
        title = string.Join(' ', title.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
        return new FoundSource(title)
        {
            Type = SourceType.Page,
            Address = address,
            Creators = article?.Byline is { Length: > 0 and < 200 } by
                ? PersonName.Read(by.StartsWith("By ", StringComparison.OrdinalIgnoreCase) ? by[3..] : by).Sorted
                : "",
            Container = article?.SiteName ?? uri.Host,
            Date = article?.PublicationDate?.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture) ?? "",
            Language = article?.Language ?? "",
            Details = new Dictionary<string, string>
            {
                ["accessed"] = today.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture),
            },
            Text =
                // A short page, or one that is no article, is all that it says.
                article?.IsReadable == true
                    ? HtmlText.Markdown(article.Content)
                    : HtmlText.Markdown(html),
            // A page that was clipped as a whole waits in Sift by its name.
            Passages =
            [
                selection.Length > 0
                    ? new FoundSlip($"“{WordsAsMarkdown.Of(selection)}”") { Kind = SlipKind.Quote }
                    : new FoundSlip(WordsAsMarkdown.Of(title)) { Kind = title.EndsWith('?') ? SlipKind.Question : SlipKind.Note },
            ],
        };
    }

    private static Article Article(Uri address, string html)
    {
        // The reader follows no link and loads no picture; it only reads the text it is given.
        // Pages of old are one form from top to bottom, and a form is not what it looks for.
        using var reader = new Reader(address.ToString(), Form().Replace(HtmlDepth.Limited(html), ""));
        return reader.GetArticle();
    }

    [GeneratedRegex("</?form(?:\\s[^<>]*)?>", RegexOptions.IgnoreCase)]
    private static partial Regex Form();
}
