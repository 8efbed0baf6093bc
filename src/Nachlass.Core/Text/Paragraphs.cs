using System.Text.RegularExpressions;

namespace Nachlass.Core.Text;

/// <summary>A text taken apart into what is read in one breath.</summary>
public static partial class Paragraphs
{
    /// <summary>The paragraphs of a Markdown text without marks, without headings.</summary>
    public static IEnumerable<string> Of(string markdown)
    {
        foreach (var block in Raw(markdown))
        {
            if (block.TrimStart().StartsWith('#') && Heading().IsMatch(block))
                continue;
            var plain = string.Join(
                ' ',
                PlainText.Of(block).Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            );
            if (plain.Length > 0)
                yield return plain;
        }
    }

    /// <summary>The paragraphs as they stand in the text, headings among them.</summary>
    public static IEnumerable<string> Raw(string markdown) =>
        Blank().Split(markdown.ReplaceLineEndings("\n")).Select(b => b.Trim('\n')).Where(b => !string.IsNullOrWhiteSpace(b));

    /// <summary>The sentences of a paragraph in order.</summary>
    public static List<string> Sentences(string paragraph)
    {
        var sentences = new List<string>();
        for (var at = 0; at < paragraph.Length; )
        {
            if (char.IsWhiteSpace(paragraph[at]))
            {
                at++;
                continue;
            }
            var end = at + 1;
            while (end < paragraph.Length && !References.IsEnd(paragraph, end))
                end++;
            if (end < paragraph.Length && paragraph[end] != '\n')
                end++;
            sentences.Add(paragraph[at..end].Trim());
            at = end;
        }
        return sentences;
    }

    [GeneratedRegex(@"\n[ \t]*\n")]
    private static partial Regex Blank();

    [GeneratedRegex(@"^\s*#{1,6}\s[^\n]*$")]
    private static partial Regex Heading();
}
