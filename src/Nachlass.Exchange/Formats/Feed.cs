using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using AngleSharp.Html.Parser;
using MimeKit.Utils;
using Nachlass.Core.Capture;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;
using Nachlass.Exchange.Capture;
using Nachlass.Exchange.Papers;

namespace Nachlass.Exchange.Formats;

/// <summary>RSS 2.0, RSS 1.0 with its modules, and Atom (RFC 4287): each entry a slip that points to its page, with the page's text as
/// far as the feed gives it.</summary>
public sealed partial class Feed : IFormat
{
    private static readonly XNamespace Atom = "http://www.w3.org/2005/Atom";
    private static readonly XNamespace Rdf = "http://www.w3.org/1999/02/22-rdf-syntax-ns#";
    private static readonly XNamespace Rss1 = "http://purl.org/rss/1.0/";
    private static readonly XNamespace Content = "http://purl.org/rss/1.0/modules/content/";
    private static readonly XNamespace Dublin = "http://purl.org/dc/elements/1.1/";
    private static readonly XNamespace Terms = "http://purl.org/dc/terms/";

    /// <summary>A summary of more characters is the text of the page and not of the slip.</summary>
    private const int LongestAbout = 600;

    public string Key => "feed";
    public string Name => "Feed (RSS or Atom)";

    public bool Recognises(InFile file, string start) =>
        file.Extension is ".rss" or ".atom"
        || (start.Contains("<rss", StringComparison.OrdinalIgnoreCase) && start.Contains("<channel", StringComparison.OrdinalIgnoreCase))
        || start.Contains(Rss1.NamespaceName, StringComparison.Ordinal) && start.Contains(Rdf.NamespaceName, StringComparison.Ordinal)
        || start.Contains(Atom.NamespaceName, StringComparison.Ordinal) && !start.Contains("<opml", StringComparison.OrdinalIgnoreCase);

    public IEnumerable<Found> Read(InFile file, ReadAs how)
    {
        var root = Root(file);
        var isAtom = root.Name.Namespace == Atom;
        var channel = Channel(root);
        var entries = isAtom
            ? root.Name.LocalName == "entry"
                ? [root]
                : root.Elements(Atom + "entry")
            : root.Name.Namespace == Rdf
                ? root.Elements(Rss1 + "item")
                : channel!.Elements("item");
        var from = new Whole(
            isAtom ? AtomText(channel?.Element(Atom + "title"), isOneLine: true) : Title(channel),
            isAtom ? AtomAuthors(channel) : "",
            Word(isAtom ? null : channel?.Element("language") ?? channel?.Element(Dublin + "language")) is { Length: > 0 } language
                ? language
                : root.Attribute(XNamespace.Xml + "lang")?.Value ?? ""
        );
        var number = 0;
        foreach (var entry in entries)
            yield return isAtom ? OfAtom(entry, ++number, from) : OfRss(entry, ++number, from);
        if (number == 0 && channel is null)
            throw new UnreadableFileException(file.Name, "it is neither RSS nor Atom: there is no channel in it.");
    }

    /// <summary>The title of a feed.</summary>
    public static string TitleOf(InFile file)
    {
        var root = Root(file);
        return root.Name.Namespace == Atom ? AtomText(Channel(root)?.Element(Atom + "title"), isOneLine: true) : Title(Channel(root));
    }

    private static XElement Root(InFile file)
    {
        var root = XmlIn.Document(file).Root!;
        var isFeed =
            root.Name.Namespace == Atom && root.Name.LocalName is "feed" or "entry"
            || root.Name == Rdf + "RDF"
            || root.Name.LocalName == "rss" && Channel(root) is not null;
        return isFeed ? root : throw new UnreadableFileException(file.Name, "it is neither RSS nor Atom.");
    }

    private static XElement? Channel(XElement root) =>
        root.Name.Namespace == Atom
            ? root.Name.LocalName == "feed"
                ? root
                : root.Element(Atom + "source")
            : root.Name.Namespace == Rdf
                ? root.Element(Rss1 + "channel")
                : root.Element("channel");

    /// <summary>What the feed as a whole says, which holds for each entry that does not say it itself.</summary>
    internal sealed record Whole(string Title, string Authors, string Language);

    internal sealed record Entry(string Title, string About, string Text, string Address)
    {
        public string Authors { get; init; } = "";
        public DateTimeOffset? Date { get; init; }
        public IEnumerable<string> Topics { get; init; } = [];
    }

    private static Found OfRss(XElement item, int number, Whole feed)
    {
        var own = item.Name.Namespace;
        XElement? Own(string name) => item.Element(own + name) ?? item.Element(name);
        var about = HtmlText.Markdown(Word(Own("description")) is { Length: > 0 } said ? said : Word(item.Element(Dublin + "description")));
        var text = HtmlText.Markdown(Word(item.Element(Content + "encoded")));
        var link = Word(Own("link"));
        if (link.Length == 0 && Own("guid") is { } guid && guid.Attribute("isPermaLink")?.Value != "false")
            link = Word(guid);
        if (link.Length == 0)
            link = item.Elements(Atom + "link").FirstOrDefault(IsPage)?.Attribute("href")?.Value ?? "";
        var left = new LeftOut();
        foreach (var enclosure in item.Elements(own + "enclosure"))
            left.Add("the file", enclosure.Attribute("url")?.Value);
        var authors = item.Elements(Dublin + "creator").Select(Word).Where(n => n.Length > 0).ToList();
        return One(
            number,
            feed,
            new Entry(Title(item), about, text.Length > 0 ? text : about, Absolute(item, link))
            {
                Authors = authors.Count > 0 ? string.Join("; ", authors) : RssAuthor(Word(Own("author"))),
                Date = Date(Word(Own("pubDate")), Word(item.Element(Dublin + "date")), Word(item.Element(Terms + "created"))),
                Topics = item.Elements(own + "category").Concat(item.Elements(Dublin + "subject")).Select(Word),
            },
            Word(Own("guid")),
            left
        );
    }

    private static Found OfAtom(XElement entry, int number, Whole feed)
    {
        var content = entry.Element(Atom + "content");
        var text = AtomText(content);
        var about = AtomText(entry.Element(Atom + "summary"));
        var links = entry.Elements(Atom + "link").ToList();
        var left = new LeftOut();
        if (content?.Attribute("src")?.Value is { } elsewhere)
            left.Add("the text, which stands at", elsewhere);
        foreach (var link in links.Where(l => l.Attribute("rel")?.Value is "enclosure"))
            left.Add("the file", link.Attribute("href")?.Value);
        var page = links.FirstOrDefault(IsPage) is { } found ? Absolute(found, found.Attribute("href")?.Value ?? "") : "";
        // RFC 4287, 4.2.1: an entry without authors has those of its source, or else of the feed.
        var authors = AtomAuthors(entry) is { Length: > 0 } own ? own : AtomAuthors(entry.Element(Atom + "source"));
        return One(
            number,
            feed,
            new Entry(AtomText(entry.Element(Atom + "title"), isOneLine: true), about, text.Length > 0 ? text : about, page)
            {
                Authors = authors,
                Date = Date(Word(entry.Element(Atom + "published")), Word(entry.Element(Atom + "updated"))),
                Topics = entry.Elements(Atom + "category").Select(c => (c.Attribute("label") ?? c.Attribute("term"))?.Value.Trim() ?? ""),
            },
            Word(entry.Element(Atom + "id")),
            left
        );
    }

    internal static Found One(int number, Whole feed, Entry entry, string id, LeftOut left)
    {
        var (title, about) = (entry.Title, entry.About);
        if (title.Length == 0 && entry.Text.Length == 0)
            return new Found.Unread(number, $"entry {number} has neither a title nor a text.", id);
        if (title.Length == 0)
            title = PlainText.Headline(entry.Text);
        var words = WordsAsMarkdown.Of(title);
        var isAbout = about.Length is > 0 and <= LongestAbout && about != words;
        return new Found.OfSlip(
            number,
            new FoundSlip(isAbout ? $"{words}\n\n{about}" : words)
            {
                Kind = title.EndsWith('?') ? SlipKind.Question : SlipKind.Note,
                Topics = [.. entry.Topics.Where(t => t.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase)],
                CaughtAt = entry.Date,
                Source = new FoundSource(title)
                {
                    Type = SourceType.Page,
                    Address = entry.Address,
                    Container = feed.Title,
                    Creators = entry.Authors.Length > 0 ? entry.Authors : feed.Authors,
                    Language = feed.Language,
                    Date = entry.Date?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) ?? "",
                    // The summary would be gone when the slip does not hold it and the text is another.
                    Summary = !isAbout && about.Length > 0 && about != entry.Text && about != words ? about : "",
                    Text = entry.Text,
                },
            }
        )
        {
            Doubt = left.Said,
        };
    }

    private static bool IsPage(XElement link) => link.Attribute("rel")?.Value is null or "alternate";

    private static string Title(XElement? of) =>
        of is null ? "" : RssWords(Word(of.Element(of.Name.Namespace + "title") ?? of.Element(Dublin + "title")));

    /// <summary>An Atom text construct (RFC 4287, 3.1 and 4.1.3.3): words, HTML as words, or XHTML as elements.</summary>
    private static string AtomText(XElement? construct, bool isOneLine = false)
    {
        if (construct is null)
            return "";
        var type = construct.Attribute("type")?.Value.Trim().ToLowerInvariant() ?? "text";
        var html = type switch
        {
            "html" or "text/html" => construct.Value,
            "xhtml" or "application/xhtml+xml" => string.Concat(
                construct.Nodes().Select(n => Html(n).ToString(SaveOptions.DisableFormatting))
            ),
            _ => null,
        };
        if (isOneLine)
            return html is null ? Spaced(construct.Value) : Words(html);
        return html is not null ? HtmlText.Markdown(html) : WordsAsMarkdown.Of(construct.Value.ReplaceLineEndings("\n").Trim());
    }

    /// <summary>Elements as HTML, whatever prefix they have.</summary>
    private static XNode Html(XNode node) =>
        node is not XElement element
            ? node
            : new XElement(
                element.Name.LocalName,
                element.Attributes().Where(a => !a.IsNamespaceDeclaration && a.Name.Namespace == XNamespace.None),
                element.Nodes().Select(Html)
            );

    private static string AtomAuthors(XElement? of) =>
        of is null
            ? ""
            : string.Join(
                "; ",
                of.Elements(Atom + "author")
                    .Select(a => Word(a.Element(Atom + "name")) is { Length: > 0 } name ? name : Word(a.Element(Atom + "email")))
                    .Where(name => name.Length > 0)
            );

    /// <summary>RSS 2.0 asks for an address with the name behind it in brackets.</summary>
    private static string RssAuthor(string author) =>
        author.Contains('@', StringComparison.Ordinal)
        && author.IndexOf('(', StringComparison.Ordinal) is var open and > 0
        && author.EndsWith(')')
            ? author[(open + 1)..^1].Trim()
            : author;

    /// <summary>An address as it is meant where it stands (XML Base); empty when it is none of the web.</summary>
    private static string Absolute(XElement at, string address)
    {
        if (address.Length == 0)
            return "";
        var bases = at.AncestorsAndSelf().Select(e => e.Attribute(XNamespace.Xml + "base")?.Value).OfType<string>().Reverse();
        Uri? from = null;
        foreach (var one in bases)
            from = Uri.TryCreate(from, one, out var next) || Uri.TryCreate(one, UriKind.Absolute, out next) ? next : from;
        var isWhole = Uri.TryCreate(address, UriKind.Absolute, out var uri) && !address.StartsWith('/');
        if (!isWhole && (from is null || !Uri.TryCreate(from, address, out uri)))
            return "";
        return uri!.Scheme is "http" or "https"
            ? isWhole
                ? address
                : uri.AbsoluteUri
            : "";
    }

    /// <summary>The first that is a date, of RFC 5322 or ISO 8601.</summary>
    private static DateTimeOffset? Date(params string[] written)
    {
        foreach (var date in written.Where(d => d.Length > 0))
            if (
                DateTimeOffset.TryParse(date, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var read)
                || DateUtils.TryParse(date, out read)
            )
                if (read.Year > 1900)
                    return read;
        return null;
    }

    private static string Word(XElement? element) => element?.Value.Trim() ?? "";

    private static string Spaced(string words) => string.Join(' ', words.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));

    /// <summary>The words of a title in HTML.</summary>
    private static string Words(string html) => Spaced(new HtmlParser().ParseDocument(HtmlDepth.Limited(html)).Body?.TextContent ?? "");

    /// <summary>RSS does not say whether a title is words or HTML: what looks like a mark of letters is one, all other words
    /// stay.</summary>
    private static string RssWords(string title) => Spaced(WebUtility.HtmlDecode(Mark().Replace(title, "")));

    [GeneratedRegex("</?(?:a|abbr|b|br|cite|code|em|i|p|q|s|small|span|strong|sub|sup|u)(?:\\s[^<>]*)?/?>", RegexOptions.IgnoreCase)]
    private static partial Regex Mark();
}
