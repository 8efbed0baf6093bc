using Nachlass.Core.Papers;

namespace Nachlass.Core.Plan;

/// <summary>Which dates of a cadence are filled, open or missed.</summary>
public static class CadenceDates
{
    /// <summary>Its dates from a day to another. One that went by unfilled is missed; where the cadence has a fallback, it comes once more
    /// that many days later, unless that is a date of its own anyway.</summary>
    /// <param name="filled">Pieces of its format and outlet by the day they are due or went out.</param>
    public static IReadOnlyList<PlannedDate> Between(
        Cadence cadence,
        IReadOnlyDictionary<DateOnly, (PieceNumber Number, string Title)> filled,
        DateOnly from,
        DateOnly to,
        DateOnly today
    )
    {
        // A date before the first day shown may come once more on one that is.
        var all = cadence.Dates(from.AddDays(-(cadence.Fallback ?? 0)), to).ToList();
        var own = all.ToHashSet();
        var dates = new List<PlannedDate>();
        foreach (var date in all)
        {
            var isMissed = date < today && !filled.ContainsKey(date);
            dates.Add(At(date) with { IsMissed = isMissed });
            if (isMissed && cadence.Fallback is { } later && date.AddDays(later) is var again && again <= to && !own.Contains(again))
                dates.Add(At(again) with { InsteadOf = date, IsMissed = again < today && !filled.ContainsKey(again) });
        }
        return [.. dates.Where(d => d.Date >= from).OrderBy(d => d.Date)];

        PlannedDate At(DateOnly date) => filled.TryGetValue(date, out var by) ? new(date, by.Number, by.Title) : new(date, null, null);
    }
}
