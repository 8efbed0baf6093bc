namespace Nachlass.Core.Catalogue.Figures;

/// <summary>Where a value lies, as far as so few can say.</summary>
/// <param name="Low">95 in 100 such intervals hold the true value; so does this end.</param>
public readonly record struct Interval(double Low, double High);

/// <summary>Honest intervals for few values. The same values always give the same interval.</summary>
public static class Intervals
{
    /// <summary>How often the values are drawn anew.</summary>
    public const int Draws = 2_000;

    /// <summary>The two-sided 95 % of the normal distribution.</summary>
    public const double Usual = 1.959964;

    /// <summary>
    /// A share of some: the score interval (Wilson, <i>Journal of the American Statistical Association</i> 22 (1927)), which holds for few
    /// and for shares near none and all too.
    /// </summary>
    /// <param name="of">How many there are, 1 or more.</param>
    /// <param name="z">The normal quantile of how sure it is.</param>
    public static Interval Wilson(int count, int of, double z = Usual)
    {
        var (p, square) = ((double)count / of, z * z);
        var middle = p + square / (2 * of);
        var half = z * Math.Sqrt(p * (1 - p) / of + square / (4.0 * of * of));
        return new Interval(Math.Max(0, (middle - half) / (1 + square / of)), Math.Min(1, (middle + half) / (1 + square / of)));
    }

    /// <summary>The difference of two shares, from their score intervals (Newcombe, <i>Statistics in Medicine</i> 17 (1998),
    /// method 10).</summary>
    public static Interval Difference((int Count, int Of) one, (int Count, int Of) other, double z = Usual)
    {
        var (p, q) = ((double)one.Count / one.Of, (double)other.Count / other.Of);
        var (a, b) = (Wilson(one.Count, one.Of, z), Wilson(other.Count, other.Of, z));
        return new Interval(
            p - q - Math.Sqrt((p - a.Low) * (p - a.Low) + (b.High - q) * (b.High - q)),
            p - q + Math.Sqrt((a.High - p) * (a.High - p) + (q - b.Low) * (q - b.Low))
        );
    }

    /// <summary>
    /// What is made of some values, by drawing as many of them again and again, each draw with all of them (the percentile bootstrap:
    /// Efron, <i>Annals of Statistics</i> 7 (1979)).
    /// </summary>
    /// <param name="count">How many values there are, 1 or more.</param>
    /// <param name="of">What is made of those at some places; NaN where nothing can be.</param>
    /// <param name="sure">How sure it is, such as 0.95.</param>
    /// <param name="seed">Above 0.</param>
    public static Interval Bootstrap(int count, Func<int[], double> of, double sure = 0.95, uint seed = 1)
    {
        var chance = new Chance(seed);
        var places = new int[count];
        var made = new List<double>(Draws);
        for (var draw = 0; draw < Draws; draw++)
        {
            Draw(places, chance);
            if (of(places) is var one && !double.IsNaN(one))
                made.Add(one);
        }
        return Ends(made, sure);
    }

    /// <summary>The difference of what is made of two groups, drawn from each by itself.</summary>
    /// <inheritdoc cref="Bootstrap(int, Func{int[], double}, double, uint)"/>
    public static Interval Difference(
        int count,
        Func<int[], double> of,
        int otherCount,
        Func<int[], double> ofOther,
        double sure = 0.95,
        uint seed = 1
    )
    {
        var chance = new Chance(seed);
        var (places, others) = (new int[count], new int[otherCount]);
        var made = new List<double>(Draws);
        for (var draw = 0; draw < Draws; draw++)
        {
            Draw(places, chance);
            Draw(others, chance);
            if (of(places) - ofOther(others) is var one && !double.IsNaN(one))
                made.Add(one);
        }
        return Ends(made, sure);
    }

    private static void Draw(int[] places, Chance chance)
    {
        for (var i = 0; i < places.Length; i++)
            places[i] = chance.Below(places.Length);
    }

    private static Interval Ends(List<double> made, double sure)
    {
        if (made.Count == 0)
            return new Interval(double.NaN, double.NaN);
        made.Sort();
        var cut = (1 - sure) / 2;
        return new Interval(At(cut), At(1 - cut));

        double At(double share) => made[Math.Clamp((int)Math.Round(share * (made.Count - 1)), 0, made.Count - 1)];
    }

    /// <summary>Numbers that look drawn and are the same each time: xorshift (Marsaglia, <i>Journal of Statistical Software</i> 8
    /// (2003)).</summary>
    private sealed class Chance(uint seed)
    {
        // Small seeds would begin with small numbers.
        private uint state = seed * 2_654_435_761u | 1;

        public int Below(int end)
        {
            state ^= state << 13;
            state ^= state >> 17;
            state ^= state << 5;
            return (int)(state * (ulong)end >> 32);
        }
    }
}
