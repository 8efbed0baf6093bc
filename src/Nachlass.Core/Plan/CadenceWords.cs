using System.Globalization;
using System.Text.RegularExpressions;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Plan;

/// <summary>
/// A cadence in words: “every second Thursday”, “the second to last Monday of the month”, “weekdays, except in August”. What is
/// said is read again as the same.
/// </summary>
public static partial class CadenceWords
{
    /// <summary>Longer than any sentence of the kind.</summary>
    public const int Longest = 300;

    private static readonly string[] Ordinals = ["", "first", "second", "third", "fourth", "fifth"];
    private static readonly string[] Numbers = ["", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"];

    private static readonly string[] MonthNames =
    [
        .. CultureInfo.InvariantCulture.DateTimeFormat.MonthNames.Take(12).Select(name => name.ToLowerInvariant()),
    ];

    /// <summary>What is said of a recurrence; null for a rule that no sentence here says.</summary>
    public static string? Say(string rule) => Recurring.Of(rule) is { } told ? Say(told) : null;

    /// <summary>What is said of a recurrence.</summary>
    public static string Say(Recurring told)
    {
        var said = told.Unit switch
        {
            Every.Day => EveryOf(told.Count, "day"),
            Every.Week when told.Weekdays.Count == 0 => EveryOf(told.Count, "week"),
            Every.Week when told.Count == 1 && told.Weekdays.SequenceEqual(Recurring.WorkingDays) => "weekdays",
            Every.Week when told.Count == 1 && told.Weekdays.SequenceEqual(Recurring.Weekend) => "weekends",
            Every.Week when told.Count == 1 => $"every {Joined(told.Weekdays.Select(d => d.Day.ToString()))}",
            Every.Week when told is { Count: 2, Weekdays.Count: 1 } => $"every second {told.Weekdays[0].Day}",
            Every.Week => $"{EveryOf(told.Count, "week")} on {Joined(told.Weekdays.Select(d => d.Day.ToString()))}",
            Every.Month when OfMonth(told) is { } days => told.Count == 1
                ? $"the {days} of the month"
                : $"{EveryOf(told.Count, "month")} on the {days}",
            Every.Month => EveryOf(told.Count, "month"),
            _ when told.MonthDays is [var day] => $"{EveryOf(told.Count, "year")} on {day} {MonthName(told.Months[0])}",
            _ => EveryOf(told.Count, "year"),
        };
        return told.Unit == Every.Year || told.Months.Count == 0 ? said
            : told.Months.Count <= 6 ? $"{said}, only in {Joined(told.Months.Select(MonthName))}"
            : $"{said}, except in {Joined(Enumerable.Range(1, 12).Except(told.Months).Select(MonthName))}";
    }

    /// <summary>Reads a cadence from words, or from a rule as RFC 5545 has it.</summary>
    /// <returns>The rule.</returns>
    /// <exception cref="BadInputException">It can't be read, or never means anything.</exception>
    public static string Read(string words)
    {
        var text = Check.Text("words", words, Longest);
        if (text.StartsWith("FREQ=", StringComparison.OrdinalIgnoreCase))
            return text;
        return (Understood(text) ?? throw new BadInputException("words", NotRead(text))).Rule;
    }

    private static string NotRead(string text) =>
        $"“{text}” can't be read as a cadence. It can be said like “every second Thursday”, “first and third Friday”, "
        + "“the 15th of the month”, “weekdays except in August”.";

    private static Recurring? Understood(string text)
    {
        var plain = Spaces().Replace(text.ToLowerInvariant().Replace(',', ' '), " ").Trim().TrimEnd('.');
        List<int> months = [];
        if (InMonths().Match(plain) is { Success: true } only)
        {
            if (MonthsIn(only.Groups["months"].Value) is not { } named)
                return null;
            months = only.Groups["not"].Success ? [.. Enumerable.Range(1, 12).Except(named)] : named;
            if (months.Count == 0)
                return null;
            plain = plain[..only.Index].TrimEnd();
        }
        var read = Whole(plain);
        if (read is null || (read.Unit == Every.Year && months.Count > 0))
            return null;
        return months.Count is 0 or 12 ? read : read with { Months = Recurring.InOrder(months) };
    }

    private static Recurring? Whole(string plain)
    {
        switch (plain)
        {
            case "daily":
                return Each(Every.Day, 1);
            case "weekly":
                return Each(Every.Week, 1);
            case "fortnightly" or "every fortnight":
                return Each(Every.Week, 2);
            case "monthly":
                return Each(Every.Month, 1);
            case "yearly":
                return Each(Every.Year, 1);
            case "weekdays" or "every weekday" or "working days" or "every working day":
                return Each(Every.Week, 1) with { Weekdays = Recurring.WorkingDays };
            case "weekends" or "every weekend":
                return Each(Every.Week, 1) with { Weekdays = Recurring.Weekend };
        }
        if (EveryUnit().Match(plain) is { Success: true } unit)
        {
            if (CountIn(unit.Groups["count"].Value) is not { } count)
                return null;
            var on = unit.Groups["on"].Value;
            return unit.Groups["unit"].Value switch
            {
                "day" => on == "" ? Each(Every.Day, count) : null,
                "week" when on == "" => Each(Every.Week, count),
                "week" => WeekdaysIn(on) is { } days ? Each(Every.Week, count) with { Weekdays = days } : null,
                "month" when on == "" => Each(Every.Month, count),
                "month" => DaysOfMonth(on, count),
                _ when on == "" => Each(Every.Year, count),
                _ => DayOfYear(on, count),
            };
        }
        if (EveryDays().Match(plain) is { Success: true } each && WeekdaysIn(each.Groups["days"].Value) is { } weekdays)
            return CountIn(each.Groups["count"].Value) is { } count ? Each(Every.Week, count) with { Weekdays = weekdays } : null;
        if (WeekdaysIn(plain) is { } plural)
            return Each(Every.Week, 1) with { Weekdays = plural };
        // “Every third Friday” is that of each month; weeks are counted by “every three weeks on Friday”.
        return DaysOfMonth(OfTheMonth().Replace(plain.StartsWith("every ", StringComparison.Ordinal) ? plain[6..] : plain, ""), 1);
    }

    private static Recurring Each(Every unit, int count) => new(unit, count, [], [], []);

    /// <summary>“first and third friday”, “last friday”, “15th”, “last day”, “first monday and third friday”.</summary>
    private static Recurring? DaysOfMonth(string text, int count)
    {
        var weekdays = new List<OnWeekday>();
        var days = new List<int>();
        var waiting = new List<int>();
        var isNumeral = true;
        var rest = text.Replace(" and ", " ", StringComparison.Ordinal).Trim();
        while (rest != "")
        {
            if (Nth().Match(rest) is { Success: true } nth && NthIn(nth) is { } place)
            {
                waiting.Add(place);
                isNumeral &= char.IsAsciiDigit(rest[0]);
                rest = rest[nth.Length..].TrimStart();
                continue;
            }
            var word = rest.Split(' ', 2)[0];
            rest = rest[word.Length..].TrimStart();
            if (waiting.Count == 0)
                return null;
            if (word == "day")
                days.AddRange(waiting);
            else if (WeekdayIn(word) is { } weekday && waiting.All(n => n is >= -5 and <= 5))
                weekdays.AddRange(waiting.Select(n => new OnWeekday(weekday, n)));
            else
                return null;
            waiting.Clear();
            isNumeral = true;
        }
        // Days of the month are named by their numbers alone.
        if (waiting.Count > 0 && !isNumeral)
            return null;
        days.AddRange(waiting);
        if (days.Any(d => d is < -31 or > 31) || (weekdays.Count == 0) == (days.Count == 0))
            return null;
        return Each(Every.Month, count) with { Weekdays = Recurring.InOrder(weekdays), MonthDays = Recurring.InOrder(days) };
    }

    private static Recurring? DayOfYear(string text, int count) =>
        DayAndMonth().Match(text) is { Success: true } date
        && MonthsIn(date.Groups["month"].Value) is [var month]
        && int.Parse(date.Groups["day"].Value, CultureInfo.InvariantCulture) is >= 1 and var day
        && day <= DateTime.DaysInMonth(2024, month)
            ? Each(Every.Year, count) with
            {
                MonthDays = [day],
                Months = [month],
            }
            : null;

    /// <summary>Weekdays by their names, in the plural as well; null when there is another word among them.</summary>
    private static IReadOnlyList<OnWeekday>? WeekdaysIn(string text)
    {
        var days = text.Split(' ', StringSplitOptions.RemoveEmptyEntries).Where(word => word != "and").Select(WeekdayIn).ToList();
        return days.Count == 0 || days.Contains(null) ? null : Recurring.InOrder(days.Select(day => new OnWeekday(day!.Value)));
    }

    private static DayOfWeek? WeekdayIn(string word) =>
        Enum.GetValues<DayOfWeek>()
            .Cast<DayOfWeek?>()
            .FirstOrDefault(day =>
                day.ToString()!.ToLowerInvariant() is var name && (word == name || word == name + "s" || word == name[..3])
            );

    private static List<int>? MonthsIn(string text)
    {
        var months = text.Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Where(word => word is not ("and" or "or"))
            .Select(word => Array.FindIndex(MonthNames, name => name == word || name[..3] == word) + 1)
            .ToList();
        return months.Count == 0 || months.Contains(0) ? null : months;
    }

    /// <summary>“2”, “two”, “second”, “other”; nothing is one.</summary>
    private static int? CountIn(string text) =>
        text switch
        {
            "" => 1,
            "other" => 2,
            _ when int.TryParse(text.TrimEnd('s', 't', 'n', 'd', 'r', 'h'), CultureInfo.InvariantCulture, out var count) => count
                is >= 1
                    and <= Recurring.MostCount
                ? count
                : null,
            _ when Array.IndexOf(Ordinals, text) is > 0 and var nth => nth,
            _ when Array.IndexOf(Numbers, text) is > 0 and var number => number,
            _ => null,
        };

    private static int? NthIn(Match nth)
    {
        var toLast = nth.Groups["last"].Success;
        var word = nth.Groups["nth"].Value;
        if (word == "")
            return -1;
        var place = Array.IndexOf(Ordinals, word) is > 0 and var known ? known : int.Parse(word[..^2], CultureInfo.InvariantCulture);
        return place < 1 ? null
            : toLast ? -place
            : place;
    }

    private static string? OfMonth(Recurring told)
    {
        if (told.MonthDays.Count > 0)
            return told.MonthDays is [-1]
                ? "last day"
                : Joined(told.MonthDays.Select(day => NthOfMonth(day))) + (told.MonthDays[^1] < 0 ? " day" : "");
        if (told.Weekdays.Count == 0)
            return null;
        // One weekday with several places is said once; several are said each with its own.
        return told.Weekdays.Select(d => d.Day).Distinct().Count() == 1
            ? $"{Joined(told.Weekdays.Select(d => NthOf(d.Nth)))} {told.Weekdays[0].Day}"
            : Joined(told.Weekdays.Select(d => $"{NthOf(d.Nth)} {d.Day}"));
    }

    private static string NthOf(int nth) =>
        nth switch
        {
            -1 => "last",
            < 0 => $"{Ordinals[-nth]} to last",
            _ => Ordinals[nth],
        };

    private static string NthOfMonth(int day) =>
        day is < 0 and >= -5 ? NthOf(day)
        : day < 0 ? $"{Numeral(-day)} to last"
        : Numeral(day);

    private static string Numeral(int day) =>
        day.ToString(CultureInfo.InvariantCulture)
        + (
            day % 100 is 11 or 12 or 13
                ? "th"
                : (day % 10) switch
                {
                    1 => "st",
                    2 => "nd",
                    3 => "rd",
                    _ => "th",
                }
        );

    private static string EveryOf(int count, string unit) =>
        count switch
        {
            1 => $"every {unit}",
            2 => $"every second {unit}",
            _ when count < Numbers.Length => $"every {Numbers[count]} {unit}s",
            _ => $"every {count.ToString(CultureInfo.InvariantCulture)} {unit}s",
        };

    private static string MonthName(int month) => CultureInfo.InvariantCulture.DateTimeFormat.GetMonthName(month);

    private static string Joined(IEnumerable<string> parts)
    {
        var all = parts.ToList();
        return all.Count < 2 ? string.Concat(all) : $"{string.Join(", ", all.SkipLast(1))} and {all[^1]}";
    }

    [GeneratedRegex(@"\s+")]
    private static partial Regex Spaces();

    [GeneratedRegex(@" (?:(?<not>except|but not|not)|only|but only)?(?: ?)in (?<months>[a-z ]+)$")]
    private static partial Regex InMonths();

    [GeneratedRegex(@"^every (?:(?<count>\w+) )?(?<unit>day|week|month|year)s?(?: on (?:the )?(?<on>.+))?$")]
    private static partial Regex EveryUnit();

    [GeneratedRegex(@"^every (?:(?<count>other|second|\d+) )?(?<days>[a-z ]+)$")]
    private static partial Regex EveryDays();

    [GeneratedRegex(@"^the |(?: (?:of|in))? (?:the|each|every) month$")]
    private static partial Regex OfTheMonth();

    [GeneratedRegex(@"^(?:the )?(?:(?<nth>first|second|third|fourth|fifth|\d{1,2}(?:st|nd|rd|th))(?<last>(?: to |-to-)last)?|last)(?= |$)")]
    private static partial Regex Nth();

    [GeneratedRegex(@"^(?:(?<day>\d{1,2})(?:st|nd|rd|th)?(?: of)? (?<month>[a-z]+))$")]
    private static partial Regex DayAndMonth();
}
