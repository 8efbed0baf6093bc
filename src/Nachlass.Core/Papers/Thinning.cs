namespace Nachlass.Core.Papers;

/// <summary>Which copies of the papers stay, so that they reach far back and do not fill the disk.</summary>
public static class Thinning
{
    /// <summary>So long every copy stays, one of each day, one of each week, and one of each month; then one of each year.</summary>
    public static readonly TimeSpan All = TimeSpan.FromDays(2),
        Daily = TimeSpan.FromDays(14),
        Weekly = TimeSpan.FromDays(70),
        Monthly = TimeSpan.FromDays(730);

    /// <summary>Those that go, given when each was made, in the writer's own time. Of each day, week, month or year the last one
    /// stays, and the newest of all always does.</summary>
    public static IReadOnlyList<DateTime> Gone(IReadOnlyList<DateTime> copies, DateTime now)
    {
        var newestFirst = copies.OrderDescending().ToList();
        var kept = new HashSet<string>();
        return [.. newestFirst.Skip(1).Where(at => !(now - at <= All || kept.Add(Stretch(at, now - at))) && at != newestFirst[0])];
    }

    /// <summary>The stretch of time of which one stays.</summary>
    private static string Stretch(DateTime at, TimeSpan age) =>
        age <= Daily ? $"day {DateOnly.FromDateTime(at).DayNumber}"
        : age <= Weekly ? $"week {(DateOnly.FromDateTime(at).DayNumber - 1) / 7}"
        : age <= Monthly ? $"month {at.Year * 12 + at.Month}"
        : $"year {at.Year}";

    /// <summary>The last time a daily copy was due, at or before now.</summary>
    public static DateTime LastDue(TimeOnly at, DateTime now)
    {
        var today = now.Date + at.ToTimeSpan();
        return today <= now ? today : today.AddDays(-1);
    }
}
