using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Text;

/// <summary>What was typed into a find box, made safe for the full-text index.</summary>
/// <param name="Match">An FTS5 expression: every word must stand in the text, the last one may be unfinished; empty when nothing was asked.</param>
/// <param name="Number">The number, when a number was typed.</param>
/// <param name="Kind">The kind that was typed before the number, when one was.</param>
public sealed partial record FindQuery(string Match, int? Number, ThingKind? Kind)
{
    private const int MostWords = 24;

    /// <summary>Reads a query. Anything may be typed; words in double quotes must stand together.</summary>
    public static FindQuery Read(string? typed)
    {
        var text = (typed ?? "").Trim();
        var numbered = Numbered().Match(text);
        int? number = numbered.Success && int.TryParse(numbered.Groups[2].Value, out var read) && read > 0 ? read : null;
        var kind = number is null ? null : References.Read(text).Thing?.Kind;
        var match = new StringBuilder();
        var parts = Parts().Matches(text).Take(MostWords).ToList();
        foreach (var part in parts)
        {
            var phrase = part.Groups[1].Success ? part.Groups[1].Value : part.Value;
            var words = string.Join(' ', Word().Matches(phrase).Select(w => w.Value));
            if (words.Length == 0) continue;
            if (match.Length > 0) match.Append(' ');
            match.Append('"').Append(words).Append('"');
            // The word under the cursor is still being typed.
            if (part == parts[^1] && !part.Groups[1].Success) match.Append('*');
        }
        return new FindQuery(match.ToString(), number, kind);
    }

    [GeneratedRegex(@"^(?:(slip|source|topic|piece|p)\s*)?(\d{1,9})$", RegexOptions.IgnoreCase)]
    private static partial Regex Numbered();

    [GeneratedRegex("\"([^\"]+)\"|[^\\s\"]+")]
    private static partial Regex Parts();

    [GeneratedRegex(@"[\p{L}\p{N}\p{M}]+")]
    private static partial Regex Word();
}
