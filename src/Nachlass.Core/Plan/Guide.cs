using Nachlass.Core.Papers;

namespace Nachlass.Core.Plan;

/// <summary>The number of a line of a guide.</summary>
public readonly record struct GuideLineNumber(int Value) : INumber<GuideLineNumber>
{
    public static GuideLineNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out GuideLineNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>When a guide renews itself.</summary>
public enum GuideEvery
{
    Day,
    Week,
    Month,
}

/// <summary>A line that is gone through every day, week or month.</summary>
/// <param name="DoneOn">The day it was last ticked; null for never.</param>
public sealed record GuideLine(GuideLineNumber Number, GuideEvery Every, string Text, DateOnly? DoneOn, int Version = 1)
{
    public const int LongestText = 500;

    /// <summary>The first day of the present day, week (from Monday) or month.</summary>
    public static DateOnly Begins(GuideEvery every, DateOnly today) =>
        every switch
        {
            GuideEvery.Day => today,
            GuideEvery.Week => WeekLoad.MondayOf(today),
            _ => new DateOnly(today.Year, today.Month, 1),
        };

    /// <summary>Whether it is ticked; with the next day, week or month it is not any more.</summary>
    public bool IsDone(DateOnly today) => DoneOn >= Begins(Every, today) && DoneOn <= today;
}
