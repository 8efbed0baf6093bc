using System.Globalization;

namespace Nachlass.Core.Plan;

/// <summary>A share of a week's work.</summary>
/// <param name="Missing">Hours of it that fit nowhere before its date.</param>
public sealed record LoadOf(int Key, double Hours, double Missing);

/// <summary>How full a week is.</summary>
/// <param name="Monday">Its first day.</param>
/// <param name="Week">Its number (ISO 8601).</param>
/// <param name="Hours">Hours there are; of the present week those from today on.</param>
/// <param name="Load">Hours of work that stand in it, with what fits nowhere before a date in it.</param>
/// <param name="By">Whose, the most first.</param>
public sealed record WeekLoad(DateOnly Monday, int Week, double Hours, double Load, IReadOnlyList<LoadOf> By)
{
    /// <summary>Hours by which it is too full.</summary>
    public double Over => Math.Max(0, Load - Hours);

    /// <summary>The Monday of a day's week.</summary>
    public static DateOnly MondayOf(DateOnly day) => day.AddDays(-(((int)day.DayOfWeek + 6) % 7));

    /// <summary>The weeks from one day's to another's. What is missing before a date stands in the week of that date, since that is the
    /// week in which it would have to be made up.</summary>
    public static IReadOnlyList<WeekLoad> Of(Worked worked, WorkCalendar calendar, DateOnly today, DateOnly from, DateOnly to)
    {
        var missing = worked.Works.Where(w => w.Missing > 0).ToLookup(w => MondayOf(w.Due < today ? today : w.Due));
        var weeks = new List<WeekLoad>();
        for (var monday = MondayOf(from); monday <= to; monday = monday.AddDays(7))
        {
            var days = Enumerable.Range(0, 7).Select(monday.AddDays).Where(d => d >= today).ToList();
            var by = days.SelectMany(d => worked.Days.GetValueOrDefault(d) ?? Empty)
                .GroupBy(d => d.Key)
                .ToDictionary(g => g.Key, g => g.Sum(d => d.Value));
            var lacking = missing[monday].ToDictionary(w => w.Key, w => w.Missing);
            weeks.Add(
                new WeekLoad(
                    monday,
                    ISOWeek.GetWeekOfYear(monday.ToDateTime(default)),
                    days.Sum(calendar.On),
                    by.Values.Sum() + lacking.Values.Sum(),
                    [
                        .. by
                            .Keys.Union(lacking.Keys)
                            .Select(key => new LoadOf(
                                key,
                                by.GetValueOrDefault(key) + lacking.GetValueOrDefault(key),
                                lacking.GetValueOrDefault(key)
                            ))
                            .OrderByDescending(l => l.Hours)
                            .ThenBy(l => l.Key),
                    ]
                )
            );
        }
        return weeks;
    }

    private static readonly IReadOnlyDictionary<int, double> Empty = new Dictionary<int, double>();
}
