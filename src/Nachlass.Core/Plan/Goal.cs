using System.Globalization;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Plan;

/// <summary>The number of a goal.</summary>
public readonly record struct GoalNumber(int Value) : INumber<GoalNumber>
{
    public static GoalNumber Of(int value) => new(value);

    public static bool TryParse(string? text, out GoalNumber number) => NumberText.TryParse(text, out number);

    public override string ToString() => NumberText.Format(Value);
}

/// <summary>What a goal counts.</summary>
public enum GoalOf
{
    /// <summary>Pieces that went out.</summary>
    Released,

    /// <summary>Words that were written.</summary>
    Words,

    /// <summary>Readers, as the writer counts them.</summary>
    Readers,
}

/// <summary>A figure to be reached by a day.</summary>
/// <param name="Format">Only pieces of this format count; null for all. Of released alone.</param>
/// <param name="From">Counted from this day on.</param>
/// <param name="By">To be reached on this day.</param>
/// <param name="Readers">Readers there are now, and those there were on the first day; of readers alone.</param>
public sealed record Goal(
    GoalNumber Number,
    GoalOf Of,
    int Target,
    DateOnly From,
    DateOnly By,
    string? Format = null,
    int Readers = 0,
    int ReadersBefore = 0
)
{
    public const int Most = 100_000_000;

    /// <exception cref="BadInputException">It can't be reached, or ends before it begins.</exception>
    public Goal Checked()
    {
        if (Target is < 1 or > Most)
            throw new BadInputException("target", $"A goal is from 1 to {Most:N0}.");
        if (Readers is < 0 or > Most || ReadersBefore is < 0 or > Most)
            throw new BadInputException("readers", $"Readers are from 0 to {Most:N0}.");
        if (!Check.IsDay(From) || !Check.IsDay(By))
            throw new BadInputException("by", "The day is in the years 1000 to 8999.");
        if (By <= From)
            throw new BadInputException("by", "A goal ends after the day it counts from.");
        return this;
    }

    /// <summary>How it stands.</summary>
    /// <param name="reached">What was reached by today.</param>
    public GoalProgress Progress(int reached, DateOnly today)
    {
        var all = By.DayNumber - From.DayNumber;
        var gone = Math.Clamp(today.DayNumber - From.DayNumber, 0, all);
        // Of readers the growth goes on as it went; those there were before do not come a second time.
        var before = Of == GoalOf.Readers ? ReadersBefore : 0;
        var expected = gone == 0 ? (double?)null : before + (reached - before) * (double)all / gone;
        return new GoalProgress(
            reached,
            gone / (double)all,
            expected is { } at ? (int)Math.Round(at) : null,
            Say(reached, gone, all, expected)
        );
    }

    private string Say(int reached, int gone, int all, double? expected)
    {
        string N(double n) => Math.Round(n).ToString("N0", CultureInfo.InvariantCulture);
        var days = all - gone;
        var unit = Of switch
        {
            GoalOf.Released => "released",
            GoalOf.Words => "words",
            _ => "readers",
        };
        var now = $"{N(reached)} of {N(Target)} {unit}";
        if (reached >= Target)
            return $"{now}: reached{(days > 0 ? $", with {(days == 1 ? "a day" : $"{days} days")} to spare" : "")}.";
        if (days == 0)
            return $"{now}: its day is past, and {N(Target - reached)} are missing.";
        if (expected is not { } at)
            return $"{now}; it is counted from today on.";
        var left = days == 1 ? "a day" : $"{days} days";
        return at >= Target
            ? $"{now}, with {left} left; at this pace it is reached."
            : $"{now}, with {left} left; at this pace it will be {N(at)}, {N(Target - at)} short.";
    }
}

/// <summary>How a goal stands.</summary>
/// <param name="Reached">By today.</param>
/// <param name="TimeGone">Share of its time that is gone, 0 to 1.</param>
/// <param name="Expected">What it will be on its day at this pace; null on its first day.</param>
/// <param name="Says">The same in a sentence.</param>
public sealed record GoalProgress(int Reached, double TimeGone, int? Expected, string Says);
