using System.Globalization;
using System.Text.RegularExpressions;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>How much a text has against a limit.</summary>
public sealed record Measured(int Has, int Most, MeasuredIn In)
{
    public bool IsOver => Has > Most;
}

/// <summary>Counts texts as limits count them.</summary>
public static partial class Measure
{
    /// <param name="markdown">The text; marks and our own references don't count.</param>
    /// <param name="limit">The limit.</param>
    /// <param name="limits">How the format counts.</param>
    public static Measured Of(string markdown, Limit limit, FormatLimits limits)
    {
        if (limit.In == MeasuredIn.Words)
            return new Measured(Counts.Of(markdown).Words, limit.Most, limit.In);
        // An address counts as what it will be and not as it stands; what stands for it is one character of its own.
        var text = markdown = Remarks.Without(markdown);
        var links = 0;
        if (limits.LinkLength is { } length)
        {
            links = Address().Count(markdown) * (length - 1);
            text = Address().Replace(markdown, "\u2022");
        }
        var plain = PlainText.Of(text).ReplaceLineEndings("\n").Trim();
        var has =
            limits.CountAs == CharactersAs.CodeUnits
                ? plain.Replace("\n", "", StringComparison.Ordinal).Length
                : plain.Split('\n').Sum(line => new StringInfo(line).LengthInTextElements);
        return new Measured(has + links, limit.Most, limit.In);
    }

    [GeneratedRegex(@"https?://[^\s<>()\[\]]+")]
    private static partial Regex Address();
}
