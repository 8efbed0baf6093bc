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
        return body;
    }
}
