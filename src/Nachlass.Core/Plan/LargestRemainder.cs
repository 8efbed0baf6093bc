namespace Nachlass.Core.Plan;

/// <summary>Whole numbers in proportion to shares, by the method of largest remainder (Hamilton's): each gets the whole part of its quota,
/// and those left over go to the largest rests.</summary>
public static class LargestRemainder
{
    /// <param name="shares">0 or more; their sum need not be 1.</param>
    /// <param name="total">How many are given out.</param>
    /// <returns>One for each share; together <paramref name="total"/>, or nothing where all shares are 0. Of equal rests the first is
    /// served first.</returns>
    public static IReadOnlyList<int> Of(IReadOnlyList<double> shares, int total)
    {
        var sum = shares.Sum();
        if (sum <= 0 || total <= 0)
            return new int[shares.Count];
        var quotas = shares.Select(share => total * share / sum).ToList();
        var given = quotas.Select(quota => (int)Math.Floor(quota + 1e-9)).ToArray();
        foreach (
            var at in Enumerable
                .Range(0, shares.Count)
                .OrderByDescending(i => quotas[i] - given[i])
                .ThenBy(i => i)
                .Take(total - given.Sum())
        )
            given[at]++;
        return given;
    }
}
