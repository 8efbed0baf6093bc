namespace Nachlass.Core.Plan;

/// <summary>Something that counts in a mix.</summary>
/// <param name="Key">By which the caller knows it.</param>
/// <param name="Amount">1 for a piece, or its words or hours.</param>
/// <param name="Of">What it is of: topics, or one format or outlet. It counts in equal parts for each.</param>
public sealed record Mixed(int Key, double Amount, IReadOnlyList<int> Of);

/// <summary>An exchange that would bring a mix nearer to its wish.</summary>
/// <param name="Out">What would leave.</param>
/// <param name="In">What would come.</param>
/// <param name="Before">How far off the wish it is, 0 to 1; see <see cref="Mix.Off"/>.</param>
/// <param name="After">How far off it would be.</param>
public sealed record Swap(int Out, int In, double Before, double After);

/// <summary>What is planned, in work or out, in shares of what it is of.</summary>
public static class Mix
{
    /// <summary>The share of each, 0 to 1; together 1, or nothing where there is nothing.</summary>
    public static IReadOnlyDictionary<int, double> Shares(IEnumerable<Mixed> things)
    {
        var sums = Sums(things);
        var all = sums.Values.Sum();
        return sums.ToDictionary(s => s.Key, s => all == 0 ? 0 : s.Value / all);
    }

    private static Dictionary<int, double> Sums(IEnumerable<Mixed> things)
    {
        var sums = new Dictionary<int, double>();
        foreach (var thing in things)
        foreach (var of in thing.Of)
            sums[of] = sums.GetValueOrDefault(of) + thing.Amount / thing.Of.Count;
        return sums;
    }

    /// <summary>How far shares are off the wished ones: half the sum of all differences (total variation distance), 0 for none, 1 for
    /// nothing in common.</summary>
    /// <param name="wished">By what it is of, 0 to 1; together 1 at most.</param>
    public static double Off(IReadOnlyDictionary<int, double> shares, IReadOnlyDictionary<int, double> wished) =>
        shares.Keys.Union(wished.Keys).Sum(key => Math.Abs(shares.GetValueOrDefault(key) - wished.GetValueOrDefault(key))) / 2;

    /// <summary>The one exchange that brings it nearest; null when none helps.</summary>
    /// <param name="planned">What could leave.</param>
    /// <param name="ready">What could come.</param>
    public static Swap? BestSwap(IReadOnlyList<Mixed> planned, IReadOnlyList<Mixed> ready, IReadOnlyDictionary<int, double> wished)
    {
        if (wished.Count == 0)
            return null;
        var before = Off(Shares(planned), wished);
        Swap? best = null;
        foreach (var leaves in planned)
        {
            var rest = planned.Where(p => p != leaves).ToList();
            // What is of the same is the same here: the first of them, which is the worthiest.
            foreach (var comes in ready.DistinctBy(r => (string.Join(' ', r.Of.Order()), r.Amount)))
                if (Off(Shares(rest.Append(comes)), wished) is var after && after < (best?.After ?? before) - 1e-9)
                    best = new Swap(leaves.Key, comes.Key, before, after);
        }
        return best;
    }
}
