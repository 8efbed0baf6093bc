using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;

namespace Nachlass.Core.Bench;

/// <summary>How a slip goes into a draft.</summary>
public enum InsertAs
{
    Quotation,
    Text,
}

/// <summary>Makes the Markdown that stands for a slip in a draft, with a reference back to it.</summary>
public static class Insertion
{
    /// <summary>The slip as a block quotation with its source under it, or as running text; both end in <c>[[slip n]]</c>.</summary>
    public static string Of(Slip slip, Source? source, InsertAs how)
    {
        var reference = $"[[slip {slip.Number}]]";
        if (how == InsertAs.Text)
            return $"{slip.Text.Trim()} {reference}";
        var lines = slip.Text.Trim().Split('\n').Select(line => line.StartsWith('>') ? line : $"> {line}".TrimEnd());
        var quoted = string.Join('\n', lines);
        return Credit(source, slip.Locator) is { Length: > 0 } credit ? $"{quoted}\n>\n> — {credit} {reference}" : $"{quoted} {reference}";
    }

    /// <summary>A reference to an earlier piece, behind a sentence of it that is quoted; without one, the reference alone.</summary>
    public static string CallBack(PieceNumber piece, string sentence) =>
        sentence.Trim().Length == 0 ? $"[[P {piece}]]" : $"> {sentence.Trim().ReplaceLineEndings(" ")}\n>\n> — [[P {piece}]]";

    /// <summary>What is to be put into a draft at a place so that the text reads on: with a space beside a word, or, as a paragraph of its
    /// own, with empty lines around it.</summary>
    /// <returns>What goes in, and where in it the text itself begins.</returns>
    public static (int Start, string Inserted) Into(string draft, int at, string text, bool own)
    {
        var before = draft.AsSpan(0, at);
        var after = draft.AsSpan(at);
        if (!own)
        {
            var space = before.Length > 0 && !char.IsWhiteSpace(before[^1]) ? " " : "";
            return (space.Length, space + text + (after.Length > 0 && char.IsLetterOrDigit(after[0]) ? " " : ""));
        }
        var breaks = before.TrimEnd('\n').Length;
        var lead = breaks == 0 ? "" : new string('\n', Math.Max(0, 2 - (before.Length - breaks)));
        var lines = after.Length - after.TrimStart('\n').Length;
        var tail = after.Length == 0 ? "\n" : new string('\n', Math.Max(0, 2 - lines));
        return (lead.Length, lead + text + tail);
    }

    private static string Credit(Source? source, string locator)
    {
        if (source is null)
            return "";
        string[] parts = [source.Creators, $"*{source.Title}*", locator];
        return string.Join(", ", parts.Where(p => p.Length > 0));
    }
}
