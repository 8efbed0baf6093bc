using System.Text;
using System.Text.RegularExpressions;

namespace Nachlass.Core.Text;

/// <summary>A note below the text.</summary>
/// <param name="Key">By which the text refers to it.</param>
/// <param name="Text">What it says, in Markdown.</param>
/// <param name="From">Where its line begins, in UTF-16 units.</param>
/// <param name="To">Where it ends, its line's end included.</param>
public sealed record Footnote(string Key, string Text, int From, int To);

/// <summary>
/// Footnotes as Markdown readers have them: <c>bread.[^1]</c> in the text, and <c>[^1]: Account book, f. 12.</c> as a paragraph of its
/// own, up
/// to the next empty line.
/// </summary>
public static partial class Footnotes
{
    /// <summary>The notes of a text in order.</summary>
    public static IReadOnlyList<Footnote> In(string text) =>
        text.Contains("[^", StringComparison.Ordinal)
            ?
            [
                .. Definition()
                    .Matches(text)
                    .Select(m => new Footnote(m.Groups[1].Value, m.Groups[2].Value.Trim(), m.Index, m.Index + m.Length)),
            ]
            : [];

    /// <summary>Where the text refers to notes: keys with their places.</summary>
    public static IReadOnlyList<(string Key, int At)> References(string text) =>
        text.Contains("[^", StringComparison.Ordinal)
            ? [.. Mark().Matches(text).Where(m => !IsDefinition(text, m)).Select(m => (m.Groups[1].Value, m.Index))]
            : [];

    /// <summary>The text with all its notes at the end, in the order in which it refers to them; a note that nothing refers to falls
    /// away.</summary>
    /// <param name="text">Where it stands.</param>
    /// <param name="all">The notes there are, which may have stood elsewhere; those of the text when null.</param>
    public static string AtEnd(string text, IReadOnlyList<Footnote>? all = null)
    {
        var own = In(text);
        var notes = (all ?? own).GroupBy(n => n.Key).ToDictionary(g => g.Key, g => g.First());
        if (own.Count == 0 && notes.Count == 0)
            return text;
        var body = new StringBuilder(text.Length);
        var at = 0;
        foreach (var note in own)
        {
            body.Append(text, at, note.From - at);
            at = note.To;
            // Of the empty lines before and after it one stays.
            while (at < text.Length && text[at] == '\n')
                at++;
        }
        body.Append(text, at, text.Length - at);
        var rest = body.ToString();
        var used = References(rest).Select(r => r.Key).Distinct().Where(notes.ContainsKey).Select(key => $"[^{key}]: {notes[key].Text}");
        var below = string.Join("\n\n", used);
        return below.Length == 0 ? rest.TrimEnd() + "\n" : $"{rest.TrimEnd()}\n\n{below}\n";
    }

    /// <summary>A key that no note of the text has: the next number.</summary>
    public static string NextKey(string text) =>
        $"{Mark().Matches(text).Select(m => int.TryParse(m.Groups[1].Value, out var n) ? n : 0).DefaultIfEmpty(0).Max() + 1}";

    /// <summary>The text without the marks of notes; what the notes say stays.</summary>
    public static string WithoutMarks(string text) => text.Contains("[^", StringComparison.Ordinal) ? AnyMark().Replace(text, "") : text;

    private static bool IsDefinition(string text, Match mark) =>
        mark.Index + mark.Length < text.Length
        && text[mark.Index + mark.Length] == ':'
        && (mark.Index == 0 || text[mark.Index - 1] == '\n');

    [GeneratedRegex(@"^\[\^([^\]\s^]{1,60})\]:[ \t]*((?:[^\n]*\S[^\n]*(?:\n|\z))*)", RegexOptions.Multiline)]
    private static partial Regex Definition();

    [GeneratedRegex(@"\[\^([^\]\s^]{1,60})\]")]
    private static partial Regex Mark();

    [GeneratedRegex(@"^\[\^[^\]\s^]{1,60}\]:[ \t]*|\[\^[^\]\s^]{1,60}\]", RegexOptions.Multiline)]
    private static partial Regex AnyMark();
}
