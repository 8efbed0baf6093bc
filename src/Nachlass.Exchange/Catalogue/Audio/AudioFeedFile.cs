using System.Globalization;
using System.Net;
using System.Text;
using System.Text.Json;
using System.Xml;
using System.Xml.Linq;
using Nachlass.Core.Catalogue.Audio;
using Nachlass.Exchange.Pieces;

namespace Nachlass.Exchange.Catalogue.Audio;

/// <summary>An audio feed to be written.</summary>
/// <param name="Title">What it is called.</param>
/// <param name="Home">The site it belongs to, with a slash at its end.</param>
/// <param name="Place">Where it lies on the site, with a slash at its end; everything of it lies there.</param>
/// <param name="Hub">The hub that is told when it grows; empty for none.</param>
/// <param name="Language">Of its episodes, as a BCP 47 tag.</param>
public sealed record AudioFeed(string Title, Uri Home, string Place, string Hub, string Language, IReadOnlyList<Episode> Episodes)
{
    public const string FeedName = "feed.xml",
        ChaptersEnding = ".chapters.json";

    /// <summary>Where the feed itself is, from the site's beginning.</summary>
    public string Path => Place + FeedName;

    public Uri Folder => new(Home, Place);
    public Uri Address => new(Home, Path);
}

/// <summary>Writes an audio feed: RSS 2.0 with an enclosure each; the text as HTML after the RSS content module; its own address and hub as
/// Atom links (WebSub, 4); chapters as a JSON file each, named by the <c>chapters</c> element that feeds of sound share.</summary>
public static class AudioFeedFile
{
    private static readonly XNamespace Atom = "http://www.w3.org/2005/Atom",
        Content = "http://purl.org/rss/1.0/modules/content/",
        Chaptered = "https://podcastindex.org/namespace/1.0";

    public static string Write(AudioFeed feed)
    {
        var channel = new XElement(
            "channel",
            new XElement("title", feed.Title),
            new XElement("link", feed.Home),
            new XElement("description", feed.Title),
            new XElement("language", feed.Language),
            new XElement(
                Atom + "link",
                new XAttribute("rel", "self"),
                new XAttribute("type", "application/rss+xml"),
                new XAttribute("href", feed.Address)
            )
        );
        if (feed.Hub.Length > 0)
            channel.Add(new XElement(Atom + "link", new XAttribute("rel", "hub"), new XAttribute("href", feed.Hub)));
        if (feed.Episodes.Count > 0)
            channel.Add(new XElement("lastBuildDate", Dated(feed.Episodes.Max(e => e.Recording.At))));
        foreach (var episode in feed.Episodes)
            channel.Add(Item(feed, episode));
        var whole = new XElement(
            "rss",
            new XAttribute("version", "2.0"),
            new XAttribute(XNamespace.Xmlns + "atom", Atom),
            new XAttribute(XNamespace.Xmlns + "content", Content),
            new XAttribute(XNamespace.Xmlns + "podcast", Chaptered),
            channel
        );
        using var made = new MemoryStream();
        using (
            var xml = XmlWriter.Create(
                made,
                new XmlWriterSettings
                {
                    Indent = true,
                    Encoding = new UTF8Encoding(false),
                    CheckCharacters = false,
                }
            )
        )
            whole.WriteTo(xml);
        return Encoding.UTF8.GetString(made.ToArray());
    }

    private static XElement Item(AudioFeed feed, Episode episode)
    {
        var sound = episode.Recording;
        var at = new Uri(feed.Folder, sound.File);
        var html = PictureOf(feed, episode) + FinishedPage.Of(episode.Text, _ => null).InnerHtml.Trim();
        var item = new XElement(
            "item",
            new XElement("title", Said(episode.Title)),
            new XElement("link", at),
            new XElement("guid", new XAttribute("isPermaLink", "false"), sound.Key),
            new XElement("pubDate", Dated(sound.At)),
            new XElement("description", Said(html)),
            new XElement(Content + "encoded", Said(html)),
            new XElement("enclosure", new XAttribute("url", at), new XAttribute("length", sound.Bytes), new XAttribute("type", sound.Type))
        );
        if (Chapters.In(episode.Text).Count > 0)
            item.Add(
                new XElement(
                    Chaptered + "chapters",
                    new XAttribute("url", new Uri(feed.Folder, sound.Key + AudioFeed.ChaptersEnding)),
                    new XAttribute("type", "application/json+chapters")
                )
            );
        return item;
    }

    /// <summary>Its own picture, above what is said beside it.</summary>
    private static string PictureOf(AudioFeed feed, Episode episode) =>
        episode.Picture is { } picture
            ? $"<p><img src=\"{new Uri(feed.Folder, episode.PictureFile)}\" alt=\"{WebUtility.HtmlEncode(picture.Shows)}\">"
                + (picture.Credit.Length > 0 ? $"<br>{WebUtility.HtmlEncode(picture.Credit)}</p>\n" : "</p>\n")
            : "";

    /// <summary>What XML can hold of a text (XML 1.0, 2.2).</summary>
    private static string Said(string text) =>
        text.All(c => XmlConvert.IsXmlChar(c) || char.IsSurrogate(c))
            ? text
            : string.Concat(text.Where(c => XmlConvert.IsXmlChar(c) || char.IsSurrogate(c)));

    /// <summary>As RFC 822 has it, which RSS 2.0 wants.</summary>
    private static string Dated(DateTimeOffset at) => at.ToUniversalTime().ToString("R", CultureInfo.InvariantCulture);

    /// <summary>The chapters of an episode, in the JSON form that players of feeds read: seconds and titles.</summary>
    public static string ChaptersOf(Episode episode) =>
        JsonSerializer.Serialize(
            new
            {
                version = "1.2.0",
                title = episode.Title,
                chapters = Chapters.In(episode.Text).Select(c => new { startTime = c.Ms / 1_000m, title = c.Title }),
            }
        );
}
