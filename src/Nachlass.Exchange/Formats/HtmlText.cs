using System.Text;
using System.Text.RegularExpressions;
using AngleSharp.Dom;
using AngleSharp.Html.Dom;
using AngleSharp.Html.Parser;

namespace Nachlass.Exchange.Formats;

/// <summary>HTML as Markdown: what it says and how it is divided, without scripts, styles, forms and navigation.</summary>
public static partial class HtmlText
{
    private static readonly HashSet<string> Silent = new(StringComparer.OrdinalIgnoreCase)
    {
        "script",
        "style",
        "noscript",
        "template",
        "iframe",
        "object",
        "embed",
        "form",
        "button",
        "input",
        "select",
        "textarea",
        "nav",
        "svg",
        "head",
        "canvas",
        "audio",
        "video",
    };

    private static readonly HashSet<string> Blocks = new(StringComparer.OrdinalIgnoreCase)
    {
        "p",
        "div",
        "section",
        "article",
        "main",
        "header",
        "footer",
        "aside",
        "figure",
        "figcaption",
        "address",
        "details",
        "summary",
        "dl",
        "dt",
        "dd",
        "body",
        "html",
        "center",
    };

    /// <summary>The Markdown of a page or a part of one.</summary>
    public static string Markdown(string html) => Markdown(new HtmlParser().ParseDocument(HtmlDepth.Limited(html)));

    /// <inheritdoc cref="Markdown(string)"/>
    public static string Markdown(INode node)
    {
        var text = new StringBuilder();
        Block(node is IDocument document ? document.Body ?? node : node, text, "", 0);
        return Gaps().Replace(text.ToString().ReplaceLineEndings("\n"), "\n\n").Trim();
    }

    private static void Block(INode node, StringBuilder text, string indent, int depth)
    {
        // Deeper nesting than any text has is made to break readers.
        if (depth > 200)
            return;
        var inline = new StringBuilder();
        foreach (var child in node.ChildNodes)
        {
            var name = child is IElement element ? element.LocalName : "";
            if (child is IElement && Silent.Contains(name))
                continue;
            if (child is IComment)
                continue;
            if (child is IElement block && IsBlock(name))
            {
                Flush();
                switch (name)
                {
                    case ['h', >= '1' and <= '6']:
                        Paragraph(new string('#', name[1] - '0') + " " + Inline(block, depth).Replace('\n', ' '));
                        break;
                    case "ul" or "ol":
                        List(block, text, indent, depth, name == "ol");
                        break;
                    case "blockquote":
                        var quoted = new StringBuilder();
                        Block(block, quoted, "", depth + 1);
                        Paragraph(
                            string.Join(
                                '\n',
                                Gaps().Replace(quoted.ToString(), "\n\n").Trim().Split('\n').Select(line => ("> " + line).TrimEnd())
                            )
                        );
                        break;
                    case "pre":
                        Paragraph("```\n" + block.TextContent.Trim('\n') + "\n```");
                        break;
                    case "hr":
                        Paragraph("***");
                        break;
                    case "table":
                        Table((IElement)block);
                        break;
                    default:
                        Block(block, text, indent, depth + 1);
                        break;
                }
            }
            else if (child is IElement with && with.Children.Any(c => IsBlock(c.LocalName)))
            {
                Flush();
                Block(with, text, indent, depth + 1);
            }
            else
                Inline(child, inline, depth);
        }
        Flush();

        void Flush()
        {
            var words = Spaces()
                .Replace(inline.ToString(), " ")
                .Replace(" \n", "\n", StringComparison.Ordinal)
                .Replace("\n ", "\n", StringComparison.Ordinal)
                .Trim();
            inline.Clear();
            if (words.Length > 0)
                Paragraph(words);
        }

        void Paragraph(string words) =>
            text.Append("\n\n").Append(indent).Append(words.Replace("\n", "\n" + indent, StringComparison.Ordinal));

        void Table(IElement table)
        {
            var rows = table
                .QuerySelectorAll("tr")
                .Select(row =>
                    row.QuerySelectorAll("th, td")
                        .Select(cell => Inline(cell, depth).Replace('\n', ' ').Replace("|", "\\|", StringComparison.Ordinal))
                        .ToList()
                )
                .Where(row => row.Count > 0)
                .ToList();
            if (rows.Count == 0)
                return;
            var width = rows.Max(row => row.Count);
            if (width == 1)
            {
                foreach (var row in rows)
                    Paragraph(row[0]);
                return;
            }
            var lines = rows.Select(row => "| " + string.Join(" | ", row.Concat(Enumerable.Repeat("", width - row.Count))) + " |").ToList();
            lines.Insert(1, "|" + string.Concat(Enumerable.Repeat(" --- |", width)));
            Paragraph(string.Join('\n', lines));
        }
    }

    private static bool IsBlock(string name) =>
        Blocks.Contains(name) || name is "ul" or "ol" or "li" or "blockquote" or "pre" or "hr" or "table" or ['h', >= '1' and <= '6'];

    private static void List(IElement list, StringBuilder text, string indent, int depth, bool numbered)
    {
        var number = 1;
        text.Append('\n');
        foreach (var item in list.Children.Where(c => c.LocalName == "li"))
        {
            var mark = numbered ? $"{number++}. " : "- ";
            var inside = new StringBuilder();
            Block(item, inside, "", depth + 1);
            var words = Gaps()
                .Replace(inside.ToString(), "\n")
                .Trim()
                .Replace("\n", "\n" + indent + new string(' ', mark.Length), StringComparison.Ordinal);
            if (words.Length > 0)
                text.Append('\n').Append(indent).Append(mark).Append(words);
        }
    }

    private static string Inline(INode node, int depth)
    {
        var text = new StringBuilder();
        foreach (var child in node.ChildNodes)
            Inline(child, text, depth);
        return Spaces().Replace(text.ToString(), " ").Trim();
    }

    private static void Inline(INode node, StringBuilder text, int depth)
    {
        if (depth > 200)
            return;
        if (node is IText words)
        {
            text.Append(White().Replace(words.Data, " "));
            return;
        }
        if (node is not IElement element || Silent.Contains(element.LocalName))
            return;
        switch (element.LocalName)
        {
            case "br":
                text.Append('\n');
                break;
            case "img":
                if (element.GetAttribute("alt") is { Length: > 0 } alt)
                    text.Append('[').Append(alt.Trim()).Append(']');
                break;
            case "strong" or "b":
                Around("**");
                break;
            case "em" or "i" or "cite":
                Around("*");
                break;
            case "code":
                text.Append('`').Append(element.TextContent.Replace('`', '\'')).Append('`');
                break;
            case "a"
                when element is IHtmlAnchorElement
                    && element.GetAttribute("href") is { } href
                    && (
                        href.StartsWith("http://", StringComparison.OrdinalIgnoreCase)
                        || href.StartsWith("https://", StringComparison.OrdinalIgnoreCase)
                    ):
                var said = Inline(element, depth + 1);
                if (said.Length > 0)
                    text.Append('[')
                        .Append(said)
                        .Append("](")
                        .Append(href.Replace(" ", "%20", StringComparison.Ordinal).Replace(")", "%29", StringComparison.Ordinal))
                        .Append(')');
                break;
            default:
                foreach (var child in element.ChildNodes)
                    Inline(child, text, depth + 1);
                break;
        }

        void Around(string mark)
        {
            var inside = Inline(element, depth + 1);
            if (inside.Length == 0)
                return;
            // The space belongs outside the marks, or they would not be read as such.
            if (text.Length > 0 && element.TextContent.Length > 0 && char.IsWhiteSpace(element.TextContent[0]))
                text.Append(' ');
            text.Append(mark).Append(inside).Append(mark);
            if (element.TextContent.Length > 0 && char.IsWhiteSpace(element.TextContent[^1]))
                text.Append(' ');
        }
    }

    [GeneratedRegex(@"\n[ \t]*(?:\n[ \t]*)+")]
    private static partial Regex Gaps();

    [GeneratedRegex(@"[ \t]+")]
    private static partial Regex Spaces();

    [GeneratedRegex(@"\s+")]
    private static partial Regex White();
}
