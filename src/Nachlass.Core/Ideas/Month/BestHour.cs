using System.Globalization;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Ideas.Month;

/// <summary>When on a day something best goes out, and why.</summary>
/// <param name="Hour">0 to 23, the writer's clock.</param>
public sealed record HourChosen(int Hour, string Because);

/// <summary>The hour that did best.</summary>
public static class BestHour
{
    /// <summary>Where nothing is known.</summary>
    public const int First = 9;

    /// <summary>The hour whose middle release reached most, where at least two hours have enough releases to be held against each other;
    /// else what the outlet has; else <see cref="First"/>.</summary>
    /// <param name="sent">Releases of the outlet by the hour they went out, with a figure of each.</param>
    public static HourChosen Of(IReadOnlyList<(int Hour, double Figure)> sent, int? own)
    {
        var hours = sent.GroupBy(s => s.Hour)
            .Where(g => g.Count() >= Middle.Few)
            .Select(g => (Hour: g.Key, Of: g.Count(), Middle: LeadTimes.Median([.. g.Select(s => s.Figure)])))
            .OrderByDescending(h => h.Middle)
            .ThenBy(h => h.Hour)
            .ToList();
        if (hours.Count > 1)
            return new HourChosen(
                hours[0].Hour,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"The middle of {hours[0].Of} releases at {hours[0].Hour}:00 reached {hours[0].Middle:0.#}, "
                        + $"of {hours[1].Of} at {hours[1].Hour}:00 {hours[1].Middle:0.#}."
                )
            );
        return own is { } hour
            ? new HourChosen(hour, $"The outlet’s own hour; {sent.Count} releases are too few to say better.")
            : new HourChosen(First, "No hour is set for the outlet, and too few releases say any.");
    }
}
