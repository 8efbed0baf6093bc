namespace Nachlass.Core.Capture;

/// <summary>How regularly a writer writes.</summary>
/// <param name="DaysInARow">Days with writing or ideas up to today, days off neither counted nor missed; today itself may still be
/// empty.</param>
/// <param name="IdeasADay">Ideas a day over the counted days of the last <see cref="Span"/>, one decimal.</param>
public sealed record Rhythm(int DaysInARow, double IdeasADay)
{
    /// <summary>How many days back the mean looks, today included.</summary>
    public const int Span = 30;

    /// <summary>Computes it.</summary>
    /// <param name="written">Days with any writing or idea on them.</param>
    /// <param name="ideas">How many ideas were caught on a day.</param>
    /// <param name="today">The writer's day.</param>
    /// <param name="daysOff">Weekdays that don't count.</param>
    public static Rhythm Of(
        IReadOnlySet<DateOnly> written,
        IReadOnlyDictionary<DateOnly, int> ideas,
        DateOnly today,
        IReadOnlyCollection<DayOfWeek> daysOff
    )
    {
        var row = 0;
        // A year of nothing but days off and empty days ends it too.
        for (var (day, tried) = (today, 0); tried < 366 * 20; day = day.AddDays(-1), tried++)
        {
            if (written.Contains(day))
                row++;
            else if (day != today && !daysOff.Contains(day.DayOfWeek))
                break;
        }
        var span = Enumerable.Range(0, Span).Select(back => today.AddDays(-back)).ToList();
        // What was caught on a day off counts; only the empty ones are left out.
        var counted = span.Count(day => ideas.GetValueOrDefault(day) > 0 || !daysOff.Contains(day.DayOfWeek));
        var caught = span.Sum(day => ideas.GetValueOrDefault(day));
        return new Rhythm(row, counted == 0 ? 0 : Math.Round((double)caught / counted, 1, MidpointRounding.AwayFromZero));
    }
}
