using System.Text;

namespace Nachlass.Core.Text;

/// <summary>A paragraph with thousands of marks is no Markdown that anyone wrote: they are words then. Matching marks takes the square of
/// their number, so that a few pages of brackets would keep the reader busy for minutes.</summary>
internal static class TooManyMarks
{
    /// <summary>Marks in one paragraph, and bars in one line, at most.</summary>
    private const int Most = 1_500,
        MostBars = 400;

    private const string Marks = "[*_`~";

    /// <summary>The same Markdown, with the marks of such paragraphs escaped; the very same text when there are none.</summary>
    public static string AsWords(string markdown)
    {
        if (markdown.Length < MostBars)
            return markdown;
        StringBuilder? text = null;
        var copied = 0;
        for (var at = 0; at < markdown.Length; )
        {
            var end = EndOfParagraph(markdown, at);
            var paragraph = markdown.AsSpan(at, end - at);
            var marks = Count(paragraph) > Most;
            var bars = MostOnOneLine(paragraph) > MostBars;
            if (marks || bars)
            {
                (text ??= new StringBuilder(markdown.Length + 1_000)).Append(markdown, copied, at - copied);
                foreach (var c in paragraph)
                {
                    if ((marks && Marks.Contains(c)) || (bars && c == '|'))
                        text.Append('\\');
                    text.Append(c);
                }
                copied = end;
            }
            at = end;
        }
        return text is null ? markdown : text.Append(markdown, copied, markdown.Length - copied).ToString();
    }

    /// <summary>Behind the blank line that ends a paragraph.</summary>
    private static int EndOfParagraph(string text, int from)
    {
        var at = from;
        while (at < text.Length)
        {
            var line = text.IndexOf('\n', at);
            if (line < 0)
                return text.Length;
            var isBlank = text.AsSpan(at, line - at).IsWhiteSpace();
            at = line + 1;
            if (isBlank)
                return at;
        }
        return at;
    }

    private static int Count(ReadOnlySpan<char> text)
    {
        var count = 0;
        foreach (var c in text)
            if (Marks.Contains(c))
                count++;
        return count;
    }

    private static int MostOnOneLine(ReadOnlySpan<char> text)
    {
        var most = 0;
        foreach (var line in text.Split('\n'))
            most = Math.Max(most, text[line].Count('|'));
        return most;
    }
}
