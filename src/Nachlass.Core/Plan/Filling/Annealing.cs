namespace Nachlass.Core.Plan.Filling;

/// <summary>
/// Betters a filling by small changes of which worse ones are let in too, less and less often (simulated annealing: Kirkpatrick, Gelatt
/// and Vecchi 1983). A change puts a candidate on a place, from nowhere or from its own, where what stood here goes if it may.
/// The same seed always gives the same filling.
/// </summary>
/// <param name="rules">What holds.</param>
/// <param name="likely">For each place the candidates that are tried on it.</param>
/// <param name="seed">Above 0.</param>
internal sealed class Annealing(FillingRules rules, int[][] likely, uint seed)
{
    /// <summary>A change that costs so much is let in once in e times at the start, and at the end: in the unit of worth.</summary>
    private const double Hot = 8,
        Cold = 0.5;

    private uint chance = seed;

    /// <returns>The best on the way: for each place its candidate, or -1.</returns>
    public int[] From(Working working, int changes)
    {
        var (best, now) = ((int[])working.On.Clone(), rules.Worth(working.On));
        var most = now;
        for (var i = 0; i < changes; i++)
        {
            var place = Next(rules.Places);
            if (likely[place].Length == 0)
                continue;
            var heat = Hot * Math.Pow(Cold / Hot, i / (double)changes);
            now += Change(working, place, likely[place][Next(likely[place].Length)], heat * Math.Log(Share()));
            if (now <= most + 1e-9)
                continue;
            most = now;
            working.On.CopyTo(best, 0);
        }
        return best;
    }

    /// <summary>Puts a candidate on a place if that adds so much at least, which may be less than nothing.</summary>
    /// <returns>What it added.</returns>
    private double Change(Working working, int place, int candidate, double least)
    {
        var (had, from) = (working.On[place], working.PlaceOf(candidate));
        if (had == candidate)
            return 0;
        var lost = (had >= 0 ? working.Take(place) : 0) + (from >= 0 ? working.Take(from) : 0);
        var adds = working.Adds(place, candidate) - lost;
        var changes = had >= 0 && from >= 0 && rules.MayStand(from, had);
        // Whether it may be takes longest to see; so first whether it would be let in.
        if (adds + (changes ? rules.Value(from, had) + FillingRules.Mix : 0) >= least && working.MayPut(place, candidate))
        {
            working.Put(place, candidate);
            changes = changes && working.MayPut(from, had);
            if (changes)
            {
                adds += working.Adds(from, had);
                working.Put(from, had);
            }
            if (adds >= least)
                return adds;
            if (changes)
                working.Take(from);
            working.Take(place);
        }
        if (from >= 0)
            working.Put(from, candidate);
        if (had >= 0)
            working.Put(place, had);
        return 0;
    }

    private int Next(int below) => (int)(Chance() % (uint)below);

    /// <returns>Above 0, at most 1.</returns>
    private double Share() => Chance() / (double)uint.MaxValue;

    /// <summary>Marsaglia's xorshift, <i>Journal of Statistical Software</i> 8 (2003), which never gives 0.</summary>
    private uint Chance()
    {
        chance ^= chance << 13;
        chance ^= chance >> 17;
        return chance ^= chance << 5;
    }
}
