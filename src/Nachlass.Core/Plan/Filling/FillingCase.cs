namespace Nachlass.Core.Plan.Filling;

/// <summary>An open date to be filled.</summary>
/// <param name="Format">Key of the format that goes out on it.</param>
public sealed record Place(DateOnly Date, OutletNumber Outlet, string Format);

/// <summary>Something that could go out on an open date.</summary>
public sealed record Candidate
{
    /// <summary>By which the caller knows it; unique.</summary>
    public required int Key { get; init; }

    /// <summary>How much speaks for it, 0 to 100.</summary>
    public required double Worth { get; init; }

    /// <summary>Hours it still takes in each format it could go out in, by key; one that is not in it is not possible.</summary>
    public required IReadOnlyDictionary<string, double> Hours { get; init; }

    /// <summary>Its main topic, which counts in the mix; null where it has none.</summary>
    public int? Topic { get; init; }

    /// <summary>The next time something begins that it is timed to, and what.</summary>
    public IReadOnlyList<DateOnly> Occasions { get; init; } = [];

    /// <summary>The outlet it has to go out on; null for any.</summary>
    public OutletNumber? Outlet { get; init; }

    /// <summary>The series it is of, and its place in it.</summary>
    public (int Series, int Nth)? InSeries { get; init; }
}

/// <summary>All that a filling is made from.</summary>
public sealed record FillingCase
{
    /// <summary>In the order of dates.</summary>
    public required IReadOnlyList<Place> Places { get; init; }

    public required IReadOnlyList<Candidate> Candidates { get; init; }

    /// <summary>How many more of each topic are wished among the places; topics that are not in it have no wish.</summary>
    public IReadOnlyDictionary<int, int> Wished { get; init; } = new Dictionary<int, int>();

    /// <summary>Free hours from today up to each of some days, in the order of days; work for a date has to fit before every day from its
    /// date on.</summary>
    public IReadOnlyList<(DateOnly Day, double Hours)> Free { get; init; } = [];

    /// <summary>Days on which each topic goes out or is planned already.</summary>
    public IReadOnlyDictionary<int, IReadOnlyList<DateOnly>> Taken { get; init; } = new Dictionary<int, IReadOnlyList<DateOnly>>();

    /// <summary>Dates of series that are fixed.</summary>
    public IReadOnlyList<(int Series, int Nth, DateOnly Date)> Fixed { get; init; } = [];

    /// <summary>Two things on one topic are at least so many days apart.</summary>
    public int Spacing { get; init; }

    /// <summary>How often it is tried again to better what was found, while it is not near the bound.</summary>
    public int Rounds { get; init; } = 3;
}

/// <summary>A candidate on a place.</summary>
/// <param name="Place">Which place, from 0.</param>
/// <param name="Candidate">Which candidate, from 0.</param>
/// <param name="Value">What it adds, the mix left out.</param>
public readonly record struct Filled(int Place, int Candidate, double Value);

/// <summary>A proposal.</summary>
/// <param name="Filled">In the order of dates.</param>
/// <param name="Value">What all of it adds up to.</param>
/// <param name="Bound">More than any filling could add up to, or exactly as much.</param>
public sealed record Proposal(IReadOnlyList<Filled> Filled, double Value, double Bound);
