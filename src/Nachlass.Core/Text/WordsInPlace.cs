using System.Text.RegularExpressions;

namespace Nachlass.Core.Text;

/// <summary>A Markdown text in which all that is not a word of it is blank, so that every word keeps its place.</summary>
public static partial class WordsInPlace
{
    /// <summary>The text, as long as it was; remarks, code, headings, tables, addresses, references and marks are spaces. Lines
    /// stay.</summary>
    public static string Of(string markdown)
    {
        var text = markdown.ToCharArray();
        foreach (var remark in Remarks.In(markdown))
            Blank(text, remark.From, remark.To);
        var inFence = false;
        for (var at = 0; at < text.Length; )
        {
            var end = Array.IndexOf(text, '\n', at);
            var next = end < 0 ? text.Length : end + 1;
            var line = text.AsSpan(at, next - at).TrimStart();
            var isFence = line.StartsWith("```") || line.StartsWith("~~~");
            if (isFence)
                inFence = !inFence;
            if (isFence || inFence || line.StartsWith("#") || line.StartsWith("|"))
                Blank(text, at, next);
            at = next;
        }
        foreach (Match mark in NoWord().Matches(new string(text)))
            Blank(text, mark.Index, mark.Index + mark.Length);
        return new string(text);
    }

    private static void Blank(char[] text, int from, int to)
    {
        for (var at = from; at < to; at++)
            if (text[at] != '\n')
                text[at] = ' ';
    }

    /// <summary>Sentences with their places, paragraph by paragraph.</summary>
    /// <param name="words">What <see cref="Of"/> gave.</param>
    public static IEnumerable<(int From, int To, int Paragraph)> Sentences(string words)
    {
        var paragraph = 0;
        var from = -1;
        for (var at = 0; at <= words.Length; at++)
        {
            var isBreak = at == words.Length || words[at] == '\n' && IsBlankLine(words, at + 1);
            if (from < 0 && !isBreak && !char.IsWhiteSpace(words[at]))
                from = at;
            if (from >= 0 && (isBreak || words[at] != '\n' && IsEnd(words, at)))
            {
                yield return (from, Math.Min(words.Length, isBreak ? at : at + 1), paragraph);
                from = -1;
            }
            if (isBreak)
                paragraph++;
        }
    }

    /// <summary>A sentence ends behind its sign, or behind what closes after it: “It rained.”</summary>
    private static bool IsEnd(string words, int at)
    {
        if (words[at] is not ('”' or '"' or '’' or '»' or ')' or '“') || at == 0 || words[at - 1] is not ('.' or '!' or '?' or '…'))
            return References.IsEnd(words, at);
        var next = at + 1;
        while (next < words.Length && words[next] == ' ')
            next++;
        return next == words.Length || next > at + 1 && !char.IsLower(words[next]) || words[next] == '\n';
    }

    private static bool IsBlankLine(string text, int at)
    {
        while (at < text.Length && text[at] is ' ' or '\t')
            at++;
        return at >= text.Length || text[at] == '\n';
    }

    /// <summary>References, footnote marks, the addresses of links, addresses by themselves, signs of lists and quotations, and signs of
    /// emphasis.</summary>
    [GeneratedRegex(
        @"\[\[[^\[\]\n]{1,300}\]\]|\[\^[^\]\s]{1,60}\]:?|\]\([^()\s]{0,2000}(?:\s""[^""\n]{0,300}"")?\)"
            + @"|https?://[^\s<>()\[\]]+|^[ \t]{0,3}(?:>[ \t]?|[-*+][ \t]+|\d{1,9}[.)][ \t]+)+|[*_~`\[\]]+|!(?=\[)",
        RegexOptions.Multiline
    )]
    private static partial Regex NoWord();
}
