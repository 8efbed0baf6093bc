using System.Globalization;
using System.Net;
using System.ServiceModel.Syndication;
using System.Text;
using System.Xml;
using System.Xml.Linq;
using AngleSharp.Dom;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue.Pages;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Exchange.Catalogue.Audio;
using Nachlass.Exchange.Pieces;

namespace Nachlass.Exchange.Catalogue.Pages;

/// <summary>The writer's own site.</summary>
/// <param name="Name">What it calls itself.</param>
/// <param name="Address">Where it begins, with a slash at its end.</param>
/// <param name="HasFonts">Whether its fonts lie under <c>fonts/</c>.</param>
public sealed record Site(string Name, Uri Address, bool HasFonts)
{
    /// <summary>The whole address of a page.</summary>
    public Uri AddressOf(Page page) => new(Address, $"{page.Slug}/");
}

/// <summary>A page to be written.</summary>
/// <param name="Language">Of its text, as a BCP 47 tag.</param>
/// <param name="Updated">When its text was changed last.</param>
/// <param name="Comments">Those that are shown.</param>
/// <param name="Pictures">The sizes of a picture by the piece it stands in and its address there, with whose it is; null when it is none
/// of these papers.</param>
public sealed record PageText(
    Page Page,
    string Language,
    IReadOnlyList<PagePart> Parts,
    DateTimeOffset Updated,
    IReadOnlyList<PageComment> Comments,
    Func<PieceNumber, string, (IReadOnlyList<SizedPicture> Sizes, string Credit)?> Pictures
);

/// <summary>The form for comments under a page.</summary>
/// <param name="Mark">When it was fetched, sealed.</param>
/// <param name="Said">What is to be said to who sent it; empty for nothing.</param>
public sealed record CommentForm(string Mark, string Said = "", string Person = "", string Text = "");

/// <summary>Writes the pages of the site and what stands beside them. Every link within it is relative, so that the same files work behind
/// any address.</summary>
public static partial class SiteFiles
{
    private const int LongestDescription = 200,
        FewestForContents = 3,
        LongContents = 10;

    /// <summary>Widths that the text has on screens, for browsers that choose a size.</summary>
    private const string SizesAttribute = "(max-width: 42rem) 92vw, 38rem";

    /// <summary>A page.</summary>
    /// <param name="form">Null where no comments are taken.</param>
    public static string Page(Site site, PageText text, CommentForm? form)
    {
        var page = text.Page;
        var bodies = text.Parts.Select(part => Body(text, part, text.Page.Series is not null)).ToList();
        var first = bodies.SelectMany(b => b.QuerySelectorAll("img")).FirstOrDefault()?.GetAttribute("src");
        var all = string.Join(' ', text.Parts.Select(p => p.Text));
        var description = page.Summary.Length > 0 ? page.Summary : Beginning(all);
        var address = site.AddressOf(page);
        var head = new StringBuilder()
            .Append(Meta("description", description))
            .Append($"<link rel=\"canonical\" href=\"{Escaped(address.ToString())}\">\n")
            .Append(Property("og:type", "article"))
            .Append(Property("og:title", page.Title))
            .Append(Property("og:description", description))
            .Append(Property("og:url", address.ToString()))
            .Append(Property("og:site_name", site.Name))
            .Append(Property("article:published_time", page.PutUpAt.ToString("yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture)))
            .Append(Property("article:modified_time", text.Updated.ToString("yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture)));
        // Where others can tell that they mention it; not among files, which nobody answers for.
        if (form is not null)
            head.Append("<link rel=\"webmention\" href=\"/mentions\">\n");
        if (first is not null)
            head.Append(Property("og:image", new Uri(address, first).ToString()));
        if (!page.IsOpenlyListed)
            head.Append(Meta("robots", "noindex"));
        var article = new StringBuilder($"<article>\n<header>\n<h1>{Escaped(page.Title)}</h1>\n");
        if (page.Summary.Length > 0)
            article.Append($"<p class=\"summary\">{Escaped(page.Summary)}</p>\n");
        article.Append($"<p class=\"date\" lang=\"en\">{Dated(page, text.Updated)} · {Minutes(all)}</p>\n</header>\n");
        var headings = bodies
            .SelectMany(b => b.QuerySelectorAll(page.Series is null ? "h2, h3" : "h2"))
            .Where(h => h.Id is { Length: > 0 })
            .ToList();
        if (headings.Count >= FewestForContents)
            article.Append(Contents(headings));
        foreach (var body in bodies)
            article.Append(body.InnerHtml.Trim()).Append('\n');
        article.Append("</article>\n");
        return Whole(site, page.Title, text.Language, head.ToString(), $"{article}{CommentsPart(text.Comments, form)}", "../");
    }

    /// <summary>A text as it stands on its page: pictures in sizes, links within the site relative, headings one lower in a
    /// series.</summary>
    private static IElement Body(PageText text, PagePart part, bool inSeries)
    {
        var body = FinishedPage.Of(
            part.Text,
            address => text.Pictures(part.Piece, address) is { Sizes.Count: > 0 } known ? new Picture("", [], known.Credit) : null
        );
        foreach (var image in body.QuerySelectorAll("img"))
        {
            var sizes = text.Pictures(part.Piece, image.GetAttribute("src")!)!.Value.Sizes;
            var shown = sizes.FirstOrDefault(s => s.Width >= 960) ?? sizes[^1];
            image.SetAttribute("src", $"pictures/{shown.File}");
            if (sizes.Count > 1)
            {
                image.SetAttribute("srcset", string.Join(", ", sizes.Select(s => $"pictures/{s.File} {s.Width}w")));
                image.SetAttribute("sizes", SizesAttribute);
            }
            image.SetAttribute("width", shown.Width.ToString(CultureInfo.InvariantCulture));
            image.SetAttribute("height", shown.Height.ToString(CultureInfo.InvariantCulture));
            image.SetAttribute("loading", "lazy");
            if (!image.HasAttribute("alt"))
                image.SetAttribute("alt", "");
        }
        foreach (var link in body.QuerySelectorAll("a[href^='/']"))
            link.SetAttribute("href", ".." + link.GetAttribute("href"));
        if (inSeries)
        {
            // Footnotes and headings of one piece must not be those of another.
            foreach (var named in body.QuerySelectorAll("[id]"))
                named.Id = $"p{part.Piece}-{named.Id}";
            foreach (var link in body.QuerySelectorAll("a[href^='#']"))
                if (!link.GetAttribute("href")!.StartsWith("#piece-", StringComparison.Ordinal))
                    link.SetAttribute("href", $"#p{part.Piece}-{link.GetAttribute("href")![1..]}");
            foreach (var level in (int[])[5, 4, 3, 2, 1])
            foreach (var heading in body.QuerySelectorAll($"h{level}").ToList())
            {
                var lower = body.Owner!.CreateElement($"h{level + 1}");
                foreach (var attribute in heading.Attributes)
                    lower.SetAttribute(attribute.Name, attribute.Value);
                lower.Append([.. heading.ChildNodes]);
                heading.Replace(lower);
            }
            var title = body.Owner!.CreateElement("h2");
            title.Id = $"piece-{part.Piece}";
            title.TextContent = part.Title;
            body.Prepend(title);
        }
        var known = body.QuerySelectorAll("[id]").Select(e => e.Id!).ToHashSet();
        foreach (var heading in body.QuerySelectorAll("h2, h3").Where(h => string.IsNullOrEmpty(h.Id)))
            heading.Id = PageAddress.Free("s-" + PieceFile.Name(heading.TextContent), id => !known.Add(id));
        return body;
    }

    private static string Contents(List<IElement> headings)
    {
        var list = new StringBuilder("<nav aria-labelledby=\"contents\" lang=\"en\">\n<h2 id=\"contents\">Contents</h2>\n").Append(
            headings.Count > LongContents ? "<ol class=\"long\">\n" : "<ol>\n"
        );
        foreach (var heading in headings)
            list.Append(
                $"<li class=\"{heading.LocalName}\"><a href=\"#{Escaped(heading.Id!)}\">{Escaped(heading.TextContent.Trim())}</a></li>\n"
            );
        return list.Append("</ol>\n</nav>\n").ToString();
    }

    private static string CommentsPart(IReadOnlyList<PageComment> comments, CommentForm? form)
    {
        if (comments.Count == 0 && form is null)
            return "";
        var part = new StringBuilder("<section id=\"comments\" aria-labelledby=\"comments-title\" lang=\"en\">\n");
        part.Append($"<h2 id=\"comments-title\">{(comments.Count == 0 ? "Comments" : $"Comments ({comments.Count})")}</h2>\n");
        foreach (var comment in comments)
            part.Append(
                    $"<article class=\"comment\" id=\"comment-{comment.Number}\">\n<p class=\"who\"><b>{Escaped(comment.Person)}</b> "
                        + $"<span class=\"date\">{Day(comment.At)}</span></p>\n"
                )
                .Append(
                    string.Concat(
                        comment.Text.Split("\n\n").Select(p => $"<p>{Escaped(p).Replace("\n", "<br>\n", StringComparison.Ordinal)}</p>\n")
                    )
                )
                .Append(
                    comment.Source.Length == 0
                        ? ""
                        : $"<p><a href=\"{Escaped(comment.Source)}\" rel=\"nofollow ugc\">{Escaped(new Uri(comment.Source).Host)}</a></p>\n"
                )
                .Append("</article>\n");
        if (form is not null)
            part.Append(
                $"""
                <form method="post" action="comments#comments">
                {(form.Said.Length > 0 ? $"<p class=\"said\" role=\"status\">{Escaped(form.Said)}</p>" : "")}
                <p><label for="name">Your name</label>
                <input id="name" name="name" required maxlength="{CommentRules.LongestPerson}" autocomplete="name" value="{Escaped(
                    form.Person
                )}"></p>
                <p class="trap" aria-hidden="true"><label for="website">Leave this empty</label>
                <input id="website" name="website" tabindex="-1" autocomplete="off"></p>
                <p><label for="comment">Your comment</label>
                <textarea id="comment" name="comment" rows="6" required maxlength="{CommentRules.LongestText}">{"\n"
                    + Escaped(form.Text)}</textarea></p>
                <input type="hidden" name="mark" value="{Escaped(form.Mark)}">
                <p><button type="submit">Send it</button> 
                <span class="hint">It is read before it is shown. No address is asked for or kept.</span></p>
                </form>

                """
            );
        return part.Append("</section>\n").ToString();
    }

    /// <summary>The page that asks for a passphrase; it tells nothing of what is behind it.</summary>
    public static string Closed(Site site, bool wasWrong, bool canBeOpened) =>
        Whole(
            site,
            "A closed page",
            "en",
            Meta("robots", "noindex"),
            "<article>\n<header><h1>This page is closed</h1></header>\n"
                + (
                    canBeOpened
                        ? "<form method=\"post\" action=\"open\">\n"
                            + (wasWrong ? "<p class=\"said\" role=\"alert\">That is not its passphrase.</p>\n" : "")
                            + "<p><label for=\"passphrase\">Its passphrase</label>\n<input id=\"passphrase\" name=\"passphrase\" "
                            + "type=\"password\" required autocomplete=\"off\"></p>\n"
                            + "<p><button type=\"submit\">Read it</button></p>\n</form>\n"
                        : "<p>Nobody can read it at present.</p>\n"
                )
                + "</article>\n",
            "../"
        );

    /// <summary>A question with one answer.</summary>
    /// <param name="press">The answer; empty where there is nothing to be answered.</param>
    public static string Question(Site site, string title, string words, string press) =>
        Whole(
            site,
            title,
            "en",
            Meta("robots", "noindex"),
            $"<article>\n<header><h1>{Escaped(title)}</h1></header>\n<p>{Escaped(words)}</p>\n"
                + (press.Length == 0 ? "" : $"<form method=\"post\">\n<p><button type=\"submit\">{Escaped(press)}</button></p>\n</form>\n")
                + "</article>\n",
            "../"
        );

    /// <summary>What is said where there is no page to be shown.</summary>
    public static string Notice(Site site, string title, string words) =>
        Whole(
            site,
            title,
            "en",
            Meta("robots", "noindex"),
            $"<article>\n<header><h1>{Escaped(title)}</h1></header>\n<p>{Escaped(words)}</p>\n</article>\n",
            // It is said at any depth of address.
            site.Address.AbsolutePath
        );

    /// <summary>The list of the pages that everybody may come upon, the latest first.</summary>
    /// <param name="letters">Where letters that went out can be read, from the site's beginning, with what they are called.</param>
    public static string List(
        Site site,
        IReadOnlyList<PageText> pages,
        IReadOnlyList<AudioFeed>? feeds = null,
        IReadOnlyList<(string Path, string Name)>? letters = null
    )
    {
        var list = new StringBuilder($"<header><h1>{Escaped(site.Name)}</h1></header>\n");
        if (pages.Count == 0)
            list.Append("<p>Nothing is to be read here yet.</p>\n");
        else
        {
            list.Append("<ol class=\"pages\">\n");
            foreach (var text in pages)
                list.Append(
                    $"<li><h2 lang=\"{Escaped(text.Language)}\"><a href=\"{text.Page.Slug}/\">{Escaped(text.Page.Title)}</a></h2>\n"
                        + $"<p lang=\"{Escaped(text.Language)}\">{Escaped(Announced(text))}</p>\n"
                        + $"<p class=\"date\">{Day(text.Page.PutUpAt)}</p></li>\n"
                );
            list.Append("</ol>\n");
        }
        var head = new StringBuilder($"<link rel=\"canonical\" href=\"{Escaped(site.Address.ToString())}\">\n").Append(
            Property("og:title", site.Name)
        );
        foreach (var (path, name) in letters ?? [])
            list.Append($"<p>By mail: <a href=\"{Escaped(path)}\">{Escaped(name)}</a>, with the letters that went out.</p>\n");
        foreach (var feed in feeds ?? [])
        {
            var at = Escaped(feed.Path);
            head.Append($"<link rel=\"alternate\" type=\"application/rss+xml\" title=\"{Escaped(feed.Title)}\" href=\"{at}\">\n");
            list.Append($"<p>To listen to: <a href=\"{at}\">{Escaped(feed.Title)}</a>, a feed for audio players.</p>\n");
        }
        return Whole(site, site.Name, "en", head.ToString(), list.ToString(), "", isList: true);
    }

    /// <summary>The feed (Atom, RFC 4287) of the same pages.</summary>
    public static string Feed(Site site, IReadOnlyList<PageText> pages)
    {
        var feed = new SyndicationFeed(
            site.Name,
            "",
            site.Address,
            site.Address.ToString(),
            pages.Select(p => p.Updated).DefaultIfEmpty(DateTimeOffset.UnixEpoch).Max(),
            pages.Select(text => new SyndicationItem(
                text.Page.Title,
                SyndicationContent.CreateHtmlContent(WholeLinks(site, text)),
                site.AddressOf(text.Page),
                site.AddressOf(text.Page).ToString(),
                text.Updated
            )
            {
                PublishDate = text.Page.PutUpAt,
                Summary = SyndicationContent.CreatePlaintextContent(Announced(text)),
            })
        );
        feed.Authors.Add(new SyndicationPerson { Name = site.Name });
        feed.Links.Add(SyndicationLink.CreateSelfLink(new Uri(site.Address, "feed.atom")));
        using var made = new MemoryStream();
        using (var xml = XmlWriter.Create(made, new XmlWriterSettings { Indent = true, Encoding = new UTF8Encoding(false) }))
            new Atom10FeedFormatter(feed).WriteTo(xml);
        return Encoding.UTF8.GetString(made.ToArray());
    }

    /// <summary>A text for the feed, whose readers know nothing of where it stands.</summary>
    private static string WholeLinks(Site site, PageText text)
    {
        var html = new StringBuilder();
        foreach (var part in text.Parts)
        {
            var body = Body(text, part, text.Page.Series is not null);
            foreach (var image in body.QuerySelectorAll("img"))
            {
                image.SetAttribute("src", new Uri(site.AddressOf(text.Page), image.GetAttribute("src")!).ToString());
                image.RemoveAttribute("srcset");
                image.RemoveAttribute("sizes");
            }
            foreach (var link in body.QuerySelectorAll("a[href^='../'], a[href^='#']"))
                link.SetAttribute("href", new Uri(site.AddressOf(text.Page), link.GetAttribute("href")!).ToString());
            html.Append(body.InnerHtml);
        }
        return html.ToString();
    }

    /// <summary>The list of addresses for search engines (sitemaps.org protocol 0.9).</summary>
    /// <param name="letters">Addresses at which letters can be read.</param>
    public static string Sitemap(Site site, IReadOnlyList<PageText> pages, IReadOnlyList<Uri>? letters = null)
    {
        XNamespace at = "http://www.sitemaps.org/schemas/sitemap/0.9";
        return new XDocument(
            new XElement(
                at + "urlset",
                new XElement(at + "url", new XElement(at + "loc", site.Address)),
                pages.Select(text => new XElement(
                    at + "url",
                    new XElement(at + "loc", site.AddressOf(text.Page)),
                    new XElement(at + "lastmod", text.Updated.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture))
                )),
                (letters ?? []).Select(letter => new XElement(at + "url", new XElement(at + "loc", letter)))
            )
        ) switch
        {
            var document => "<?xml version=\"1.0\" encoding=\"utf-8\"?>\n" + document + "\n",
        };
    }

    /// <summary>What robots are told (RFC 9309).</summary>
    public static string Robots(Site site) => $"User-agent: *\nAllow: /\n\nSitemap: {new Uri(site.Address, "sitemap.xml")}\n";

    private static string Announced(PageText text) =>
        text.Page.Summary.Length > 0 ? text.Page.Summary : Beginning(string.Join(' ', text.Parts.Select(p => p.Text)));

    private static string Beginning(string markdown) =>
        PlainText.Headline(
            Paragraphs.Of(markdown).Where(p => !p.TrimStart().StartsWith('#')).SelectMany(Paragraphs.Sentences).FirstOrDefault(""),
            LongestDescription
        );

    private static string Minutes(string markdown)
    {
        var minutes = (int)Math.Max(1, Math.Round(Counts.Of(markdown).SilentSeconds / 60.0));
        return minutes == 1 ? "a minute to read" : $"{minutes} minutes to read";
    }

    private static string Dated(Page page, DateTimeOffset updated) =>
        updated.Date > page.PutUpAt.Date ? $"{Day(page.PutUpAt)}, changed {Day(updated)}" : Day(page.PutUpAt);

    private static string Day(DateTimeOffset at) => Day(DateOnly.FromDateTime(at.DateTime));

    private static string Day(DateOnly day) =>
        $"<time datetime=\"{day:yyyy-MM-dd}\">{day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture)}</time>";

    private static string Whole(Site site, string title, string language, string head, string main, string root, bool isList = false) =>
        $"""
            <!doctype html>
            <html lang="{Escaped(language)}">
            <head>
            <meta charset="utf-8">
            <meta name="viewport" content="width=device-width, initial-scale=1">
            <title>{Escaped(title == site.Name ? title : $"{title} · {site.Name}")}</title>
            {head}<link rel="alternate" type="application/atom+xml" title="{Escaped(site.Name)}" href="{root}feed.atom">
            <link rel="stylesheet" href="{root}style.css">
            <link rel="icon" href="data:,">
            </head>
            <body>
            {(isList ? "" : $"<p class=\"site\"><a href=\"{(root.Length == 0 ? "./" : root)}\">{Escaped(site.Name)}</a></p>\n")}<main>
            {main}</main>
            </body>
            </html>

            """;

    private static string Meta(string name, string content) => $"<meta name=\"{name}\" content=\"{Escaped(content)}\">\n";

    private static string Property(string name, string content) => $"<meta property=\"{name}\" content=\"{Escaped(content)}\">\n";

    private static string Escaped(string words) => WebUtility.HtmlEncode(words);

    /// <summary>The style of all pages, by day, by night and on paper.</summary>
    public static string Style(bool hasFonts) => (hasFonts ? Kept("fonts.css") : "") + Kept("site.css");

    private static string Kept(string name)
    {
        using var text = new StreamReader(
            typeof(SiteFiles).Assembly.GetManifestResourceStream($"Nachlass.Exchange.Catalogue.Pages.{name}")!
        );
        return text.ReadToEnd();
    }
}
