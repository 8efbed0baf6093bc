namespace Nachlass.Core.Plan.Filling;

/// <summary>
/// The filling without what makes it hard: no order of series, and hours and nearness of topics at a price instead of a limit. What is
/// left is an assignment of greatest value, where a topic adds the value of the mix for as many of its candidates as are wished. For any
/// prices its value, with what the limits are worth at them, is no less than any filling can be worth (Lagrangian bound: Geoffrion 1974).
/// </summary>
internal sealed class Relaxation
{
    private readonly FillingRules rules;
    private readonly int[] topicOf;
    private readonly int[] wished;
    private readonly Dictionary<int, int> shared;
    private readonly int days;
    private TopicAssignment? assignment;

    public Relaxation(FillingRules rules)
    {
        this.rules = rules;
        shared = rules.SharedTopics.Select((t, i) => (t, i)).ToDictionary(x => x.t, x => x.i);
        days = rules.Case.Free.Count;
        var topics = rules.Case.Wished.Where(w => w.Value > 0).OrderBy(w => w.Key).ToList();
        wished = [.. topics.Select(w => w.Value)];
        topicOf = [.. rules.Case.Candidates.Select(c => topics.FindIndex(w => w.Key == c.Topic))];
    }

    /// <summary>How many limits have a price: hours up to each of some days, then each stretch of near places by topic.</summary>
    public int Limits => days + shared.Count * rules.Near.Count;

    /// <summary>For each place its candidate at the prices asked last, or -1.</summary>
    public int[] On => assignment!.On;

    /// <summary>What the bound of the prices asked last loses, at least, when a candidate has to stand on a place.</summary>
    public double Loss(int place, int candidate) => assignment!.Loss(place, candidate);

    /// <summary>By how much each limit is overstepped, or, below 0, not reached.</summary>
    public double[] Over()
    {
        var on = On;
        var over = new double[Limits];
        for (var p = 0; p < on.Length; p++)
            if (on[p] >= 0)
            {
                if (rules.CheckedFrom(p) < days)
                    over[rules.CheckedFrom(p)] += rules.Hours(p, on[p]);
                if (rules.Case.Candidates[on[p]].Topic is { } topic && shared.TryGetValue(topic, out var at))
                    for (var stretch = 0; stretch < rules.Near.Count; stretch++)
                        if (rules.Near[stretch].First <= p && p <= rules.Near[stretch].Last)
                            over[days + at * rules.Near.Count + stretch]++;
            }
        for (var day = 1; day < days; day++)
            over[day] += over[day - 1];
        for (var limit = 0; limit < over.Length; limit++)
            over[limit] -= Most(limit);
        return over;
    }

    private double Most(int limit) => limit < days ? rules.Case.Free[limit].Hours : 1;

    /// <param name="prices">Of a unit of each limit, 0 or more.</param>
    /// <returns>The bound.</returns>
    public double Solve(double[] prices)
    {
        // What an hour costs on a place: the prices of all days from its own on.
        var priceFrom = new double[days + 1];
        for (var day = days - 1; day >= 0; day--)
            priceFrom[day] = priceFrom[day + 1] + prices[day];
        // And what a place costs a topic.
        var nearness = new double[shared.Count, rules.Places];
        for (var at = 0; at < shared.Count; at++)
        for (var stretch = 0; stretch < rules.Near.Count; stretch++)
            if (prices[days + at * rules.Near.Count + stretch] is > 0 and var price)
                for (var p = rules.Near[stretch].First; p <= rules.Near[stretch].Last; p++)
                    nearness[at, p] += price;

        var priced = new double[rules.Places, rules.Candidates];
        for (var c = 0; c < rules.Candidates; c++)
        {
            var near = rules.Case.Candidates[c].Topic is { } topic && shared.TryGetValue(topic, out var found) ? found : -1;
            for (var p = 0; p < rules.Places; p++)
            {
                var costs = rules.Hours(p, c) * priceFrom[rules.CheckedFrom(p)] + (near >= 0 ? nearness[near, p] : 0);
                // What costs more than it could bring stands nowhere.
                priced[p, c] = costs < rules.Value(p, c) + FillingRules.Mix ? rules.Value(p, c) - costs : double.NaN;
            }
        }
        assignment = new TopicAssignment(priced, topicOf, wished, FillingRules.Mix);
        var bound = assignment.Solve();
        for (var limit = 0; limit < prices.Length; limit++)
            bound += prices[limit] * Most(limit);
        return bound;
    }
}
