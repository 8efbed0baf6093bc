using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using Nachlass.Core.Text;

namespace Nachlass.Exchange.Pieces;

/// <summary>A finished text as a tree of headings, paragraphs and the like, of which files are written.</summary>
internal static class FinishedPage
{
    /// <summary>The tree. A ticked box is a sign; a picture that is none of these papers is what it is called.</summary>
    /// <param name="markdown">The finished text.</param>
    /// <param name="picture">Finds a picture by the address it has in the text.</param>
    public static IElement Of(string markdown, Func<string, Picture?> picture)
    {
        var body = new HtmlParser().ParseDocument(Reading.HtmlForOutside(markdown)).Body!;
        foreach (var box in body.QuerySelectorAll("input").ToList())
            box.Replace(body.Owner!.CreateTextNode(box.HasAttribute("checked") ? "☑" : "☐"));
        foreach (var image in body.QuerySelectorAll("img").ToList())
            if (image.GetAttribute("src") is not { } address || picture(address) is null)
                image.Replace(body.Owner!.CreateTextNode(image.GetAttribute("alt") is { Length: > 0 } said ? $"[{said}]" : ""));
        Caption(body, picture);
        // A colon is no part of a name in XML.
        foreach (var named in body.QuerySelectorAll("[id]"))
            named.Id = named.Id!.Replace(':', '-');
        foreach (var link in body.QuerySelectorAll("a[href^='#']"))
            link.SetAttribute("href", link.GetAttribute("href")!.Replace(':', '-'));
        return body;
    }

    /// <summary>A picture that is a paragraph of its own gets what stands under it: its caption, and whose it is.</summary>
    public static void Caption(IElement body, Func<string, Picture?> picture)
    {
        foreach (var image in body.QuerySelectorAll("p > img").ToList())
        {
            var paragraph = image.ParentElement!;
            var caption = string.Join(
                ' ',
                new[] { image.GetAttribute("title") ?? "", picture(image.GetAttribute("src") ?? "")?.Credit ?? "" }
                    .Where(words => words.Length > 0)
                    .Select(words => words[^1] is '.' or '!' or '?' or '…' ? words : words + ".")
            );
            image.RemoveAttribute("title");
            if (caption.Length == 0 || paragraph.TextContent.Trim().Length > 0 || paragraph.Children.Length > 1)
                continue;
            var figure = body.Owner!.CreateElement("figure");
            var under = body.Owner.CreateElement("figcaption");
            under.TextContent = caption;
            paragraph.Replace(figure);
            figure.Append(image, under);
        }
    }
}
