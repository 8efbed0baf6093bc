using System.Globalization;

namespace Nachlass.Core.Plan;

/// <summary>What a recurrence counts in.</summary>
public enum Every
{
    Day,
    Week,
    Month,
    Year,
}

/// <summary>A weekday of a recurrence.</summary>
/// <param name="Day">The weekday.</param>
/// <param name="Nth">Which one of the month, from 1, or from −1 from its end; 0 for each.</param>
public readonly record struct OnWeekday(DayOfWeek Day, int Nth = 0);

/// <summary>
/// What a recurrence rule says, as far as a sentence can say it: every so many days, weeks, months or years, on weekdays or on days of
/// the month, in some months. Lists are in order and without doubles.
/// </summary>
/// <param name="Unit">What is counted.</param>
/// <param name="Count">Every how many of them, from 1.</param>
/// <param name="Weekdays">On which weekdays; none: on that of the first date.</param>
/// <param name="MonthDays">On which days of the month, from 1, or from −1 from its end.</param>
/// <param name="Months">In which months, 1 to 12; none: in all.</param>
public sealed record Recurring(
    Every Unit,
    int Count,
    IReadOnlyList<OnWeekday> Weekdays,
    IReadOnlyList<int> MonthDays,
    IReadOnlyList<int> Months
)
{
    /// <summary>Longer than a working life in any unit; and what RFC 5545 readers agree on.</summary>
    public const int MostCount = 999;

    private static readonly DayOfWeek[] FromMonday =
    [
        DayOfWeek.Monday,
        DayOfWeek.Tuesday,
        DayOfWeek.Wednesday,
        DayOfWeek.Thursday,
        DayOfWeek.Friday,
        DayOfWeek.Saturday,
        DayOfWeek.Sunday,
    ];

    private static readonly string[] Codes = ["SU", "MO", "TU", "WE", "TH", "FR", "SA"];

    /// <summary>The days of a working week.</summary>
    public static IReadOnlyList<OnWeekday> WorkingDays { get; } = [.. FromMonday.Take(5).Select(day => new OnWeekday(day))];

    /// <summary>The days of a weekend.</summary>
    public static IReadOnlyList<OnWeekday> Weekend { get; } = [.. FromMonday.Skip(5).Select(day => new OnWeekday(day))];

    /// <summary>In order: by which of the month, the last ones last, then from Monday on.</summary>
    public static IReadOnlyList<OnWeekday> InOrder(IEnumerable<OnWeekday> days) =>
        [.. days.Distinct().OrderBy(d => Place(d.Nth)).ThenBy(d => Array.IndexOf(FromMonday, d.Day))];

    /// <summary>In order, counted from the end of the month last.</summary>
    public static IReadOnlyList<int> InOrder(IEnumerable<int> days) => [.. days.Distinct().OrderBy(Place)];

    private static int Place(int nth) => nth < 0 ? 100 + nth : nth;

    /// <summary>As a recurrence rule (RFC 5545, 3.3.10).</summary>
    public string Rule =>
        string.Join(
            ';',
            new[]
            {
                $"FREQ={Unit switch { Every.Day => "DAILY", Every.Week => "WEEKLY", Every.Month => "MONTHLY", _ => "YEARLY" }}",
                Count == 1 ? "" : $"INTERVAL={Count.ToString(CultureInfo.InvariantCulture)}",
                List("BYDAY", Weekdays.Select(d => (d.Nth == 0 ? "" : d.Nth.ToString(CultureInfo.InvariantCulture)) + Codes[(int)d.Day])),
                List("BYMONTHDAY", MonthDays.Select(d => d.ToString(CultureInfo.InvariantCulture))),
                List("BYMONTH", Months.Select(m => m.ToString(CultureInfo.InvariantCulture))),
            }.Where(part => part != "")
        );

    private static string List(string name, IEnumerable<string> parts) =>
        string.Join(',', parts) is { Length: > 0 } joined ? $"{name}={joined}" : "";

    /// <summary>What a rule says; null when it says something a sentence here can't (an end, a place in a set, an hour).</summary>
    public static Recurring? Of(string rule)
    {
        var parts = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
        foreach (var part in rule.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
            if (part.Split('=', 2) is not [var name, var value] || !parts.TryAdd(name.Trim(), value.Trim()))
                return null;
        // The week begins on Monday in any rule that does not say so; one that does, says nothing more.
        if (parts.TryGetValue("WKST", out var begins) && begins.Equals("MO", StringComparison.OrdinalIgnoreCase))
            parts.Remove("WKST");
        Every? unit = parts.GetValueOrDefault("FREQ")?.ToUpperInvariant() switch
        {
            "DAILY" => Every.Day,
            "WEEKLY" => Every.Week,
            "MONTHLY" => Every.Month,
            "YEARLY" => Every.Year,
            _ => null,
        };
        var known = parts.Keys.All(name => name.ToUpperInvariant() is "FREQ" or "INTERVAL" or "BYDAY" or "BYMONTHDAY" or "BYMONTH");
        if (
            unit is not { } counted
            || !known
            || !Number(parts.GetValueOrDefault("INTERVAL", "1"), 1, MostCount, out var count)
            || Each(parts, "BYDAY", Weekday) is not { } weekdays
            || Each<int>(parts, "BYMONTHDAY", text => Number(text, -31, 31, out var day) && day != 0 ? day : null) is not { } monthDays
            || Each<int>(parts, "BYMONTH", text => Number(text, 1, 12, out var month) ? month : null) is not { } months
        )
            return null;
        var told = new Recurring(counted, count, InOrder(weekdays), InOrder(monthDays), InOrder(months));
        return told.IsSayable ? told : null;
    }

    /// <summary>Whether a sentence can say it: what stands in it belongs to its unit.</summary>
    public bool IsSayable =>
        Unit switch
        {
            Every.Day => MonthDays.Count == 0 && Weekdays.Count == 0,
            Every.Week => MonthDays.Count == 0 && Weekdays.All(d => d.Nth == 0),
            Every.Month => (MonthDays.Count == 0 || Weekdays.Count == 0) && Weekdays.All(d => d.Nth is not 0 and >= -5 and <= 5),
            _ => Weekdays.Count == 0 && (MonthDays.Count, Months.Count) is (0, 0) or (1, 1) && MonthDays.All(d => d > 0),
        };

    private static List<T>? Each<T>(Dictionary<string, string> parts, string name, Func<string, T?> read)
        where T : struct
    {
        var all = new List<T>();
        foreach (
            var part in parts.GetValueOrDefault(name, "").Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
        )
            if (read(part) is { } one)
                all.Add(one);
            else
                return null;
        return all;
    }

    private static OnWeekday? Weekday(string text)
    {
        if (text.Length < 2 || Array.IndexOf(Codes, text[^2..].ToUpperInvariant()) is var day && day < 0)
            return null;
        if (text.Length == 2)
            return new OnWeekday((DayOfWeek)day);
        return Number(text[..^2], -53, 53, out var nth) && nth != 0 ? new OnWeekday((DayOfWeek)day, nth) : null;
    }

    private static bool Number(string text, int least, int most, out int number) =>
        int.TryParse(text, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out number) && number >= least && number <= most;

    public bool Equals(Recurring? other) =>
        other is not null
        && Unit == other.Unit
        && Count == other.Count
        && Weekdays.SequenceEqual(other.Weekdays)
        && MonthDays.SequenceEqual(other.MonthDays)
        && Months.SequenceEqual(other.Months);

    public override int GetHashCode() => HashCode.Combine(Unit, Count, Weekdays.Count, MonthDays.Count, Months.Count);
}
