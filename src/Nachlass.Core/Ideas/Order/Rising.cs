namespace Nachlass.Core.Ideas.Order;

/// <summary>Whether something comes up more than it did.</summary>
public enum Trend
{
    /// <summary>Whatever it did, there would be too few to tell.</summary>
    TooLittle,

    /// <summary>No more and no less than by chance.</summary>
    Same,
    Rises,
    Falls,
}

/// <summary>How often a topic came up lately against before.</summary>
/// <param name="Usual">How many there would be lately if its share were what it was in all.</param>
/// <param name="Chance">How likely so many, or so few, are by chance alone.</param>
/// <param name="Ratio">Lately against usual, held back where there are few.</param>
public sealed record RisingRead(Trend Trend, int Lately, double Usual, double Chance, double Ratio);

/// <summary>What rises, by counts over time against how much came up at all.</summary>
public static class Rising
{
    /// <summary>Days that are lately, and days before them that they are held against. Ours.</summary>
    public const int Lately = 90,
        Before = 365;

    /// <summary>One in so many finds is by chance, over all that is asked at once.</summary>
    private const double Sure = 0.05;

    /// <summary>
    /// An exact test of the table of texts lately and before, on the topic and not (Fisher, <i>Journal of the Royal Statistical
    /// Society</i> 98 (1935)): how likely so many are when just as many texts are drawn blindly. Each of several topics has to be that
    /// much surer (Bonferroni).
    /// </summary>
    /// <param name="lately">Texts on the topic lately, of <paramref name="allLately"/>.</param>
    /// <param name="before">Texts on it before, of <paramref name="allBefore"/>.</param>
    /// <param name="asked">How many topics are asked about at once, 1 or more.</param>
    public static RisingRead Of(int lately, int allLately, int before, int allBefore, int asked)
    {
        var (all, on) = (allLately + allBefore, lately + before);
        var usual = all == 0 ? 0 : on * (double)allLately / all;
        var ratio = Ratios.HeldBack(lately, usual);
        if (on == 0 || allLately == 0 || allBefore == 0)
            return new RisingRead(Trend.TooLittle, lately, usual, 1, ratio);
        // Each side by itself, so half of what may be wrong on each.
        var needed = Sure / 2 / Math.Max(1, asked);
        double Draw(int k) => Math.Exp(LogWays(on, k) + LogWays(all - on, allLately - k) - LogWays(all, allLately));
        var (fewest, most) = (Math.Max(0, allLately - (all - on)), Math.Min(on, allLately));
        double Tail(int from, int to) => Math.Min(1, Enumerable.Range(from, Math.Max(0, to - from + 1)).Sum(Draw));
        var isMore = lately >= usual;
        var chance = isMore ? Tail(lately, most) : Tail(fewest, lately);
        var trend =
            chance <= needed ? (isMore ? Trend.Rises : Trend.Falls)
            // What even all of them, or none, could not have shown.
            : Draw(most) > needed ? Trend.TooLittle
            : Trend.Same;
        return new RisingRead(trend, lately, usual, chance, ratio);
    }

    /// <summary>The logarithm of the number of ways to choose k of n.</summary>
    private static double LogWays(int n, int k) =>
        k < 0 || k > n ? double.NegativeInfinity : LogFactorial(n) - LogFactorial(k) - LogFactorial(n - k);

    /// <summary>log n!: summed where n is small, else by Stirling's series to 1/n³ (Abramowitz and Stegun, 6.1.41), right to
    /// 1e-10.</summary>
    private static double LogFactorial(int n)
    {
        if (n < 32)
        {
            var sum = 0.0;
            for (var i = 2; i <= n; i++)
                sum += Math.Log(i);
            return sum;
        }
        double x = n;
        return x * Math.Log(x) - x + Math.Log(2 * Math.PI * x) / 2 + 1 / (12 * x) - 1 / (360 * x * x * x);
    }
}
