using System.Text.RegularExpressions;

namespace Nachlass.Core.Text;

/// <summary>A Markdown text without its marks.</summary>
public static partial class PlainText
{
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

    [GeneratedRegex(@"!?\[([^\[\]]*)\]\([^()\s]*(?:\s+""[^""]*"")?\)")]
    private static partial Regex LinkOrPicture();

    [GeneratedRegex(
        @"^[ \t]{0,3}(?:#{1,6}(?=\s)[ \t]*|>[ \t]?|[-*+][ \t]+(?:\[[ xX]\][ \t]+)?|\d{1,9}[.)][ \t]+|(?:```|~~~).*$|(?:[-*_][ \t]*){3,}$)+",
        RegexOptions.Multiline
    )]
    private static partial Regex LineMarks();

    [GeneratedRegex(@"\\([\\`*_{}\[\]()#+\-.!])|\*\*|__|(?<!\w)[*_]|[*_](?!\w)|~~|`+")]
    private static partial Regex Emphasis();
}
