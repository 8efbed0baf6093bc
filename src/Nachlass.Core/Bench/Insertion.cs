using Nachlass.Core.Capture;
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

    private static string Credit(Source? source, string locator)
    {
        if (source is null)
            return "";
        string[] parts = [source.Creators, $"*{source.Title}*", locator];
        return string.Join(", ", parts.Where(p => p.Length > 0));
    }
}
