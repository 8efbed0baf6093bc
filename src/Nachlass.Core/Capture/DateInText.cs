using System.Globalization;
using System.Text.RegularExpressions;

namespace Nachlass.Core.Capture;

/// <summary>Finds a date named in a line: <c>2026-12-10</c>, <c>10 Dec</c>, <c>Friday</c>, <c>tomorrow</c>, <c>in 2 weeks</c>.</summary>
public static partial class DateInText
{
    /// <summary>The first date named, or null. Days and months without a year are the next to come, today included.</summary>
    public static DateOnly? Find(string text, DateOnly today)
    {
        foreach (Match m in Candidates().Matches(text))
            if (Read(m, today) is { } date)
                return date;
        return null;
    }

    /// <summary>The day that somebody wrote into a field for one: a day and nothing else, or one in words such as <c>Friday</c>,
    /// <c>in 2 weeks</c>. Null when it is none.</summary>
    public static DateOnly? Written(string text, DateOnly today) =>
        Whole(text, today)
        ?? (Candidates().Match(text.Trim()) is { Success: true } m && m.Length == text.Trim().Length ? Read(m, today) : null);

    /// <summary>The day that a text is and nothing else: <c>2026-11-20</c>, <c>20.11.</c>, <c>20 November 2026</c>, <c>November 20</c>,
    /// <c>yesterday</c>. Without a year it is the nearest such day to today; null when it is none.</summary>
    public static DateOnly? Whole(string text, DateOnly today)
    {
        var typed = text.Trim().ToLowerInvariant();
        if (typed is "today" or "yesterday" or "tomorrow")
            return today.AddDays(
                typed == "yesterday" ? -1
                : typed == "tomorrow" ? 1
                : 0
            );
        if (Dated().Match(typed) is not { Success: true } m)
            return null;
        var named = m.Groups["name"].Value;
        var month =
            named.Length > 0
                ? Array.FindIndex(Months, named.StartsWith) + 1
                : int.Parse(m.Groups["month"].Value, CultureInfo.InvariantCulture);
        var day = int.Parse(m.Groups["day"].Value, CultureInfo.InvariantCulture);
        if (m.Groups["year"].Success)
            return On(int.Parse(m.Groups["year"].Value, CultureInfo.InvariantCulture), month, day);
        return Enumerable
            .Range(today.Year - 1, 3)
            .Select(year => On(year, month, day))
            .OfType<DateOnly>()
            .OrderBy(date => Math.Abs(date.DayNumber - today.DayNumber))
            .Select(date => (DateOnly?)date)
            .FirstOrDefault();
    }

    private static DateOnly? On(int year, int month, int day) =>
        year >= 1 && month is >= 1 and <= 12 && day >= 1 && day <= DateTime.DaysInMonth(year, month)
            ? new DateOnly(year, month, day)
            : null;

    [GeneratedRegex(
        """
            ^(?:(?<year>\d{4})-(?<month>\d{1,2})-(?<day>\d{1,2})
            |(?<day>\d{1,2})\.\s?(?<month>\d{1,2})\.(?:\s?(?<year>\d{4}))?
            |(?<day>\d{1,2})\.?\s+(?<name>jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\.?(?:\s+(?<year>\d{4}))?
            |(?<name>jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\.?\s+(?<day>\d{1,2})(?:,?\s+(?<year>\d{4}))?)$
            """,
        RegexOptions.IgnorePatternWhitespace
    )]
    private static partial Regex Dated();

    private static DateOnly? Read(Match m, DateOnly today)
    {
        if (m.Groups["iso"].Success)
            return DateOnly.TryParseExact(
                m.Groups["iso"].Value,
                "yyyy-MM-dd",
                CultureInfo.InvariantCulture,
                DateTimeStyles.None,
                out var iso
            )
                ? iso
                : null;
        if (m.Groups["rel"].Success)
        {
            var word = m.Groups["rel"].Value.ToLowerInvariant();
            return word == "today" ? today : today.AddDays(1);
        }
        if (m.Groups["count"].Success)
        {
            var count = int.Parse(m.Groups["count"].Value, CultureInfo.InvariantCulture);
            return m.Groups["unit"].Value[0] is 'w' or 'W' ? today.AddDays(7 * count) : today.AddDays(count);
        }
        if (m.Groups["weekday"].Success)
        {
            var weekday = Array.FindIndex(Weekdays, d => m.Groups["weekday"].Value.StartsWith(d, StringComparison.OrdinalIgnoreCase));
            return today.AddDays((weekday - (int)today.DayOfWeek + 7) % 7);
        }
        var month = Array.FindIndex(Months, n => m.Groups["month"].Value.StartsWith(n, StringComparison.OrdinalIgnoreCase)) + 1;
        var day = int.Parse(m.Groups["day"].Value, CultureInfo.InvariantCulture);
        for (var year = today.Year; year <= today.Year + 1; year++)
            if (day >= 1 && day <= DateTime.DaysInMonth(year, month) && new DateOnly(year, month, day) is var date && date >= today)
                return date;
        return null;
    }

    private static readonly string[] Weekdays = ["sun", "mon", "tue", "wed", "thu", "fri", "sat"];
    private static readonly string[] Months = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

    [GeneratedRegex(
        """
            \b(?:(?<iso>\d{4}-\d{2}-\d{2})
            |(?<rel>today|tomorrow)
            |in\s+(?<count>\d{1,3})\s+(?<unit>days?|weeks?)
            |(?<day>\d{1,2})(?:st|nd|rd|th)?\s+(?<month>jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?
                |aug(?:ust)?|sept?(?:ember)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?)
            |(?:(?:by|on|next|till|until)\s+)(?<weekday>mon|tue|wed|thu|fri|sat|sun)(?:day|sday|nesday|rsday|urday|s|rs)?
            |(?<weekday>monday|tuesday|wednesday|thursday|friday|saturday|sunday))\b
            """,
        RegexOptions.IgnoreCase | RegexOptions.IgnorePatternWhitespace
    )]
    private static partial Regex Candidates();
}
