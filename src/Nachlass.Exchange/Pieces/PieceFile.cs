using System.Net;
using System.Text;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using Nachlass.Core.Text;

namespace Nachlass.Exchange.Pieces;

/// <summary>A picture with its media type.</summary>
/// <param name="Credit">Whose it is, as it is said under it; empty when nobody says.</param>
public sealed record Picture(string Type, byte[] Content, string Credit = "");

/// <summary>A finished piece as a file of its own.</summary>
public static class PieceFile
{
    private const int LongestName = 80;

    /// <summary>A file name made of a title: letters, digits and hyphens, in lower case; never empty.</summary>
    public static string Name(string title)
    {
        var name = new StringBuilder();
        foreach (var c in Stems.Fold(title))
        {
            if (char.IsAsciiLetterOrDigit(c))
                name.Append(c);
            else if (name.Length > 0 && name[^1] != '-')
                name.Append('-');
            if (name.Length == LongestName)
                break;
        }
        var clean = name.ToString().Trim('-');
        return clean.Length == 0 ? "piece" : clean;
    }

    /// <summary>The text as HTML with its pictures inside, so that nothing is asked of any host: one that is not at hand, or stands
    /// elsewhere, is what it is called.</summary>
    /// <param name="markdown">The finished text.</param>
    /// <param name="picture">Finds a picture by the address it has in the text; null when it is none of these papers.</param>
    public static string Fragment(string markdown, Func<string, Picture?> picture) =>
        Fragment(markdown, picture, (_, found) => $"data:{found.Type};base64,{Convert.ToBase64String(found.Content)}");

    /// <summary>The text as HTML with its pictures where they lie.</summary>
    /// <param name="at">Where a picture lies that is at an address in the text.</param>
    /// <inheritdoc cref="Fragment(string, Func{string, Picture?})" path="/param"/>
    public static string Fragment(string markdown, Func<string, Picture?> picture, Func<string, Picture, string> at)
    {
        var html = Reading.HtmlForOutside(markdown);
        if (!html.Contains("<img", StringComparison.Ordinal))
            return html;
        var body = new HtmlParser().ParseDocument(html).Body!;
        FinishedPage.Caption(body, picture);
        foreach (var image in body.QuerySelectorAll("img").ToList())
        {
            image.RemoveAttribute("srcset");
            if (image.GetAttribute("src") is { } address && picture(address) is { } found)
                image.SetAttribute("src", at(address, found));
            else
                image.Replace(image.Owner!.CreateTextNode(image.GetAttribute("alt") is { Length: > 0 } said ? $"[{said}]" : ""));
        }
        return body.InnerHtml;
    }

    /// <summary>One HTML page that needs nothing else: no script, no address of another host, its few styles and its pictures
    /// inside.</summary>
    /// <inheritdoc cref="Fragment" path="/param"/>
    public static string Html(string title, string markdown, string language, Func<string, Picture?> picture) =>
        $$"""
            <!doctype html>
            <html lang="{{language}}">
            <head>
            <meta charset="utf-8">
            <meta name="viewport" content="width=device-width, initial-scale=1">
            <title>{{WebUtility.HtmlEncode(title)}}</title>
            <style>
            body { max-width: 36rem; margin: 3rem auto; padding: 0 1.25rem; color: #1b2421; background: #fff; }
            body { font: 1.125rem/1.6 Georgia, "Times New Roman", serif; }
            h1 { font-size: 1.9rem; line-height: 1.2; } h2 { font-size: 1.35rem; margin-top: 2.2em; } h3 { font-size: 1.1rem; }
            blockquote { margin: 1.4em 0; padding-left: 1.1em; border-left: 2px solid #c3ccc5; color: #54605a; }
            img { max-width: 100%; } figure { margin: 1.6em 0; } figcaption { font-size: .85rem; color: #54605a; }
            .footnotes { font-size: .9rem; } sup { line-height: 0; } table { border-collapse: collapse; }
            td, th { border-bottom: 1px solid #c3ccc5; padding: .3em .8em .3em 0; text-align: left; }
            </style>
            </head>
            <body>
            {{Fragment(markdown, picture)}}
            </body>
            </html>

            """;

    /// <summary>The text set for paper, from which a browser makes a PDF: numbered pages under the title, no heading at the foot of a page,
    /// no line of a paragraph alone.</summary>
    /// <inheritdoc cref="Fragment" path="/param"/>
    public static string ForPaper(string title, string markdown, string language, Func<string, Picture?> picture) =>
        Html(title, markdown, language, picture)
            .Replace(
                "</style>",
                $$"""
                @page { size: A4; margin: 25mm 28mm; }
                @page { @top-right { content: "{{InStyle(title)}}"; font: italic 9pt Georgia, serif; color: #54605a; } }
                @page { @bottom-center { content: counter(page); font: 9pt Georgia, serif; } }
                @page :first { @top-right { content: none; } }
                @media print { body { max-width: none; margin: 0; padding: 0; font-size: 11.5pt; line-height: 1.5; } }
                h1, h2, h3, h4 { break-after: avoid; } p { orphans: 2; widows: 2; }
                blockquote, tr, img { break-inside: avoid; } a { color: inherit; }
                </style>
                """,
                StringComparison.Ordinal
            );

    /// <summary>Words in a string of a style sheet.</summary>
    private static string InStyle(string words) =>
        string.Concat(words.Select(c => char.IsLetterOrDigit(c) || c == ' ' ? c.ToString() : $"\\{(int)c:x} "));
}
