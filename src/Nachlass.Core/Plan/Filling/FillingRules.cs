namespace Nachlass.Core.Plan.Filling;

/// <summary>What a filling is worth, and what it may not do. The constants are ours; docs/planning.md says what they mean.</summary>
public sealed class FillingRules
{
    /// <summary>What being on time for an occasion adds at most, where worth goes to 100.</summary>
    public const double Timeliness = 25;

    /// <summary>What one more of a topic that is under its wish adds.</summary>
    public const double Mix = 20;

    /// <summary>So many days before an occasion something on it is not timed to it yet.</summary>
    public const int BeforeOccasion = 21;

    /// <summary>So many days after it has begun something on it is too late.</summary>
    public const int AfterOccasion = 3;

    private const double Nothing = 1e-9;

    private readonly FillingCase its;
    private readonly double[,] values;
    private readonly double[,] hours;

    /// <summary>For each place the first of the days up to which free hours are counted that its work has to fit before.</summary>
    private readonly int[] checkedFrom;

    // As plain numbers, since pairs are looked at a million times.
    private readonly int[] dayOf;
    private readonly int?[] topicOf;
    private readonly (int Series, int Nth)?[] inSeries;

    public FillingRules(FillingCase filling)
    {
        its = filling;
        (values, hours) = (new double[Places, Candidates], new double[Places, Candidates]);
        checkedFrom = new int[Places];
        dayOf = [.. its.Places.Select(p => p.Date.DayNumber)];
        topicOf = [.. its.Candidates.Select(c => c.Topic)];
        inSeries = [.. its.Candidates.Select(c => c.InSeries)];
        for (var p = 0; p < Places; p++)
        {
            checkedFrom[p] = its.Free.Count(f => f.Day < its.Places[p].Date);
            for (var c = 0; c < Candidates; c++)
                values[p, c] = ValueOf(p, c);
        }
        SharedTopics =
        [
            .. filling
                .Candidates.Where(c => c.Topic is not null)
                .GroupBy(c => c.Topic!.Value)
                .Where(g => g.Count() > 1)
                .Select(g => g.Key)
                .Order(),
        ];
        List<(int First, int Last)> near = [];
        for (var first = 0; first < Places; first++)
        {
            var last = first;
            while (last + 1 < Places && IsTooNear(its.Places[first].Date, its.Places[last + 1].Date))
                last++;
            if (last > first && (near.Count == 0 || near[^1].Last < last))
                near.Add((first, last));
        }
        Near = near;
    }

    /// <summary>Stretches of places of which no two may be on one topic, from the first to the last, each as long as can be; only those
    /// of more than one place.</summary>
    public IReadOnlyList<(int First, int Last)> Near { get; }

    /// <summary>Topics that more than one candidate is on, each once.</summary>
    public IReadOnlyList<int> SharedTopics { get; }

    public int Places => its.Places.Count;
    public int Candidates => its.Candidates.Count;
    public FillingCase Case => its;

    /// <summary>What a candidate adds on a place, the mix left out; not a number where it may not stand there whatever else does.</summary>
    public double Value(int place, int candidate) => values[place, candidate];

    public bool MayStand(int place, int candidate) => !double.IsNaN(values[place, candidate]);

    /// <summary>Hours it takes on a place.</summary>
    public double Hours(int place, int candidate) => hours[place, candidate];

    public int CheckedFrom(int place) => checkedFrom[place];

    /// <summary>On time for an occasion: 1 on the day it begins, falling to nothing three weeks before it and three days after.</summary>
    public static double OnTime(DateOnly date, DateOnly occasion) =>
        (occasion.DayNumber - date.DayNumber) switch
        {
            >= 0 and < BeforeOccasion and var before => 1 - before / (double)BeforeOccasion,
            < 0 and > -AfterOccasion and var after => 1 + after / (double)AfterOccasion,
            _ => 0,
        };

    private double ValueOf(int p, int c)
    {
        var (place, candidate) = (its.Places[p], its.Candidates[c]);
        if (!candidate.Hours.TryGetValue(place.Format, out var needed))
            return double.NaN;
        hours[p, c] = needed;
        if (candidate.Outlet is { } only && only != place.Outlet)
            return double.NaN;
        for (var day = checkedFrom[p]; day < its.Free.Count; day++)
            if (needed > its.Free[day].Hours + Nothing)
                return double.NaN;
        if (candidate.Topic is { } topic && its.Taken.TryGetValue(topic, out var taken) && taken.Any(day => IsTooNear(day, place.Date)))
            return double.NaN;
        if (
            candidate.InSeries is { } at
            && its.Fixed.Any(f => f.Series == at.Series && (f.Nth < at.Nth ? f.Date >= place.Date : f.Date <= place.Date))
        )
            return double.NaN;
        return candidate.Worth + Timeliness * candidate.Occasions.Select(day => OnTime(place.Date, day)).DefaultIfEmpty(0).Max();
    }

    private bool IsTooNear(DateOnly one, DateOnly other) => Math.Abs(one.DayNumber - other.DayNumber) < its.Spacing;

    /// <summary>Whether two candidates may stand on two places.</summary>
    public bool GoTogether(int place, int candidate, int otherPlace, int otherCandidate)
    {
        var (day, otherDay) = (dayOf[place], dayOf[otherPlace]);
        if (topicOf[candidate] is { } topic && topic == topicOf[otherCandidate] && Math.Abs(day - otherDay) < its.Spacing)
            return false;
        return inSeries[candidate] is not { } a
            || inSeries[otherCandidate] is not { } b
            || a.Series != b.Series
            || (a.Nth < b.Nth ? day < otherDay : day > otherDay);
    }

    /// <summary>What a filling adds up to: the values of its places, and the mix for as many of each topic as are wished.</summary>
    /// <param name="on">For each place its candidate, or -1.</param>
    public double Worth(ReadOnlySpan<int> on)
    {
        double sum = 0;
        var left = new Dictionary<int, int>(its.Wished);
        for (var p = 0; p < on.Length; p++)
        {
            if (on[p] < 0)
                continue;
            sum += values[p, on[p]];
            if (its.Candidates[on[p]].Topic is { } topic && left.GetValueOrDefault(topic) > 0)
            {
                left[topic]--;
                sum += Mix;
            }
        }
        return sum;
    }

    /// <summary>Whether a filling keeps to everything: each candidate once, the hours, the spacing and the order of series.</summary>
    public bool IsAllowed(ReadOnlySpan<int> on)
    {
        for (var p = 0; p < on.Length; p++)
            if (on[p] >= 0 && !MayPut(on, p, on[p]))
                return false;
        return true;
    }

    /// <summary>Whether a candidate may be put on a place, beside what stands on the others.</summary>
    public bool MayPut(ReadOnlySpan<int> on, int place, int candidate)
    {
        if (!MayStand(place, candidate))
            return false;
        for (var p = 0; p < on.Length; p++)
            if (p != place && on[p] >= 0 && (on[p] == candidate || !GoTogether(place, candidate, p, on[p])))
                return false;
        Span<double> needed = its.Free.Count <= 256 ? stackalloc double[its.Free.Count] : new double[its.Free.Count];
        needed.Clear();
        for (var p = 0; p < on.Length; p++)
        {
            var c = p == place ? candidate : on[p];
            if (c >= 0 && checkedFrom[p] < needed.Length)
                needed[checkedFrom[p]] += hours[p, c];
        }
        double sum = 0;
        for (var day = 0; day < needed.Length; day++)
            if ((sum += needed[day]) > its.Free[day].Hours + 1e-6)
                return false;
        return true;
    }
}
