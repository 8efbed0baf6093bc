using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Capture;

/// <summary>The number of an occasion.</summary>
public readonly record struct OccasionNumber(int Value) : INumber<OccasionNumber>
{
    public static OccasionNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out OccasionNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>A dated event or season.</summary>
/// <param name="From">Its first day.</param>
/// <param name="To">Its last day, not before the first.</param>
/// <param name="EveryYear">Whether it comes again each year on the same dates.</param>
public sealed record Occasion(OccasionNumber Number, string Name, DateOnly From, DateOnly To, bool EveryYear)
{
    public const int LongestName = 200;

    /// <summary>The topics it is on; where there are none, it is on those that its name names.</summary>
    public IReadOnlyList<TopicMark> Topics { get; init; } = [];

    /// <summary>How it comes again where its date moves, as <see cref="OccasionDates"/> keeps it; null where it does not.</summary>
    public string? Recurs { get; init; }

    /// <summary>The same in words.</summary>
    public string? RecursSaid => Recurs is null ? null : OccasionDates.Say(Recurs);

    /// <summary>The next day after <paramref name="day"/> on which it begins; null when it never does again.</summary>
    public DateOnly? NextStart(DateOnly day)
    {
        if (Recurs is not null)
            return First(day.AddDays(1));
        if (From > day)
            return From;
        if (!EveryYear)
            return null;
        for (var years = Math.Max(1, day.Year - From.Year); ; years++)
            if (From.AddYears(years) > day)
                return From.AddYears(years);
    }

    /// <summary>The next time it is, or is still going on, on or after a day; null when it is over.</summary>
    public (DateOnly From, DateOnly To)? Next(DateOnly day)
    {
        var length = To.DayNumber - From.DayNumber;
        if (Recurs is not null)
            return First(day.AddDays(-length)) is { } start ? (start, start.AddDays(length)) : null;
        if (To >= day || !EveryYear)
            return To >= day ? (From, To) : null;
        // AddYears moves 29 February to the 28th in common years, as RFC 5545 readers mostly do.
        for (var years = Math.Max(0, day.Year - From.Year - 1); ; years++)
            if (From.AddYears(years).AddDays(length) is var to && to >= day)
                return (From.AddYears(years), to);
    }

    private DateOnly? First(DateOnly day)
    {
        foreach (var start in OccasionDates.From(Recurs!, From, day))
            return start;
        return null;
    }
}
