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
