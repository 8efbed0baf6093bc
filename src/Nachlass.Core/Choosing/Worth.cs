using System.Runtime.CompilerServices;

namespace Nachlass.Core.Choosing;

/// <summary>The nine terms of one idea, each from 0 to 1, or not known.</summary>
[InlineArray(9)]
public struct TermValues
{
    private double first;

    /// <summary>Nothing known.</summary>
    public static TermValues Unknown
    {
        get
        {
            var values = new TermValues();
            ((Span<double>)values).Fill(double.NaN);
            return values;
        }
    }

    public static TermValues Of(IReadOnlyList<double?> values)
    {
        var made = Unknown;
        for (var i = 0; i < Math.Min(9, values.Count); i++)
            made[i] = values[i] ?? double.NaN;
        return made;
    }

    public readonly double? this[WorthTerm term] => double.IsNaN(this[(int)term]) ? null : this[(int)term];

    public readonly IReadOnlyList<double?> ToList()
    {
        var list = new double?[9];
        for (var i = 0; i < 9; i++)
            list[i] = this[(WorthTerm)i];
        return list;
    }
}

/// <summary>What is known of an idea, in numbers. Small enough to be made a hundred thousand times at a glance.</summary>
public readonly record struct Known
{
    public Known() { }

    /// <summary>1 to 5; null when it was not said.</summary>
    public int? Pull { get; init; }

    /// <summary>1 to 5; null when it was not said.</summary>
    public int? Effort { get; init; }

    /// <summary>Hours it would take; null when neither effort nor format was said.</summary>
    public double? Hours { get; init; }

    /// <summary>Hours the writer has now; null when that was not said.</summary>
    public double? HoursAtHand { get; init; }

    /// <summary>Things that lie ready for it; null while it has not been looked at.</summary>
    public int? Things { get; init; }

    /// <summary>What distinct readers' wishes weigh together; null when these papers know of no wishes.</summary>
    public double? Wishes { get; init; }

    /// <summary>Whether these papers know of any occasion on a topic, and this idea has a topic.</summary>
    public bool KnowsOccasions { get; init; }

    /// <summary>Days until the next occasion on its topics; null when none is ahead.</summary>
    public int? DaysUntil { get; init; }

    /// <summary>Days such a piece takes.</summary>
    public int DaysNeeded { get; init; } = 1;

    /// <summary>Its core topic's share of what went out and is in work, and the wished one; null when it is on no core topic.</summary>
    public (double Has, double Wished)? Share { get; init; }

    /// <summary>The share of it that stands in one passage of what went out, and how many days ago; null when nothing has gone out, or it
    /// has not been looked at.</summary>
    public (double Covered, int Days)? Said { get; init; }

    /// <summary>0 to 1; null when it is no claim and no question is tied to it.</summary>
    public double? Ripe { get; init; }

    /// <summary>Days since it was caught.</summary>
    public int Days { get; init; }

    /// <summary>The terms; what is not known is not a number.</summary>
    public TermValues Values()
    {
        var values = TermValues.Unknown;
        if (Pull is { } pull)
            values[(int)WorthTerm.Pull] = WorthTerms.Pull(pull);
        if (Hours is { } hours)
            values[(int)WorthTerm.Effort] = WorthTerms.Effort(hours, HoursAtHand);
        if (Things is { } things)
            values[(int)WorthTerm.Material] = WorthTerms.Material(things);
        if (Wishes is { } wishes)
            values[(int)WorthTerm.Asks] = WorthTerms.Asks(wishes);
        if (KnowsOccasions)
            values[(int)WorthTerm.Timeliness] = DaysUntil is { } until ? WorthTerms.Timeliness(until, DaysNeeded) : 0;
        if (Share is { } share)
            values[(int)WorthTerm.Mix] = WorthTerms.Mix(share.Has, share.Wished);
        if (Said is { } said)
            values[(int)WorthTerm.Novelty] = WorthTerms.Novelty(said.Covered, said.Days);
        if (Ripe is { } ripe)
            values[(int)WorthTerm.Ripeness] = ripe;
        values[(int)WorthTerm.Waiting] = WorthTerms.Waiting(Days);
        return values;
    }
}

/// <summary>How much now speaks for making something of an idea.</summary>
public static class Worth
{
    public const double Most = 100;

    /// <summary>The mean of the terms that are known, each counting by its weight, times a hundred. What is not known is left out, not
    /// counted as nothing.</summary>
    /// <returns>0 to 100; 0 when nothing that counts is known.</returns>
    public static double Of(in TermValues values, Weights weights)
    {
        double sum = 0,
            whole = 0;
        for (var i = 0; i < 9; i++)
        {
            if (double.IsNaN(values[i]))
                continue;
            sum += weights[i] * values[i];
            whole += weights[i];
        }
        return whole == 0 ? 0 : Most * sum / whole;
    }

    /// <inheritdoc cref="Of(in TermValues, Weights)"/>
    public static double Of(in Known known, Weights weights) => Of(known.Values(), weights);
}
