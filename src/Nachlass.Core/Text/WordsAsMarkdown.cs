using System.Text;
using System.Text.RegularExpressions;

namespace Nachlass.Core.Text;

/// <summary>Words that came from elsewhere, as Markdown that says just these words: what would be a mark stands behind a backslash
/// (CommonMark 0.31, 2.4). Only what would be read as one does, so that the text stays good to read. <see cref="PlainText.Of"/> leads
/// back.</summary>
public static partial class WordsAsMarkdown
{
    /// <summary>Words of one or more lines, of which nothing is a mark.</summary>
    public static string Of(string words)
    {
        var text = new StringBuilder(words.Length + 8);
        Append(text, words);
        return LineStarts(text.ToString());
    }

    /// <summary>Puts words behind a text that may have marks: in the middle of a line, so what only counts at its beginning is left to
    /// <see cref="LineStarts"/>.</summary>
    public static void Append(StringBuilder text, ReadOnlySpan<char> words)
    {
        for (var i = 0; i < words.Length; i++)
        {
            if (words[i] == 'h' && Address(words[i..]) is var length and > 0)
            {
                // Signs in an address are its own.
                text.Append(words.Slice(i, length));
                i += length - 1;
                continue;
            }
            var before =
                i > 0 ? words[i - 1]
                : text.Length > 0 ? text[^1]
                : '\n';
            if (IsMark(words, i, before))
                text.Append('\\');
            text.Append(words[i]);
        }
    }

    private static bool IsMark(ReadOnlySpan<char> words, int at, char before)
    {
        var isLast = at + 1 == words.Length;
        // What stands behind the last sign is not known here, and could be anything.
        var next = isLast ? '\0' : words[at + 1];
        return words[at] switch
        {
            '`' => true,
            '\\' => isLast || next == '\n' || char.IsAscii(next) && (char.IsPunctuation(next) || char.IsSymbol(next)),
            '*' => !(char.IsWhiteSpace(before) && (char.IsWhiteSpace(next) || isLast)),
            '_' => !(char.IsLetterOrDigit(before) && char.IsLetterOrDigit(next)) && !(char.IsWhiteSpace(before) && char.IsWhiteSpace(next)),
            '~' => next == '~' || before == '~',
            '[' => isLast || next == '[',
            // A link, a link by name, or the address of one.
            '(' or ':' => before == ']',
            '!' => next == '[',
            '<' => isLast || char.IsAsciiLetter(next) && Address(words[(at + 1)..]) == 0 || next is '/' or '!' or '?',
            '&' => Entity().IsMatch(words[at..Math.Min(words.Length, at + 40)]),
            '#' => !(char.IsLetterOrDigit(before) || before is '_' or '#' or '&' or '/') && char.IsLetter(next),
            _ => false,
        };
    }

    /// <summary>How long the address of the web is that begins here; 0 when none does.</summary>
    private static int Address(ReadOnlySpan<char> words)
    {
        if (!words.StartsWith("http://", StringComparison.Ordinal) && !words.StartsWith("https://", StringComparison.Ordinal))
            return 0;
        var length = 8;
        while (length < words.Length && !char.IsWhiteSpace(words[length]) && words[length] is not ('<' or '>' or '`' or '[' or ']' or '*'))
            length++;
        return Math.Min(length, words.Length);
    }

    /// <summary>A text whose lines begin no heading, list, quotation, box, code, table or rule.</summary>
    public static string LineStarts(string text)
    {
        if (!text.Contains('\n', StringComparison.Ordinal))
            return LineStart(text);
        return string.Join('\n', text.Split('\n').Select(LineStart));
    }

    private static string LineStart(string line)
    {
        var at = 0;
        while (at < line.Length && line[at] is ' ' or '\t')
            at++;
        if (at == line.Length)
            return line;
        // Four spaces would make it code.
        var indent = line[..at].Contains('\t', StringComparison.Ordinal) || at > 3 ? "   " : line[..at];
        var words = line[at..];
        var number = 0;
        while (number < words.Length && char.IsAsciiDigit(words[number]))
            number++;
        if (number is > 0 and < 10 && number < words.Length && words[number] is '.' or ')' && IsGap(words, number + 1))
            return $"{indent}{words[..number]}\\{words[number..]}";
        var isMark = words[0] switch
        {
            '>' => true,
            '#' => IsGap(words, words.Length - words.TrimStart('#').Length),
            '-' or '+' or '*' => IsGap(words, 1) || Rule().IsMatch(words),
            '=' or '_' or '|' or ':' => Rule().IsMatch(words),
            '[' => words.Length > 2 && words[2] == ']' && words[1] is ' ' or 'x' or 'X' && IsGap(words, 3),
            _ => false,
        };
        // The line under the head of a table is read as one whatever stands beside its dashes: it is none only without its bars.
        if (words.Contains('|', StringComparison.Ordinal) && Delimiter().IsMatch(words))
        {
            words = words.Replace("|", "\\|", StringComparison.Ordinal);
            isMark &= words[0] != '\\';
        }
        return isMark ? $"{indent}\\{words}" : indent + words;
    }

    private static bool IsGap(string words, int at) => at >= words.Length || words[at] is ' ' or '\t';

    [GeneratedRegex("^&(?:#[0-9]{1,7}|#[xX][0-9a-fA-F]{1,6}|[a-zA-Z][a-zA-Z0-9]{1,31});")]
    private static partial Regex Entity();

    /// <summary>A rule, the line under a heading, or the one under the head of a table.</summary>
    [GeneratedRegex(@"^[-=_*|: \t]+$")]
    private static partial Regex Rule();

    /// <summary>A cell of dashes, as in the line under the head of a table.</summary>
    [GeneratedRegex(@"(?:^|\|)[-: \t]*-[-: \t]*(?:\||$)")]
    private static partial Regex Delimiter();
}
