using System.Net;
using System.Text;
using Nachlass.Core.Text;

namespace Nachlass.Exchange.Pieces;

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

    /// <summary>One HTML page that needs nothing else: no script, no address of another host, its few styles inside.</summary>
    public static string Html(string title, string markdown) =>
        $$"""
            <!doctype html>
            <html lang="en">
            <head>
            <meta charset="utf-8">
            <meta name="viewport" content="width=device-width, initial-scale=1">
            <title>{{WebUtility.HtmlEncode(title)}}</title>
            <style>
            body { max-width: 36rem; margin: 3rem auto; padding: 0 1.25rem; color: #1b2421; background: #fff; }
            body { font: 1.125rem/1.6 Georgia, "Times New Roman", serif; }
            h1 { font-size: 1.9rem; line-height: 1.2; } h2 { font-size: 1.35rem; margin-top: 2.2em; } h3 { font-size: 1.1rem; }
            blockquote { margin: 1.4em 0; padding-left: 1.1em; border-left: 2px solid #c3ccc5; color: #54605a; }
            img { max-width: 100%; } table { border-collapse: collapse; }
            td, th { border-bottom: 1px solid #c3ccc5; padding: .3em .8em .3em 0; text-align: left; }
            </style>
            </head>
            <body>
            {{Reading.HtmlForOutside(markdown)}}
            </body>
            </html>

            """;
}
