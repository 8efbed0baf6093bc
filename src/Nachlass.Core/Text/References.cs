using System.Text.RegularExpressions;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Text;

/// <summary>A place in a text that points at something: <c>[[slip 214]]</c>, <c>[[P 12]]</c>, <c>[[flood marks]]</c> or, as one cites a
/// chapter, <c>[[P 12, The rope breaks]]</c>.</summary>
/// <param name="Name">What stands between the brackets, trimmed.</param>
/// <param name="Thing">The thing, when it is named by kind and number; null when it is named by title.</param>
/// <param name="Start">Where the opening bracket stands.</param>
/// <param name="Length">Length with all brackets.</param>
/// <param name="Part">The heading of the section that is meant, behind the number of a piece or source; empty for the whole.</param>
public sealed record TextReference(string Name, Reference? Thing, int Start, int Length, string Part = "")
{
    public bool IsNumbered => Thing is not null;
}

/// <summary>Reads the references in texts.</summary>
public static partial class References
{
    /// <summary>The references of a text in order.</summary>
    public static IReadOnlyList<TextReference> In(string text) =>
        [.. Bracketed().Matches(text).Select(m => Read(m.Groups[1].Value, m.Index, m.Length))];

    /// <summary>What stands between double brackets, read.</summary>
    public static TextReference Read(string inside, int start = 0, int length = 0)
    {
        var name = inside.Trim();
        var numbered = Numbered().Match(name);
        var thing = numbered.Success ? Thing(numbered) : null;
        var part = numbered.Groups[3].Value.Trim();
        // Only what has sections can be pointed into.
        return part.Length > 0 && thing is not { Kind: ThingKind.Piece or ThingKind.Source }
            ? new TextReference(name, null, start, length)
            : new TextReference(name, thing, start, length, part);
    }

    /// <summary>The ways in which a name could be that of a thing with a section behind a comma, the longest name first.</summary>
    public static IEnumerable<(string Name, string Part)> WithPart(string name)
    {
        for (var at = name.LastIndexOf(',', name.Length - 1); at > 0; at = name.LastIndexOf(',', at - 1))
            if (name[(at + 1)..].Trim() is { Length: > 0 } part)
                yield return (name[..at].Trim(), part);
    }

    /// <summary>The text with every reference replaced; one that becomes empty takes the space before it along.</summary>
    public static string Spoken(string text, Func<TextReference, string> say) => Spoken(text, (reference, _) => say(reference));

    /// <summary>The same, where what is said depends on what stands before it on its line, as far as <see cref="Reach"/>.</summary>
    public static string Spoken(string text, Func<TextReference, string, string> say)
    {
        if (!text.Contains("[[", StringComparison.Ordinal))
            return text;
        return WithSpace()
            .Replace(
                text,
                m =>
                {
                    var reach = Math.Min(m.Index, Reach);
                    var line = reach == 0 ? -1 : text.LastIndexOf('\n', m.Index - 1, reach);
                    var said = say(Read(m.Groups[2].Value), text[(line < 0 ? m.Index - reach : line + 1)..m.Index]);
                    return said.Length == 0 ? "" : m.Groups[1].Value + said;
                }
            );
    }

    /// <summary>The text with the names between double brackets put as told; the brackets and all else stay.</summary>
    public static string Renamed(string text, Func<string, string> name) =>
        Bracketed()
            .Replace(text, m => name(m.Groups[1].Value.Trim()) is var put && put == m.Groups[1].Value.Trim() ? m.Value : $"[[{put}]]");

    /// <summary>How far around a link its sentence is kept, in UTF-16 units to each side.</summary>
    private const int Reach = 240;

    /// <summary>The sentence around a link, cut at a word with an ellipsis where it is long, so that what is kept of a text with many links
    /// grows with the text and not with its square.</summary>
    public static string LineAround(string text, int start, int length)
    {
        var from = Math.Max(0, start - Reach);
        var to = Math.Min(text.Length, start + length + Reach);
        if (from > 0)
            from = text.IndexOf(' ', from, start - from) is var word and >= 0 ? word + 1 : start;
        if (to < text.Length)
            to = text.LastIndexOf(' ', to - 1, to - start - length) is var last and >= 0 ? last : start + length;
        var near = text[from..to];
        var sentence = SentenceAround(near, start - from, length);
        var goesBack = from > 0 && near.StartsWith(sentence, StringComparison.Ordinal) && !IsEnd(text, Math.Max(0, from - 2));
        var goesOn = to < text.Length && near.EndsWith(sentence, StringComparison.Ordinal) && !IsEnd(text, to - 1);
        return (goesBack ? "… " : "") + sentence + (goesOn ? " …" : "");
    }

    /// <summary>The sentence around a place in a text.</summary>
    public static string SentenceAround(string text, int start, int length)
    {
        var from = start;
        while (from > 0 && !IsEnd(text, from - 1))
            from--;
        // A reference after the full stop belongs to the sentence before it.
        if (from > 0 && text[from - 1] != '\n' && string.IsNullOrWhiteSpace(text[from..start]))
        {
            var end = from--;
            while (from > 0 && !IsEnd(text, from - 1))
                from--;
            return text[from..end].Trim();
        }
        var to = start + length;
        while (to < text.Length && !IsEnd(text, to))
            to++;
        if (to < text.Length && text[to] != '\n')
            to++;
        return text[from..to].Trim();
    }

    internal static bool IsEnd(string text, int at)
    {
        if (text[at] == '\n')
            return true;
        if (text[at] is not ('.' or '!' or '?' or '…') || (at + 1 < text.Length && !char.IsWhiteSpace(text[at + 1])))
            return false;
        if (text[at] is not '.')
            return true;
        // "f. 31", "J. Pell", "St. Brannoc": a word of one or two letters is an abbreviation, and what goes on in small letters goes on.
        var word = at;
        while (word > 0 && char.IsLetter(text[word - 1]))
            word--;
        if (at - word is 1 or 2)
            return false;
        var next = at + 1;
        while (next < text.Length && text[next] == ' ')
            next++;
        return next == text.Length || !char.IsLower(text[next]);
    }

    private static Reference? Thing(Match numbered) =>
        int.TryParse(numbered.Groups[2].Value, out var number) && number > 0
            ? new Reference(
                numbered.Groups[1].Value.ToLowerInvariant() switch
                {
                    "slip" => ThingKind.Slip,
                    "source" => ThingKind.Source,
                    "topic" => ThingKind.Topic,
                    _ => ThingKind.Piece,
                },
                number
            )
            : null;

    [GeneratedRegex(@"(?<!\\)\[\[([^\[\]\r\n]{1,300})\]\]")]
    private static partial Regex Bracketed();

    [GeneratedRegex(@"([ \t]?)(?<!\\)\[\[([^\[\]\r\n]{1,300})\]\]")]
    private static partial Regex WithSpace();

    [GeneratedRegex(@"^(slip|source|topic|piece|p)\s*(\d{1,9})(?:\s*,\s*(.+))?$", RegexOptions.IgnoreCase)]
    private static partial Regex Numbered();
}
