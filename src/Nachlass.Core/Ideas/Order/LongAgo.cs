using Nachlass.Core.Choosing;

namespace Nachlass.Core.Ideas.Order;

/// <summary>How much a topic waits for something to go out on it.</summary>
public static class LongAgo
{
    /// <summary>Days after which what went out last stands in the way half as much. Ours.</summary>
    public const int Half = 120;

    /// <param name="days">Days since something went out on it last; null for never.</param>
    /// <param name="things">Slips and sources on it that wait: nothing can be made of nothing.</param>
    /// <param name="inWork">Pieces in work on it: each halves it.</param>
    /// <returns>0 to 1: 0 on the day itself; with much that waits ½ after <see cref="Half"/> days, nearly 1 where nothing ever went
    /// out.</returns>
    public static double Value(int? days, int things, int inWork) =>
        (days is { } since ? Math.Max(0, since) / (double)(Math.Max(0, since) + Half) : 1)
        * WorthTerms.Material(things)
        * Math.Pow(0.5, inWork);
}
