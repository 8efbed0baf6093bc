using Ical.Net;
using Ical.Net.DataTypes;
using Ical.Net.Evaluation;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Plan;

/// <summary>When pieces of a format go out: an iCalendar recurrence rule (RFC 5545, 3.3.10) and the first date it counts from.</summary>
/// <param name="Format">Key of the format.</param>
/// <param name="Rule">The rule: <c>FREQ=WEEKLY;INTERVAL=2;BYDAY=FR</c>. Rules by the day, week, month and year are taken, without an
/// end.</param>
/// <param name="From">The day it counts from.</param>
public sealed record Cadence(string Format, string Rule, DateOnly From)
{
    public const int LongestRule = 200;

    /// <summary>How far ahead dates are looked for: two years.</summary>
    public const int Horizon = 731;

    /// <summary>The cadence, if its rule can be read.</summary>
    /// <exception cref="BadInputException">It is no rule, one by the hour or shorter, or one that never comes.</exception>
    public Cadence Checked()
    {
        Parsed();
        // The day by day of forty years: 29 February on a Monday comes every twenty-eight.
        if (!Within(From, 366 * 40).Any())
            throw new BadInputException("rule", $"“{Rule}” never comes.");
        return this;
    }

    /// <summary>The dates it gives from a day on.</summary>
    /// <param name="day">The first day that may be among them.</param>
    public IEnumerable<DateOnly> Dates(DateOnly day) => Within(day, Horizon);

    private IEnumerable<DateOnly> Within(DateOnly day, int days)
    {
        var calendarEvent = new Ical.Net.CalendarComponents.CalendarEvent { Start = new CalDateTime(From), RecurrenceRule = Parsed() };
        using var occurrences = InCalendar(() => calendarEvent.GetOccurrences(new CalDateTime(day)).GetEnumerator());
        while (InCalendar(() => occurrences?.MoveNext() == true))
        {
            var date = DateOnly.FromDateTime(occurrences!.Current.Period.StartTime.Value);
            if (date.DayNumber > day.DayNumber + (long)days)
                yield break;
            if (date >= day)
                yield return date;
        }
    }

    /// <summary>Looks for a date; nothing where that leads out of the calendar: 30 February never comes.</summary>
    private static T? InCalendar<T>(Func<T> look)
    {
        try
        {
            return look();
        }
        catch (EvaluationException)
        {
            return default;
        }
    }

    /// <summary>The next date that no piece fills; null when there is none within the horizon.</summary>
    /// <param name="day">The first day that may be it.</param>
    /// <param name="filled">Days on which a piece of the format is due or went out.</param>
    public DateOnly? NextOpen(DateOnly day, IReadOnlySet<DateOnly> filled) =>
        Dates(day).Where(date => !filled.Contains(date)).Select(date => (DateOnly?)date).FirstOrDefault();

    private RecurrenceRule Parsed()
    {
        try
        {
            var rule = new RecurrenceRule(Check.Text("rule", Rule, LongestRule));
            if (rule.Frequency is FrequencyType.Daily or FrequencyType.Weekly or FrequencyType.Monthly or FrequencyType.Yearly)
                return rule;
        }
        catch (Exception error)
            when (error
                    is ArgumentException
                        or FormatException
                        or InvalidOperationException
                        or System.Runtime.Serialization.SerializationException
            ) { }
        throw new BadInputException("rule", $"“{Rule}” is no cadence; one looks like FREQ=WEEKLY;INTERVAL=2;BYDAY=FR.");
    }
}

/// <summary>A date of a cadence.</summary>
/// <param name="Piece">The piece that fills it; null while it is open.</param>
public sealed record PlannedDate(DateOnly Date, PieceNumber? Piece, string? Title);
