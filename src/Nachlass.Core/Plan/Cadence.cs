using Ical.Net;
using Ical.Net.DataTypes;
using Ical.Net.Evaluation;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Plan;

/// <summary>Some days after one another.</summary>
/// <param name="From">The first.</param>
/// <param name="To">The last, not before the first.</param>
public sealed record Days(DateOnly From, DateOnly To)
{
    public bool Have(DateOnly day) => From <= day && day <= To;
}

/// <summary>One date of a cadence that is different.</summary>
/// <param name="Date">The date its rule gives.</param>
/// <param name="To">The day it is instead; null when it falls out.</param>
public sealed record OtherDate(DateOnly Date, DateOnly? To);

/// <summary>When pieces of a format go out on an outlet: an iCalendar recurrence rule (RFC 5545, 3.3.10) and the first date it
/// counts from.</summary>
/// <param name="Format">Key of the format.</param>
/// <param name="Rule">The rule: <c>FREQ=WEEKLY;INTERVAL=2;BYDAY=FR</c>. Rules by the day, week, month and year are taken, without an
/// end.</param>
/// <param name="From">The day it counts from.</param>
public sealed record Cadence(string Format, string Rule, DateOnly From)
{
    public const int LongestRule = 200,
        MostPauses = 50,
        MostOthers = 200,
        LongestFallback = 60;

    /// <summary>Where they go out.</summary>
    public OutletNumber Outlet { get; init; }

    /// <summary>The last day that may be a date; null when it goes on.</summary>
    public DateOnly? Until { get; init; }

    /// <summary>So many days later a date that was missed comes once more; null when it does not.</summary>
    public int? Fallback { get; init; }

    /// <summary>No date lies in these.</summary>
    public IReadOnlyList<Days> Pauses { get; init; } = [];

    public IReadOnlyList<OtherDate> Others { get; init; } = [];

    /// <summary>How far ahead dates are looked for: two years.</summary>
    public const int Horizon = 731;

    /// <summary>The cadence, if its rule can be read.</summary>
    /// <exception cref="BadInputException">It is no rule, one by the hour or shorter, or one that never comes.</exception>
    public Cadence Checked()
    {
        Parsed();
        if (!Check.IsDay(From) || Until is { } last && !Check.IsDay(last))
            throw new BadInputException("from", "A cadence counts from a day in the years 1000 to 8999.");
        if (Until < From)
            throw new BadInputException("until", "A cadence ends on the day it begins or later.");
        if (Fallback is < 1 or > LongestFallback)
            throw new BadInputException("fallback", $"A missed date comes again 1 to {LongestFallback} days later.");
        if (Pauses.Count > MostPauses || Pauses.Any(p => p.To < p.From || !Check.IsDay(p.From) || !Check.IsDay(p.To)))
            throw new BadInputException("pauses", $"There are at most {MostPauses} pauses, each ends on the day it begins or later.");
        if (Others.Count > MostOthers || Others.Any(o => !Check.IsDay(o.Date) || o.To is { } to && !Check.IsDay(to)))
            throw new BadInputException("others", $"There are at most {MostOthers} dates that are different.");
        // The day by day of forty years: 29 February on a Monday comes every twenty-eight.
        if (!Within(From, 366 * 40).Any())
            throw new BadInputException("rule", $"“{Rule}” never comes.");
        return this;
    }

    /// <summary>The dates it gives from a day on, within two years: those of its rule up to its end, without those in a pause, with those
    /// that are different at their own day.</summary>
    /// <param name="day">The first day that may be among them.</param>
    public IEnumerable<DateOnly> Dates(DateOnly day) => Dates(day, day.AddDays(Horizon));

    /// <inheritdoc cref="Dates(DateOnly)"/>
    /// <param name="last">The last day that may be among them.</param>
    public IEnumerable<DateOnly> Dates(DateOnly day, DateOnly last)
    {
        var moved = Others.Where(o => o.To >= day && o.To <= last && IsOne(o.Date)).Select(o => o.To!.Value).Distinct().Order().ToList();
        var next = 0;
        foreach (var date in Within(day, last.DayNumber - day.DayNumber).TakeWhile(d => !(d > Until)))
        {
            while (next < moved.Count && moved[next] < date)
                yield return moved[next++];
            if (next < moved.Count && moved[next] == date)
                next++;
            else if (Others.Any(o => o.Date == date) || Pauses.Any(p => p.Have(date)))
                continue;
            yield return date;
        }
        while (next < moved.Count)
            yield return moved[next++];
    }

    /// <summary>Whether the rule itself gives a day.</summary>
    private bool IsOne(DateOnly day) => !(day > Until) && Within(day, 0).Any();

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
/// <param name="InsteadOf">The date that was missed, where this one stands in for it.</param>
/// <param name="IsMissed">Whether it went by and nothing filled it.</param>
public sealed record PlannedDate(DateOnly Date, PieceNumber? Piece, string? Title, DateOnly? InsteadOf = null, bool IsMissed = false);
