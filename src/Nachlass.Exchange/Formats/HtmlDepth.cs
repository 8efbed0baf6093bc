using System.Text;

namespace Nachlass.Exchange.Formats;

/// <summary>Takes tags out of HTML that would nest deeper than any page does, before a tree is made of it. The words stay.</summary>
/// <remarks>It reads tags as the tokenizer of the HTML standard (13.2.5) does, as far as that matters for how deep they stand.</remarks>
internal static class HtmlDepth
{
    /// <summary>Pages of the web seldom go beyond sixty.</summary>
    public const int Deepest = 120;

    private static readonly HashSet<string> Void = new(StringComparer.OrdinalIgnoreCase)
    {
        "area",
        "base",
        "br",
        "col",
        "embed",
        "hr",
        "img",
        "input",
        "link",
        "meta",
        "param",
        "source",
        "track",
        "wbr",
    };

    /// <summary>Elements that the next of their kind closes.</summary>
    private static readonly HashSet<string> Implied = new(StringComparer.OrdinalIgnoreCase)
    {
        "p",
        "li",
        "dt",
        "dd",
        "option",
        "optgroup",
        "tr",
        "td",
        "th",
        "tbody",
        "rt",
        "rp",
    };

    private static readonly HashSet<string> Raw = new(StringComparer.OrdinalIgnoreCase)
    {
        "script",
        "style",
        "textarea",
        "title",
        "xmp",
        "iframe",
        "noembed",
        "noframes",
    };

    /// <summary>The same HTML, at most <see cref="Deepest"/> deep; the very same text when it is no deeper.</summary>
    public static string Limited(string html)
    {
        var open = new List<string>();
        var dropped = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        StringBuilder? shallow = null;
        var (at, copied) = (0, 0);
        while (Tag(html, at) is { } tag)
        {
            at = tag.End;
            if (tag.Name.Length == 0 || Void.Contains(tag.Name))
                continue;
            var isDropped = false;
            if (tag.IsEnd)
            {
                if (dropped.TryGetValue(tag.Name, out var left) && left > 0)
                    (dropped[tag.Name], isDropped) = (left - 1, true);
                else if (open.FindLastIndex(name => name.Equals(tag.Name, StringComparison.OrdinalIgnoreCase)) is var last and >= 0)
                    open.RemoveRange(last, open.Count - last);
            }
            else
            {
                if (open.Count > 0 && Implied.Contains(tag.Name) && open[^1].Equals(tag.Name, StringComparison.OrdinalIgnoreCase))
                    open.RemoveAt(open.Count - 1);
                isDropped = open.Count >= Deepest;
                if (isDropped)
                    dropped[tag.Name] = dropped.GetValueOrDefault(tag.Name) + 1;
                else
                    open.Add(tag.Name);
                if (!isDropped && Raw.Contains(tag.Name))
                {
                    open.RemoveAt(open.Count - 1);
                    at = html.IndexOf("</" + tag.Name, at, StringComparison.OrdinalIgnoreCase) is var close and >= 0 ? close : html.Length;
                }
            }
            if (!isDropped)
                continue;
            // A space, since what the tag stood between are two words.
            (shallow ??= new StringBuilder(html.Length))
                .Append(html, copied, tag.Start - copied)
                .Append(' ');
            copied = tag.End;
        }
        return shallow is null ? html : shallow.Append(html, copied, html.Length - copied).ToString();
    }

    private readonly record struct OneTag(string Name, bool IsEnd, int Start, int End);

    /// <summary>The next tag or comment from a place on; null when there is none that ends.</summary>
    private static OneTag? Tag(string html, int from)
    {
        var start = html.IndexOf('<', from);
        while (start >= 0 && start + 1 < html.Length)
        {
            var next = html[start + 1];
            if (next == '!' || next == '?')
            {
                var isComment = string.CompareOrdinal(html, start, "<!--", 0, 4) == 0;
                var end = isComment ? html.IndexOf("-->", start + 4, StringComparison.Ordinal) : html.IndexOf('>', start);
                return end < 0 ? null : new OneTag("", false, start, end + (isComment ? 3 : 1));
            }
            var isEnd = next == '/';
            var name = start + (isEnd ? 2 : 1);
            if (name < html.Length && char.IsAsciiLetter(html[name]))
            {
                var to = name;
                while (to < html.Length && html[to] is not (' ' or '\t' or '\n' or '\r' or '\f' or '/' or '>'))
                    to++;
                return End(html, to) is { } close ? new OneTag(html[name..to], isEnd, start, close) : null;
            }
            start = html.IndexOf('<', start + 1);
        }
        return null;
    }

    /// <summary>Behind the bracket that closes a tag; brackets within quotes do not.</summary>
    private static int? End(string html, int at)
    {
        while (at < html.Length && html[at] != '>')
        {
            // A quote opens a value only behind an equals sign.
            if (html[at] is '"' or '\'' && html.AsSpan(0, at).TrimEnd() is [.., '='])
            {
                at = html.IndexOf(html[at], at + 1);
                if (at < 0)
                    return null;
            }
            at++;
        }
        return at < html.Length ? at + 1 : null;
    }
}
