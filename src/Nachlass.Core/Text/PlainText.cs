using System.Text.RegularExpressions;

namespace Nachlass.Core.Text;

/// <summary>A Markdown text without its marks.</summary>
public static partial class PlainText
{
    /// <summary>A text as it may be kept, whatever door it came in by: without NUL and the other signs that steer machines, without
    /// halves of characters; lines and tabs stay. A text that has none of them comes back as it is.</summary>
    public static string Cleaned(string text)
    {
        var at = 0;
        while (at < text.Length && IsKept(text, at))
            at++;
        if (at == text.Length)
            return text;
        var clean = new System.Text.StringBuilder(text.Length).Append(text, 0, at);
        for (; at < text.Length; at++)
            if (IsKept(text, at))
                clean.Append(text[at]);
        return clean.ToString();
    }

    private static bool IsKept(string text, int at)
    {
        var c = text[at];
        return c switch
        {
            '\n' or '\r' or '\t' => true,
            < ' ' or '\u007f' or '\ufffe' or '\uffff' => false,
            _ when char.IsHighSurrogate(c) => at + 1 < text.Length && char.IsLowSurrogate(text[at + 1]),
            _ when char.IsLowSurrogate(c) => at > 0 && char.IsHighSurrogate(text[at - 1]),
            _ => true,
        };
    }

    /// <summary>The words of a Markdown text, line by line; our references (<c>[[slip 214]]</c>) fall away, links to names keep the
    /// name.</summary>
    public static string Of(string markdown)
    {
        return WithoutMarks(References.Spoken(markdown, reference => reference.IsNumbered ? "" : reference.Name));
    }

    /// <summary>The same, with references kept as what they name: "See slip 32" still says something in a list, "See" does not.</summary>
    public static string WithReferences(string markdown) => WithoutMarks(References.Spoken(markdown, reference => reference.Name));

    private static string WithoutMarks(string text)
    {
        text = Footnotes.WithoutMarks(text);
        text = LinkOrPicture().Replace(text, "$1");
        text = LineMarks().Replace(text, "");
        return Emphasis().Replace(text, "$1");
    }

    /// <summary>What a text is called in a list: its title line or first sentence, without marks.</summary>
    /// <param name="markdown">The text.</param>
    /// <param name="most">Characters at most; a longer one is cut at a word and ends in an ellipsis.</param>
    public static string Headline(string markdown, int most = 120)
    {
        var line =
            WithReferences(markdown).Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries).FirstOrDefault()
            ?? "";
        if (line.Length <= most)
            return line;
        var cut = line.LastIndexOf(' ', most - 1);
        return line[..(cut > most / 2 ? cut : most - 1)].TrimEnd(' ', ',', '.', ';', ':', '—', '–') + "…";
    }

    [GeneratedRegex(@"(?<!\\)!?(?<!\\)\[([^\[\]]*)\]\([^()\s]*(?:\s+""[^""]*"")?\)")]
    private static partial Regex LinkOrPicture();

    [GeneratedRegex(
        @"^[ \t]{0,3}(?:#{1,6}(?=\s)[ \t]*|>[ \t]?|[-*+][ \t]+(?:\[[ xX]\][ \t]+)?|\d{1,9}[.)][ \t]+|(?:```|~~~).*$|(?:[-*_][ \t]*){3,}$)+",
        RegexOptions.Multiline
    )]
    private static partial Regex LineMarks();

    // A sign behind a backslash is itself (CommonMark, 2.4); a star or line between spaces marks nothing (6.2).
    [GeneratedRegex(@"\\([!-/:-@\[-`{-~])|\*\*|__|(?<!\w)[*_](?=\S)|(?<=\S)[*_](?!\w)|~~|`+")]
    private static partial Regex Emphasis();
}
