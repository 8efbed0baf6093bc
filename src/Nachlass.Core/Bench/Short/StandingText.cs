using System.Globalization;
using System.Text.RegularExpressions;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Bench.Short;

/// <summary>The number of a standing text.</summary>
public readonly record struct StandingTextNumber(int Value) : INumber<StandingTextNumber>
{
    public static StandingTextNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out StandingTextNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>A text that is edited once and stands in many drafts: credits, a sign-off.</summary>
public sealed record StandingText(StandingTextNumber Number, string Name, string Text, int Version)
{
    public const int LongestName = 120,
        LongestText = 20_000;
}

/// <summary>Standing texts in drafts: <c>[[standing text 3]]</c>, in a line or by itself.</summary>
public static partial class StandingTexts
{
    public static string Written(StandingTextNumber number) => $"[[standing text {number}]]";

    /// <summary>The standing texts a draft names, each once, in order.</summary>
    public static IReadOnlyList<StandingTextNumber> In(string draft) =>
        draft.Contains("[[", StringComparison.Ordinal) ? [.. Named().Matches(draft).Select(Number).Distinct()] : [];

    /// <summary>The draft with its standing texts written out. They do not name one another.</summary>
    /// <param name="draft">The draft.</param>
    /// <param name="textOf">A standing text; null when there is none, and then its name stays.</param>
    public static string Filled(string draft, Func<StandingTextNumber, string?> textOf) =>
        draft.Contains("[[", StringComparison.Ordinal) ? Named().Replace(draft, m => textOf(Number(m))?.Trim() ?? m.Value) : draft;

    private static StandingTextNumber Number(Match match) =>
        StandingTextNumber.Of(int.Parse(match.Groups[1].Value, CultureInfo.InvariantCulture));

    [GeneratedRegex(@"\[\[\s*standing text\s+([1-9]\d{0,8})\s*\]\]", RegexOptions.IgnoreCase)]
    private static partial Regex Named();
}
