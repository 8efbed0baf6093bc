namespace Nachlass.Core.Plan.Filling;

/// <summary>
/// Fills open dates so that worth, timeliness and mix add up to most. Prices of hours and of nearness are moved until their bound is low
/// (subgradient steps: Held, Wolfe and Crowder 1974; each with some of the last one's direction: Camerini, Fratta and Maffioli 1975); what
/// they choose is mended to what is allowed and bettered by annealing, on each place with the candidates that cost the bound least. A few
/// dates are solved exactly after that, by going through all fillings that could still be better (branch and bound).
/// The same case always gives the same filling.
/// </summary>
public static class Filler
{
    /// <summary>Dates times candidates up to which a case is solved exactly.</summary>
    public const int Few = 96;

    private const int Steps = 60,
        MostNodes = 400_000;

    /// <summary>So many steps in vain, and the next are half as long.</summary>
    private const int Patience = 4;

    /// <summary>How much of the last direction goes into the next.</summary>
    private const double Kept = 0.7;

    /// <summary>So many candidates are tried on each place.</summary>
    private const int Likely = 30;

    /// <summary>Changes in a round for each place and candidate, at least and at most.</summary>
    private const int Changes = 100,
        FewestChanges = 30_000,
        MostChanges = 400_000;

    /// <summary>So near the bound a filling is good enough.</summary>
    private const double NearEnough = 0.012;

    public static Proposal Fill(FillingCase filling)
    {
        var rules = new FillingRules(filling);
        if (rules.Places == 0 || rules.Candidates == 0)
            return new Proposal([], 0, 0);
        var alike = Working.Alike(rules);
        var relaxation = new Relaxation(rules);
        var bound = Bound(rules, relaxation, alike);
        int[][] likely =
        [
            .. Enumerable
                .Range(0, rules.Places)
                .Select(p =>
                    Enumerable
                        .Range(0, rules.Candidates)
                        .Where(c => rules.MayStand(p, c))
                        .OrderBy(c => relaxation.Loss(p, c))
                        .Take(Likely)
                        .ToArray()
                ),
        ];
        var best = Mended(rules, alike, relaxation.On).On;
        var most = rules.Worth(best);
        for (var round = 1; round <= filling.Rounds && most < bound * (1 - NearEnough); round++)
        {
            var found = new Annealing(rules, likely, (uint)round).From(
                Mended(rules, alike, relaxation.On),
                Math.Clamp(Changes * rules.Places * rules.Candidates, FewestChanges, MostChanges)
            );
            if (rules.Worth(found) is var worth && worth > most)
                (best, most) = (found, worth);
        }
        if (rules.Places * rules.Candidates <= Few && Exact(rules, best, most) is { } exact)
            (best, most, bound) = (exact, rules.Worth(exact), rules.Worth(exact));
        return new Proposal(
            [.. best.Select((c, p) => (c, p)).Where(x => x.c >= 0).Select(x => new Filled(x.p, x.c, rules.Value(x.p, x.c)))],
            most,
            Math.Max(most, bound)
        );
    }

    /// <summary>The lowest bound that steps from no prices at all come to; the relaxation is left at its prices.</summary>
    private static double Bound(FillingRules rules, Relaxation relaxation, int[][] alike)
    {
        var (prices, lowest, direction) = (new double[relaxation.Limits], new double[relaxation.Limits], new double[relaxation.Limits]);
        var bound = relaxation.Solve(prices);
        var goal = rules.Worth(Mended(rules, alike, relaxation.On).On);
        var (pace, inVain) = (1.0, 0);
        for (var step = 0; step < Steps; step++)
        {
            var over = relaxation.Over();
            // What is not reached and costs nothing says nothing about the way.
            for (var limit = 0; limit < prices.Length; limit++)
                direction[limit] = (over[limit] < 0 && prices[limit] == 0 ? 0 : over[limit]) + Kept * direction[limit];
            var length = direction.Sum(d => d * d);
            if (length < 1e-9)
                break;
            for (var limit = 0; limit < prices.Length; limit++)
                prices[limit] = Math.Max(0, prices[limit] + pace * (bound - goal) / length * direction[limit]);
            if (relaxation.Solve(prices) is var now && now < bound - 1e-9)
            {
                (bound, inVain) = (now, 0);
                prices.CopyTo(lowest, 0);
            }
            else if (++inVain == Patience)
            {
                (pace, inVain) = (pace / 2, 0);
                Array.Clear(direction);
                lowest.CopyTo(prices, 0);
                relaxation.Solve(prices);
            }
        }
        relaxation.Solve(lowest);
        return bound;
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
