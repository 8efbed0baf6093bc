using System.Globalization;
using System.ServiceModel.Syndication;
using System.Xml;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Formats;

/// <summary>RSS 2.0 and Atom (RFC 4287): each entry a slip that points to its page, with the page's text as far as the feed gives
/// it.</summary>
public sealed class Feed : IFormat
{
    public string Key => "feed";
    public string Name => "Feed (RSS or Atom)";

    public bool Recognises(InFile file, string start) =>
        file.Extension is ".rss" or ".atom"
        || (start.Contains("<rss", StringComparison.OrdinalIgnoreCase) && start.Contains("<channel", StringComparison.OrdinalIgnoreCase))
        || start.Contains("http://www.w3.org/2005/Atom", StringComparison.Ordinal)
            && start.Contains("<feed", StringComparison.OrdinalIgnoreCase);

    public IEnumerable<Found> Read(InFile file, ReadAs how) =>
        XmlIn.Read(
            file,
            xml =>
            {
                try
                {
                    return Entries(SyndicationFeed.Load(xml)).ToList();
                }
                catch (Exception error)
                    when (error
                            is not XmlException
                                and (FormatException or NotSupportedException or InvalidOperationException or ArgumentException)
                    )
                {
                    throw new UnreadableFileException(file.Name, $"it is neither RSS 2.0 nor Atom ({error.Message.Split('\n')[0]})");
                }
            }
        );

    /// <summary>The title of a feed.</summary>
    public static string TitleOf(InFile file) => XmlIn.Read(file, xml => SyndicationFeed.Load(xml).Title?.Text.Trim() ?? "");

    private static IEnumerable<Found> Entries(SyndicationFeed feed)
    {
        var from = feed.Title?.Text.Trim() ?? "";
        var number = 0;
        foreach (var entry in feed.Items)
        {
            number++;
            var title = Plain(entry.Title?.Text ?? "");
            var address = entry.Links.FirstOrDefault(l => l.RelationshipType is null or "alternate")?.GetAbsoluteUri()?.ToString() ?? "";
            var html = (entry.Content as TextSyndicationContent)?.Text ?? entry.Summary?.Text ?? "";
            var text = HtmlText.Markdown(html);
            if (title.Length == 0 && text.Length == 0)
            {
                yield return new Found.Unread(number, $"entry {number} has neither a title nor a text.", entry.Id ?? "");
                continue;
            }
            if (title.Length == 0)
                title = PlainText.Headline(text);
            var date = Date(entry);
            var about = Plain(entry.Summary is null ? "" : HtmlText.Markdown(entry.Summary.Text));
            yield return new Found.OfSlip(
                number,
                new FoundSlip(about.Length > 0 && about.Length <= 600 && about != title ? $"{title}\n\n{about}" : title)
                {
                    Kind = title.EndsWith('?') ? SlipKind.Question : SlipKind.Note,
                    Topics =
                    [
                        .. entry
                            .Categories.Select(c => c.Label ?? c.Name)
                            .Where(c => c is { Length: > 0 })
                            .Distinct(StringComparer.OrdinalIgnoreCase),
                    ],
                    CaughtAt = date,
                    Source = new FoundSource(title)
                    {
                        Type = SourceType.Page,
                        Address = address.StartsWith("http", StringComparison.OrdinalIgnoreCase) ? address : "",
                        Container = from,
                        Creators = string.Join("; ", entry.Authors.Select(a => a.Name ?? a.Email).Where(a => a is { Length: > 0 })),
                        Date = date?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) ?? "",
                        Text = text,
                    },
                }
            );
        }
    }

    private static DateTimeOffset? Date(SyndicationItem entry)
    {
        // What a feed says of its dates is read only here, and may be nonsense.
        try
        {
            if (entry.PublishDate.Year > 1900)
                return entry.PublishDate;
            if (entry.LastUpdatedTime.Year > 1900)
                return entry.LastUpdatedTime;
        }
        catch (XmlException) { }
        return null;
    }

    private static string Plain(string text) =>
        string.Join(' ', System.Net.WebUtility.HtmlDecode(text).Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
}

internal static class LinkAddresses
{
    public static Uri? GetAbsoluteUri(this SyndicationLink link) =>
        link.Uri is { IsAbsoluteUri: true } uri ? uri
        : link.BaseUri is { } at && link.Uri is { } relative ? new Uri(at, relative)
        : null;
}
