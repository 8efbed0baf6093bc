using Nachlass.Core.Plan;
using Nachlass.Core.Plan.Filling;

namespace Nachlass.Core.Ideas.Month;

/// <summary>Fewer or more dates a week than the cadences have.</summary>
public static class HowOften
{
    /// <summary>So many dates in each week that begins on a Monday, as far as there are days for them: of more, some spread over the week
    /// stay; where there are fewer, working days without one are added, the best day of an outlet first.</summary>
    /// <param name="open">In the order of dates.</param>
    /// <param name="next">What a date that is added is for, one after the other: an outlet, its best day, and a format it takes; none
    /// where nothing can be added.</param>
    public static IReadOnlyList<Place> Of(
        IReadOnlyList<Place> open,
        int perWeek,
        DateOnly first,
        DateOnly last,
        IEnumerator<(OutletNumber Outlet, DayOfWeek? BestDay, string Format)> next
    )
    {
        var dates = new List<Place>();
        for (var monday = WeekLoad.MondayOf(first); monday <= last; monday = monday.AddDays(7))
        {
            var week = open.Where(p => p.Date >= monday && p.Date < monday.AddDays(7)).ToList();
            if (week.Count > perWeek)
                week = [.. Enumerable.Range(0, perWeek).Select(i => week[i * week.Count / perWeek])];
            var free = Enumerable
                .Range(0, 5)
                .Select(day => monday.AddDays(day))
                .Where(day => day >= first && day <= last && week.TrueForAll(p => p.Date != day))
                .ToList();
            while (week.Count < perWeek && free.Count > 0 && next.MoveNext())
            {
                var (outlet, best, format) = next.Current;
                var day = free.Find(d => d.DayOfWeek == best) is { DayNumber: > 0 } its ? its : Furthest(free, week);
                free.Remove(day);
                week.Add(new Place(day, outlet, format));
            }
            dates.AddRange(week);
        }
        return [.. dates.OrderBy(p => p.Date).ThenBy(p => p.Outlet.Value).ThenBy(p => p.Format, StringComparer.Ordinal)];
    }

    /// <summary>The day furthest from those that have a date.</summary>
    private static DateOnly Furthest(List<DateOnly> free, List<Place> week) =>
        free.OrderByDescending(day => week.Count == 0 ? 0 : week.Min(p => Math.Abs(p.Date.DayNumber - day.DayNumber)))
            .ThenBy(day => day)
            .First();
}
