using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using AngleSharp.Dom;
using AngleSharp.Html.Dom;
using AngleSharp.Html.Parser;
using Nachlass.Core.Text;

namespace Nachlass.Exchange.Formats;

/// <summary>HTML as Markdown: what it says and how it is divided, without scripts, styles, fields and navigation, and without what it
/// does not show. Its words are words: none of them becomes a mark.</summary>
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
        "button",
        "input",
        "select",
        "datalist",
        "textarea",
        "nav",
        "svg",
        "head",
        "canvas",
        "audio",
        "video",
        "rp",
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
        // Pages of old are one form from top to bottom.
        "form",
        "fieldset",
        "legend",
        "dialog",
        "ul",
        "ol",
        "menu",
        "li",
        "blockquote",
        "pre",
        "hr",
        "table",
        "caption",
        "h1",
        "h2",
        "h3",
        "h4",
        "h5",
        "h6",
    };

    /// <summary>Deeper nesting than any text has is made to break readers.</summary>
    private const int Deepest = 200;

    /// <summary>Cells at most that one is said to go over (HTML, 4.9.11).</summary>
    private const int WidestCell = 100;

    /// <summary>The Markdown of a page or a part of one.</summary>
    public static string Markdown(string html) => Markdown(new HtmlParser().ParseDocument(HtmlDepth.Limited(html)));

    /// <inheritdoc cref="Markdown(string)"/>
    public static string Markdown(INode node) => Joined(Parts(node is IDocument document ? document.Body ?? node : node, 0));

    /// <summary>A block of Markdown.</summary>
    /// <param name="Text">Its lines, at the margin.</param>
    /// <param name="StandsClose">Whether it is a list that may stand right below a line.</param>
    private readonly record struct Part(string Text, bool StandsClose = false);

    private static string Joined(IEnumerable<Part> parts) => string.Join("\n\n", parts.Select(part => part.Text));

    private static List<Part> Parts(INode node, int depth)
    {
        var parts = new List<Part>();
        if (depth > Deepest)
            return parts;
        var inline = new StringBuilder();
        foreach (var child in node.ChildNodes)
        {
            if (child is not IElement element)
                Inline(child, inline, depth);
            else if (IsSilent(element))
                continue;
            else if (Blocks.Contains(element.LocalName))
            {
                Flush();
                parts.AddRange(Block(element, depth));
            }
            else if (element.Children.Any(c => Blocks.Contains(c.LocalName)))
            {
                Flush();
                parts.AddRange(Parts(element, depth + 1));
            }
            else
                Inline(element, inline, depth);
        }
        Flush();
        return parts;

        void Flush()
        {
            var words = Tidy(inline.ToString());
            inline.Clear();
            if (words.Length > 0)
                parts.Add(new Part(WordsAsMarkdown.LineStarts(words)));
        }
    }

    private static IEnumerable<Part> Block(IElement block, int depth)
    {
        switch (block.LocalName)
        {
            case ['h', >= '1' and <= '6'] heading:
                return OneLine(block, depth) is { Length: > 0 } title ? [new Part(new string('#', heading[1] - '0') + " " + title)] : [];
            case "ul" or "ol" or "menu":
                return List(block, depth);
            case "blockquote":
                return Joined(Parts(block, depth + 1)) is { Length: > 0 } quoted
                    ? [new Part(string.Join('\n', quoted.Split('\n').Select(line => ("> " + line).TrimEnd())))]
                    : [];
            case "pre":
                var code = block.TextContent.ReplaceLineEndings("\n").Trim('\n');
                var fence = new string('`', Math.Max(3, Longest(code) + 1));
                return code.Trim().Length > 0 ? [new Part($"{fence}\n{code}\n{fence}")] : [];
            case "hr":
                return [new Part("***")];
            case "table":
                return Table(block, depth);
            default:
                return Parts(block, depth + 1);
        }
    }

    /// <summary>What no reader of the page is shown (HTML, 6.1).</summary>
    private static bool IsSilent(IElement element) =>
        Silent.Contains(element.LocalName)
        || element.HasAttribute("hidden")
        || element.LocalName == "dialog" && !element.HasAttribute("open")
        || element.GetAttribute("style") is { } style && Unseen().IsMatch(style);

    private static List<Part> List(IElement list, int depth)
    {
        var isNumbered = list.LocalName == "ol";
        var number = isNumbered && Number(list, "start") is { } start ? start : 1;
        var first = number;
        var items = new StringBuilder();
        var isLoose = false;
        foreach (var item in list.Children.Where(c => !IsSilent(c)))
        {
            if (item.LocalName == "li" && isNumbered && Number(item, "value") is { } value)
                number = value;
            if (items.Length == 0)
                first = number;
            var inside = item.LocalName == "li" ? Parts(item, depth + 1) : [.. Block(item, depth + 1)];
            if (inside.Count == 0)
                continue;
            var mark = isNumbered ? string.Create(CultureInfo.InvariantCulture, $"{number++}. ") : "- ";
            var text = new StringBuilder(inside[0].Text);
            foreach (var part in inside.Skip(1))
            {
                isLoose |= !part.StandsClose;
                text.Append(part.StandsClose ? "\n" : "\n\n").Append(part.Text);
            }
            var margin = new string(' ', mark.Length);
            if (items.Length > 0)
                items.Append('\n');
            items.Append(mark).Append(Lines().Replace(text.ToString(), "\n" + margin));
        }
        // Only a list that begins with one may follow a line without a gap (CommonMark, 5.3).
        return items.Length == 0 ? [] : [new Part(items.ToString(), !isNumbered || first == 1)];
    }

    private static int? Number(IElement element, string attribute) =>
        int.TryParse(element.GetAttribute(attribute), NumberStyles.None, CultureInfo.InvariantCulture, out var number)
        && number <= 999_999_999
            ? number
            : null;

    private static IEnumerable<Part> Table(IElement table, int depth)
    {
        if (table.Children.FirstOrDefault(c => c.LocalName == "caption") is { } caption)
            foreach (var part in Parts(caption, depth + 1))
                yield return part;
        var rows = Rows(table).Where(row => row.Count > 0).ToList();
        if (rows.Count == 0)
            yield break;
        // A table that only lays out a page, or whose cells hold more than a line, is what stands in it, one after the other.
        if (rows.Max(row => row.Count) == 1 || rows.Any(row => row.Any(HasBlocks)))
        {
            foreach (var cell in rows.SelectMany(row => row))
            foreach (var part in Parts(cell, depth + 1))
                yield return part;
            yield break;
        }
        var lines = rows.Select(row => row.SelectMany(cell => Cell(cell, depth)).ToList()).ToList();
        var width = lines.Max(row => row.Count);
        var text = lines.Select(row => $"| {string.Join(" | ", row.Concat(Enumerable.Repeat("", width - row.Count)))} |").ToList();
        text.Insert(1, "|" + string.Concat(Enumerable.Repeat(" --- |", width)));
        yield return new Part(string.Join('\n', text));
    }

    /// <summary>The rows of a table and not those of another within it.</summary>
    private static IEnumerable<List<IElement>> Rows(IElement table) =>
        table
            .Children.SelectMany(c => c.LocalName is "thead" or "tbody" or "tfoot" ? c.Children.AsEnumerable() : [c])
            .Where(row => row.LocalName == "tr" && !IsSilent(row))
            .Select(row => row.Children.Where(c => c.LocalName is "td" or "th" && !IsSilent(c)).ToList());

    private static bool HasBlocks(IElement cell) =>
        cell.QuerySelector("table, ul, ol, menu, pre, blockquote, h1, h2, h3, h4, h5, h6, hr") is not null
        || cell.QuerySelectorAll("p, div").Length > 1;

    private static IEnumerable<string> Cell(IElement cell, int depth)
    {
        yield return OneLine(cell, depth).Replace("|", "\\|", StringComparison.Ordinal);
        for (var more = Math.Min(Number(cell, "colspan") ?? 1, WidestCell); more > 1; more--)
            yield return "";
    }

    private static string Inline(INode node, int depth)
    {
        var text = new StringBuilder();
        foreach (var child in node.ChildNodes)
            Inline(child, text, depth);
        return Tidy(text.ToString());
    }

    /// <summary>Spaces as one; two breaks of the line are a paragraph's.</summary>
    private static string Tidy(string words) =>
        Spaces().Replace(AroundBreak().Replace(words, gap => gap.ValueSpan.Count('\n') > 1 ? "\n\n" : "\n"), " ").Trim(' ', '\t', '\n');

    private static string OneLine(INode node, int depth) => AroundBreak().Replace(Inline(node, depth), " ");

    private static void Inline(INode node, StringBuilder text, int depth)
    {
        if (depth > Deepest)
            return;
        if (node is IText words)
        {
            WordsAsMarkdown.Append(text, White().Replace(words.Data, " "));
            return;
        }
        if (node is not IElement element || IsSilent(element))
            return;
        switch (element.LocalName)
        {
            case "br":
                text.Append('\n');
                break;
            case "img":
                if (element.GetAttribute("alt")?.Trim() is { Length: > 0 } alt)
                    WordsAsMarkdown.Append(text, $"[{White().Replace(alt, " ")}]");
                break;
            case "strong" or "b":
                Around("**", "strong, b");
                break;
            case "em" or "i" or "cite":
                Around("*", "em, i, cite");
                break;
            case "q":
                text.Append('“');
                foreach (var child in element.ChildNodes)
                    Inline(child, text, depth + 1);
                text.Append('”');
                break;
            case "code" or "kbd" or "samp":
                text.Append(Code(White().Replace(element.TextContent, " ").Trim()));
                break;
            case "a"
                when element is IHtmlAnchorElement
                    && element.GetAttribute("href")?.Trim() is { } href
                    && (
                        href.StartsWith("http://", StringComparison.OrdinalIgnoreCase)
                        || href.StartsWith("https://", StringComparison.OrdinalIgnoreCase)
                    ):
                Link(OneLine(element, depth + 1), href);
                break;
            default:
                // What stands in two blocks is two words.
                var isBlock = Blocks.Contains(element.LocalName);
                if (isBlock)
                    text.Append(' ');
                foreach (var child in element.ChildNodes)
                    Inline(child, text, depth + 1);
                if (isBlock)
                    text.Append(' ');
                break;
        }

        void Link(string said, string href)
        {
            if (said.Length == 0)
                return;
            // An address that is its own words is seen to be one.
            if (said == href && Uri.IsWellFormedUriString(href, UriKind.Absolute))
                text.Append(href);
            else
                text.Append('[').Append(Bracket().Replace(said, "\\$0")).Append("](").Append(Address(href)).Append(')');
        }

        void Around(string mark, string same)
        {
            var inside = OneLine(element, depth + 1);
            if (inside.Length == 0)
                return;
            var (before, after) = (text.Length > 0 ? text[^1] : ' ', element.NextSibling is IText { Data: [var first, ..] } ? first : ' ');
            // The space belongs outside the marks, or they would not be read as such; and they only mark where words begin and end
            // (CommonMark, 6.2), and once.
            if (char.IsWhiteSpace(element.TextContent[0]) && before != ' ')
                text.Append(before = ' ');
            if (char.IsWhiteSpace(element.TextContent[^1]))
                after = ' ';
            var isMark = MayMark(before, inside[0]) && MayMark(after, inside[^1]) && element.ParentElement?.Closest(same) is null;
            text.Append(isMark ? mark : "").Append(inside).Append(isMark ? mark : "");
            if (after == ' ' && char.IsWhiteSpace(element.TextContent[^1]))
                text.Append(' ');
        }
    }

    private static bool MayMark(char outside, char inside) => char.IsLetterOrDigit(inside) || !char.IsLetterOrDigit(outside);

    private static string Address(string href) =>
        href.Replace(" ", "%20", StringComparison.Ordinal)
            .Replace("(", "%28", StringComparison.Ordinal)
            .Replace(")", "%29", StringComparison.Ordinal)
            .Replace("<", "%3C", StringComparison.Ordinal)
            .Replace(">", "%3E", StringComparison.Ordinal)
            .Replace("\\", "%5C", StringComparison.Ordinal)
            .ReplaceLineEndings("");

    /// <summary>Words as code: within more backticks than stand in them (CommonMark, 6.1).</summary>
    private static string Code(string words)
    {
        if (words.Length == 0)
            return "";
        var marks = new string('`', Longest(words) + 1);
        var gap = words[0] == '`' || words[^1] == '`' ? " " : "";
        return marks + gap + words + gap + marks;
    }

    /// <summary>How many backticks stand in a row at most.</summary>
    private static int Longest(string words)
    {
        var (longest, row) = (0, 0);
        foreach (var c in words)
        {
            row = c == '`' ? row + 1 : 0;
            longest = Math.Max(longest, row);
        }
        return longest;
    }

    [GeneratedRegex(@"\n(?!\n|$)")]
    private static partial Regex Lines();

    [GeneratedRegex(@"[ \t]+")]
    private static partial Regex Spaces();

    [GeneratedRegex(@"[ \t]*\n[ \t\n]*")]
    private static partial Regex AroundBreak();

    // A space that must not break (U+00A0) is the author's.
    [GeneratedRegex(@"[ \t\r\n\f]+")]
    private static partial Regex White();

    [GeneratedRegex(@"(?<!\\)[\[\]]")]
    private static partial Regex Bracket();

    [GeneratedRegex(@"(?:^|;)\s*(?:display\s*:\s*none|visibility\s*:\s*hidden)", RegexOptions.IgnoreCase)]
    private static partial Regex Unseen();
}
