namespace Nachlass.Core.Plan.Filling;

/// <summary>
/// Fills open dates so that worth, timeliness and mix add up to most. A few dates are solved exactly, by going through all fillings that
/// could still be better (branch and bound). For many, the prices of hours are moved until their bound is low (subgradient steps: Held,
/// Wolfe and Crowder 1974); each solution on the way is mended to one that is allowed and bettered by exchanging until nothing helps.
/// The same case always gives the same filling.
/// </summary>
public static class Filler
{
    /// <summary>So many dates and candidates are solved exactly.</summary>
    public const int FewPlaces = 8,
        FewCandidates = 12;

    private const int LeastSteps = 40,
        MostSteps = 200,
        MendEvery = 4,
        MostNodes = 400_000;

    /// <summary>Steps by places and candidates that are gone in about the same time.</summary>
    private const int Effort = 400_000;

    /// <summary>So near the bound a filling is good enough.</summary>
    private const double NearEnough = 0.002;

    public static Proposal Fill(FillingCase filling)
    {
        var rules = new FillingRules(filling);
        var relaxation = new Relaxation(rules);
        var alike = Working.Alike(rules);
        var prices = new double[relaxation.Limits];
        var on = new int[rules.Places];
        var best = new int[rules.Places];
        Array.Fill(best, -1);
        var (most, bound) = (0.0, double.PositiveInfinity);
        var scale = 1.0;
        var since = 0;
        var steps = Math.Clamp(Effort / Math.Max(1, rules.Places * rules.Candidates), LeastSteps, MostSteps);
        for (var step = 0; step < steps; step++)
        {
            var now = relaxation.Solve(prices, on);
            if (now < bound - 1e-9)
                (bound, since) = (now, 0);
            else if (++since == 4)
                (scale, since) = (scale / 2, 0);
            var over = relaxation.Over(on);
            // Solutions beside one another are mended to much the same.
            if (step % MendEvery == 0)
            {
                var mended = Mended(rules, alike, on);
                Better(rules, mended, isThorough: false);
                if (rules.Worth(mended.On) is var worth && worth > most + 1e-9)
                    (most, best) = (worth, mended.On);
            }
            if (most >= bound * (1 - NearEnough) || over.All(o => o <= 1e-9) && prices.All(p => p == 0))
                break;
            // What is not reached and costs nothing says nothing about the way.
            for (var limit = 0; limit < prices.Length; limit++)
                if (over[limit] < 0 && prices[limit] == 0)
                    over[limit] = 0;
            var length = over.Sum(o => o * o);
            if (length < 1e-9)
                break;
            var pace = scale * (now - most) / length;
            for (var limit = 0; limit < prices.Length; limit++)
                prices[limit] = Math.Max(0, prices[limit] + pace * over[limit]);
        }
        if (most < bound * (1 - NearEnough))
        {
            var last = Mended(rules, alike, best);
            Better(rules, last, isThorough: true);
            (most, best) = (rules.Worth(last.On), last.On);
        }
        if (rules.Places <= FewPlaces && rules.Candidates <= FewCandidates && Exact(rules, best, most) is { } exact)
            (best, most, bound) = (exact, rules.Worth(exact), rules.Worth(exact));
        return new Proposal(
            [.. best.Select((c, p) => (c, p)).Where(x => x.c >= 0).Select(x => new Filled(x.p, x.c, rules.Value(x.p, x.c)))],
            most,
            Math.Max(most, bound)
        );
    }

    /// <summary>Keeps of a solution what is allowed beside the rest of it, the most valuable for the hours it takes first.</summary>
    private static Working Mended(FillingRules rules, int[][] alike, int[] wanted)
    {
        var working = new Working(rules, alike);
        var order = Enumerable
            .Range(0, wanted.Length)
            .Where(p => wanted[p] >= 0)
            .OrderByDescending(p => rules.Value(p, wanted[p]) / Math.Sqrt(1 + rules.Hours(p, wanted[p])))
            .ThenBy(p => p);
        foreach (var p in order)
            if (working.MayPut(p, wanted[p]))
                working.Put(p, wanted[p]);
        return working;
    }

    /// <summary>Puts in, exchanges and moves as long as that adds anything.</summary>
    /// <param name="isThorough">Whether two are also put in for one or two that leave, which takes long.</param>
    private static void Better(FillingRules rules, Working working, bool isThorough)
    {
        var on = working.On;
        for (var isBetter = true; isBetter; )
        {
            isBetter = false;
            for (var p = 0; p < on.Length; p++)
                isBetter |= PutsIn(p) || Exchanges(p);
            if (!isBetter && isThorough)
                for (var p = 0; p < on.Length && !isBetter; p++)
                    isBetter = on[p] >= 0 && MakesRoom(p);
        }

        bool PutsIn(int p)
        {
            if (on[p] >= 0 || working.BestFor(p) is not { Candidate: >= 0 and var c })
                return false;
            working.Put(p, c);
            return true;
        }

        // Another comes to a place: from nowhere, or from its own, where what stood here goes.
        bool Exchanges(int p)
        {
            var had = on[p];
            var lost = had >= 0 ? working.Take(p) : 0;
            var (with, gain) = (-1, 1e-9);
            for (var c = 0; c < rules.Candidates; c++)
            {
                if (c == had || !rules.MayStand(p, c))
                    continue;
                var from = working.PlaceOf(c);
                var left = from >= 0 ? working.Take(from) : 0;
                if (working.MayPut(p, c))
                {
                    var adds = working.Adds(p, c);
                    if (from >= 0 && had >= 0 && rules.MayStand(from, had))
                    {
                        working.Put(p, c);
                        if (working.MayPut(from, had))
                            adds += working.Adds(from, had);
                        working.Take(p);
                    }
                    if (adds - left - lost > gain)
                        (with, gain) = (c, adds - left - lost);
                }
                if (from >= 0)
                    working.Put(from, c);
            }
            if (with < 0)
            {
                if (had >= 0)
                    working.Put(p, had);
                return false;
            }
            var came = working.PlaceOf(with);
            if (came >= 0)
                working.Take(came);
            working.Put(p, with);
            if (came >= 0 && had >= 0 && working.MayPut(came, had))
                working.Put(came, had);
            return true;
        }

        // One leaves, and two others come where it was and where something better had no room for it.
        bool MakesRoom(int p)
        {
            var had = on[p];
            var lost = working.Take(p);
            for (var q = 0; q < on.Length; q++)
            {
                var stood = on[q];
                var gone = stood >= 0 && q != p ? working.Take(q) : 0;
                var (first, adds) = working.BestFor(q);
                if (first >= 0)
                {
                    working.Put(q, first);
                    var (second, more) = q == p ? (-1, 0) : working.BestFor(p);
                    if (adds + more - lost - gone > 1e-9)
                    {
                        if (second >= 0)
                            working.Put(p, second);
                        return true;
                    }
                    working.Take(q);
                }
                if (stood >= 0 && q != p)
                    working.Put(q, stood);
            }
            working.Put(p, had);
            return false;
        }
    }

    /// <summary>The best filling of all; null when there are too many to go through.</summary>
    private static int[]? Exact(FillingRules rules, int[] start, double worth)
    {
        // What could be added from a place on at most, whatever stands before it.
        var rest = new double[rules.Places + 1];
        for (var p = rules.Places - 1; p >= 0; p--)
            rest[p] =
                rest[p + 1]
                + Enumerable
                    .Range(0, rules.Candidates)
                    .Where(c => rules.MayStand(p, c))
                    .Select(c => rules.Value(p, c) + (IsWished(c) ? FillingRules.Mix : 0))
                    .DefaultIfEmpty(0)
                    .Max();
        var (best, most, nodes) = (start, worth, 0);
        var on = new int[rules.Places];
        Array.Fill(on, -1);
        return Try(0) ? best : null;

        bool IsWished(int c) => rules.Case.Candidates[c].Topic is { } topic && rules.Case.Wished.GetValueOrDefault(topic) > 0;

        bool Try(int p)
        {
            if (++nodes > MostNodes)
                return false;
            var now = rules.Worth(on);
            if (now > most + 1e-9)
                (best, most) = ((int[])on.Clone(), now);
            if (p == rules.Places || now + rest[p] <= most + 1e-9)
                return true;
            for (var c = 0; c < rules.Candidates; c++)
            {
                if (!rules.MayPut(on, p, c))
                    continue;
                on[p] = c;
                var isThrough = Try(p + 1);
                on[p] = -1;
                if (!isThrough)
                    return false;
            }
            return Try(p + 1);
        }
    }
}
