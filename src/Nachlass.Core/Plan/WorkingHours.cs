using Nachlass.Core.Papers;

namespace Nachlass.Core.Plan;

/// <summary>The number of a time away.</summary>
public readonly record struct AwayNumber(int Value) : INumber<AwayNumber>
{
    public static AwayNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out AwayNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>Days on which the writer does not work.</summary>
/// <param name="From">The first of them.</param>
/// <param name="To">The last of them, not before the first.</param>
/// <param name="Name">What they are: <c>Harnsby fair</c>.</param>
public sealed record Away(AwayNumber Number, DateOnly From, DateOnly To, string Name)
{
    public const int LongestName = 120;

    /// <exception cref="BadInputException">It ends before it begins, lies outside the calendar, or has no name.</exception>
    public Away Checked()
    {
        if (!Check.IsDay(From) || !Check.IsDay(To))
            throw new BadInputException("from", "Time away is in the years 1000 to 8999.");
        if (To < From)
            throw new BadInputException("to", "Time away ends on the day it begins or later.");
        return this with { Name = Check.Text("name", Name, LongestName) };
    }
}

/// <summary>Hours for writing on each weekday.</summary>
/// <param name="ByWeekday">Seven, from Monday; 0 to 24 each.</param>
public sealed record WorkingHours(IReadOnlyList<double> ByWeekday)
{
    /// <summary>What is taken until the writer says: two hours on each day of a working week.</summary>
    public static readonly WorkingHours Usual = new([2, 2, 2, 2, 2, 0, 0]);

    public double On(DayOfWeek day) => ByWeekday[((int)day + 6) % 7];

    public double AWeek => ByWeekday.Sum();

    /// <exception cref="BadInputException">They are not seven, or one is no number of hours of a day.</exception>
    public WorkingHours Checked() =>
        ByWeekday.Count != 7 ? throw new BadInputException("hours", "There are seven days, from Monday.")
        : ByWeekday.Any(h => !(h is >= 0 and <= 24)) ? throw new BadInputException("hours", "A day has 0 to 24 hours.")
        : this;

    public bool Equals(WorkingHours? other) => other is not null && ByWeekday.SequenceEqual(other.ByWeekday);

    public override int GetHashCode() => ByWeekday.Count;
}

/// <summary>The hours of each day: those of its weekday, none while the writer is away.</summary>
public sealed class WorkCalendar(WorkingHours hours, IReadOnlyList<Away> away)
{
    public double On(DateOnly day) => IsAway(day) ? 0 : hours.On(day.DayOfWeek);

    public bool IsAway(DateOnly day) => away.Any(a => a.From <= day && day <= a.To);
}
