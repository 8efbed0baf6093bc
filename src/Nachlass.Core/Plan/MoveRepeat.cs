using Nachlass.Core.Capture;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Plan;

/// <summary>Moves that come again.</summary>
public static class MoveRepeat
{
    /// <summary>Reads how often from words, or a rule (RFC 5545, 3.3.10).</summary>
    /// <returns>The rule.</returns>
    /// <exception cref="BadInputException">It can't be read, or never comes.</exception>
    public static string Read(string said, DateOnly from)
    {
        try
        {
            return new Cadence("", CadenceWords.Read(said.Trim()), from).Checked().Rule;
        }
        catch (BadInputException error)
        {
            throw new BadInputException("repeats", error.Message);
        }
    }

    /// <summary>The day a move comes again: the next of its rule after the day it was due, and not before today; null when the rule
    /// ends.</summary>
    public static DateOnly? NextDue(string rule, DateOnly due, DateOnly today)
    {
        var after = due.AddDays(1);
        // Counted from the day it was due, so that “every second Friday” stays in step however late it was done.
        foreach (var day in new Cadence("", rule, due).Dates(after > today ? after : today))
            return day;
        return null;
    }

    /// <summary>The move that comes after one that is done; null when it does not come again.</summary>
    /// <param name="zone">Where the writer is: a reminder stays at its hour of the day.</param>
    public static Move? Next(Move done, DateOnly today, TimeZoneInfo zone)
    {
        var was = done.Due ?? today;
        if (done.Repeats is not { } rule || NextDue(rule, was, today) is not { } due)
            return null;
        var days = due.DayNumber - was.DayNumber;
        return done with
        {
            Due = due,
            Start = done.Start is { } start ? start.AddDays(days) : null,
            RemindAt = done.RemindAt is { } at ? Shifted(at, days, zone) : null,
            DoneAt = null,
            Follows = done.Number,
        };
    }

    private static DateTimeOffset Shifted(DateTimeOffset at, int days, TimeZoneInfo zone)
    {
        var local = TimeZoneInfo.ConvertTime(at, zone).DateTime.AddDays(days);
        // An hour that the clocks leave out is the one after it.
        if (zone.IsInvalidTime(local))
            local = local.AddHours(1);
        return new DateTimeOffset(local, zone.GetUtcOffset(local)).ToUniversalTime();
    }
}
