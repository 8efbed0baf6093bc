using System.Globalization;
using System.Text.RegularExpressions;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;

namespace Nachlass.Core.Text.Queries;

/// <summary>What can be asked about besides words.</summary>
public enum QueryField
{
    Topic,
    Kind,
    State,
    Held,
    Effort,
    Pull,
    Worth,
    Since,
    Until,
    Used,
    Source,
    In,
    Link,
    Origin,
    Format,
    Stage,
    Due,
    Field,
}

/// <summary>What each field takes and means.</summary>
public static partial class QueryFields
{
    /// <summary>What a field asks, in a few words, for the completion.</summary>
    public static string About(QueryField field) =>
        field switch
        {
            QueryField.Topic => "on a topic, by any of its names, or on one under it",
            QueryField.Kind => "a kind of slip",
            QueryField.State => "where a slip stands",
            QueryField.Held => "what a held slip waits for",
            QueryField.Effort => "how much work it would be, 1 to 5",
            QueryField.Pull => "how much it draws you, 1 to 5",
            QueryField.Worth => "how much now speaks for making something of it, 0 to 100",
            QueryField.Since => "caught on or after a day",
            QueryField.Until => "caught on or before a day",
            QueryField.Used => "whether it stands in a piece",
            QueryField.Source => "a passage of a source",
            QueryField.In => "slips, sources, pieces, sheets, or the material of a piece",
            QueryField.Link => "what it links to",
            QueryField.Origin => "by which door it came in",
            QueryField.Stage => "where a piece stands",
            QueryField.Due => "the day a piece is due",
            QueryField.Field => "what stands in a field of a piece, such as field:venue=Harnsby",
            _ => "the format a slip would make or a piece has",
        };

    /// <summary>The values a field knows; empty when it takes names or numbers.</summary>
    public static IReadOnlyList<string> Values(QueryField field) =>
        field switch
        {
            QueryField.Topic => ["none"],
            QueryField.Kind => Names<SlipKind>(),
            QueryField.State => [.. Names<SlipState>(), "any"],
            QueryField.Held => HeldFor,
            QueryField.Effort or QueryField.Pull => ["1", "2", "3", "4", "5", "none"],
            QueryField.Worth => ["80", "70", "60", "50"],
            QueryField.Stage => [],
            QueryField.Field => [],
            QueryField.Due => ["none", "any", "today", "7d", "2w", "1m"],
            QueryField.Since or QueryField.Until => ["today", "yesterday", "7d", "2w", "3m", "1y"],
            QueryField.Used => ["yes", "no"],
            QueryField.Source or QueryField.Link => ["any", "none"],
            QueryField.In => Places,
            QueryField.Origin => Names<Origin>(),
            _ => ["none"],
        };

    private static readonly string[] HeldFor = ["date", "occasion", "sources", "look-up"];

    internal static readonly string[] Places = ["slips", "sources", "pieces", "sheets"];

    /// <summary>Whether a value could still become one the field takes.</summary>
    internal static bool IsBegun(QueryField field, string value) =>
        field is QueryField.Since or QueryField.Until
            ? Fault(field, Comparison.Is, value) is not null
                && (value.All(c => char.IsDigit(c) || c == '-') || Values(field).Any(v => v.StartsWith(value, StringComparison.Ordinal)))
            : !Values(field).Contains(value)
                && Fault(field, Comparison.Is, value) is not null
                && Values(field).Any(v => v.StartsWith(value, StringComparison.Ordinal));

    /// <summary>Whether a field can be compared by more or less.</summary>
    public static bool IsStep(QueryField field) => field is QueryField.Effort or QueryField.Pull or QueryField.Worth or QueryField.Due;

    /// <summary>What is wrong with a value, in a sentence; null when nothing is.</summary>
    internal static string? Fault(QueryField field, Comparison comparison, string value)
    {
        var name = field.ToString().ToLowerInvariant();
        if (comparison != Comparison.Is && !IsStep(field))
            return $"“{name}” is given with a colon; only effort, pull, worth and due go by more or less.";
        if (value.Length == 0)
            return $"“{name}” needs a value, such as {name}:{Example(field)}.";
        if (field == QueryField.Due && value is not "none" and not "any" && DueDay(value, false, new DateOnly(2000, 1, 1)) is null)
            return "A day is written 2026-03-14, 2026-03 or 2026, today, or as a time ahead: 7d, 2w, 3m.";
        if (comparison != Comparison.Is && value is "none" or "any")
            return $"“{name}” is compared with a number from 1 to 5.";
        return field switch
        {
            QueryField.Since or QueryField.Until => Day(value, false, new DateOnly(2000, 1, 1)) is null
                ? "A day is written 2026-03-14, 2026-03 or 2026, today, yesterday, or as a time ago: 7d, 2w, 3m, 1y."
                : null,
            QueryField.Worth => int.TryParse(value, NumberStyles.None, CultureInfo.InvariantCulture, out var worth) && worth <= 100
                ? null
                : "“worth” is compared with a number from 0 to 100, such as worth>=70.",
            QueryField.Topic or QueryField.Source or QueryField.In or QueryField.Link or QueryField.Format => null,
            QueryField.Stage or QueryField.Due => null,
            QueryField.Field => OwnField().IsMatch(value)
                ? null
                : "A field of a piece is asked by its name, or with a value: field:venue, field:venue=Harnsby, field:minutes<20.",
            _ => Values(field).Contains(value) ? null : $"“{value}” is no {name}; it can be {List(Values(field))}.",
        };
    }

    private static string Example(QueryField field) =>
        field switch
        {
            QueryField.Topic => "ferries",
            QueryField.Stage => "draft",
            QueryField.Field => "venue",
            QueryField.Format => "essay",
            _ => Values(field)[0],
        };

    /// <summary>The day a value of <c>due</c> stands for: as with <c>since</c>, but a time without a date lies ahead.</summary>
    public static DateOnly? DueDay(string value, bool isEnd, DateOnly today)
    {
        if (Ago().Match(value) is not { Success: true } ahead)
            return value == "yesterday" ? today.AddDays(-1) : Day(value, isEnd, today);
        var count = int.Parse(ahead.Groups[1].Value, CultureInfo.InvariantCulture);
        return ahead.Groups[2].Value switch
        {
            "d" => today.AddDays(count),
            "w" => today.AddDays(7 * count),
            "m" => today.AddMonths(count),
            _ => today.AddYears(count),
        };
    }

    /// <summary>A field of a piece's own with what is asked of it; no sign when it only has to be there.</summary>
    public static (string Key, string Sign, string Value) OwnFieldOf(string value)
    {
        var match = OwnField().Match(value);
        return (match.Groups[1].Value, match.Groups[2].Value, match.Groups[3].Value.Trim());
    }

    [GeneratedRegex(@"^\s*([\p{L}\p{N}][\p{L}\p{N}_ -]{0,60}?)\s*(?:(<=|>=|<|>|=)(.*))?$")]
    private static partial Regex OwnField();

    /// <summary>The day a value of <c>since</c> or <c>until</c> stands for.</summary>
    /// <param name="value">A date, a month, a year, <c>today</c>, <c>yesterday</c>, or a time ago.</param>
    /// <param name="isEnd">Whether the last day of a month or year is meant, as with <c>until</c>.</param>
    /// <param name="today">The day to count from.</param>
    /// <returns>Null when it is none of these.</returns>
    public static DateOnly? Day(string value, bool isEnd, DateOnly today)
    {
        if (value == "today")
            return today;
        if (value == "yesterday")
            return today.AddDays(-1);
        if (Ago().Match(value) is { Success: true } ago)
        {
            var count = int.Parse(ago.Groups[1].Value, CultureInfo.InvariantCulture);
            return ago.Groups[2].Value switch
            {
                "d" => today.AddDays(-count),
                "w" => today.AddDays(-7 * count),
                "m" => today.AddMonths(-count),
                _ => today.AddYears(-count),
            };
        }
        if (DateOnly.TryParseExact(value, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day))
            return day;
        if (
            DateOnly.TryParseExact(value + "-01", "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var month)
            && value.Length == 7
        )
            return isEnd ? month.AddMonths(1).AddDays(-1) : month;
        if (
            value.Length == 4
            && int.TryParse(value, NumberStyles.None, CultureInfo.InvariantCulture, out var year)
            && year is >= 1000 and <= 9998
        )
            return isEnd ? new DateOnly(year, 12, 31) : new DateOnly(year, 1, 1);
        return null;
    }

    private static string[] Names<T>()
        where T : struct, Enum => [.. Enum.GetNames<T>().Select(n => n.ToLowerInvariant())];

    private static string List(IReadOnlyList<string> values) =>
        values.Count < 2 ? string.Concat(values) : string.Join(", ", values.SkipLast(1)) + " or " + values[^1];

    [GeneratedRegex(@"^(\d{1,3})([dwmy])$")]
    private static partial Regex Ago();
}
