using System.Text.RegularExpressions;
using Nachlass.Core.Choosing;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Plan;

/// <summary>How long after a missed date it comes once more, in words: <c>a week later</c>.</summary>
public static partial class FallbackWords
{
    /// <param name="days">Days later; null for not at all.</param>
    public static string Say(int? days) =>
        days switch
        {
            null => "",
            1 => "the next day",
            7 => "a week later",
            { } many when many % 7 == 0 => $"{In.Number(many / 7)} weeks later",
            { } many => $"{In.Number(many)} days later",
        };

    /// <summary>Days later; null for nothing said.</summary>
    /// <exception cref="BadInputException">It says no number of days.</exception>
    public static int? Read(string? words)
    {
        var said = (words ?? "").Trim().TrimEnd('.').ToLowerInvariant();
        if (said is "" or "no" or "none" or "never" or "not")
            return null;
        if (said is "the next day" or "next day" or "a day later" or "the day after" or "tomorrow")
            return 1;
        if (said is "the next week" or "next week" or "the week after")
            return 7;
        if (Pattern().Match(said) is { Success: true } found)
        {
            var many = found.Groups["many"].Value is "a" ? 1 : In.NumberOf(found.Groups["many"].Value) ?? 0;
            if (many > 0 && many <= Cadence.LongestFallback)
                return many * (found.Groups["unit"].Value == "week" ? 7 : 1);
        }
        throw new BadInputException(
            "fallback",
            $"“{words!.Trim()}” can't be read; a missed date comes again “the next day”, “a week later” or “10 days later”."
        );
    }

    [GeneratedRegex(@"^(?:in )?(?<many>a|\w+) (?<unit>day|week)s?(?: later| after)?$")]
    private static partial Regex Pattern();
}
