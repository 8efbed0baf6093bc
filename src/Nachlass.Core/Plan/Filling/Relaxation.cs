namespace Nachlass.Core.Plan.Filling;

/// <summary>
/// The filling without what makes it hard: no order of series, and hours and nearness of topics at a price instead of a limit. What is
/// left is a flow of greatest value from topics over candidates to places: a topic gives as many of its candidates as are wished with
/// the value of the mix, and more without it. For any prices its value, with what the limits are worth at them, is no less than any
/// filling can be worth (Lagrangian bound: Geoffrion 1974).
/// </summary>
internal sealed class Relaxation(FillingRules rules)
{
    private readonly int[] topics = [.. rules.Case.Wished.Where(w => w.Value > 0).Select(w => w.Key).Order()];
    private readonly Dictionary<int, int> shared = rules.SharedTopics.Select((t, i) => (t, i)).ToDictionary(x => x.t, x => x.i);
    private readonly int days = rules.Case.Free.Count;

    /// <summary>How many limits have a price: hours up to each of some days, then each stretch of near places by topic.</summary>
    public int Limits => days + shared.Count * rules.Near.Count;

    /// <summary>By how much each limit is overstepped, or, below 0, not reached.</summary>
    public double[] Over(int[] on)
    {
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
    /// <param name="on">Gets for each place its candidate, or -1.</param>
    /// <returns>The bound.</returns>
    public double Solve(double[] prices, int[] on)
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

        var (places, candidates) = (rules.Places, rules.Candidates);
        int Topic(int at) => 1 + at;
        int Candidate(int c) => 1 + topics.Length + c;
        int Place(int p) => 1 + topics.Length + candidates + p;
        var flow = new CostFlow(2 + topics.Length + candidates + places);
        for (var at = 0; at < topics.Length; at++)
        {
            flow.Add(0, Topic(at), rules.Case.Wished[topics[at]], -FillingRules.Mix);
            flow.Add(0, Topic(at), candidates, 0);
        }
        var edges = new List<(int Edge, int Place, int Candidate)>();
        for (var c = 0; c < candidates; c++)
        {
            var its = rules.Case.Candidates[c].Topic;
            var at = its is { } wished ? Array.BinarySearch(topics, wished) : -1;
            var near = its is { } topic && shared.TryGetValue(topic, out var found) ? found : -1;
            flow.Add(at >= 0 ? Topic(at) : 0, Candidate(c), 1, 0);
            for (var p = 0; p < places; p++)
                if (rules.MayStand(p, c))
                {
                    var costs = rules.Hours(p, c) * priceFrom[rules.CheckedFrom(p)] + (near >= 0 ? nearness[near, p] : 0);
                    // What costs more than it could bring stands nowhere.
                    if (costs < rules.Value(p, c) + FillingRules.Mix)
                        edges.Add((flow.Add(Candidate(c), Place(p), 1, costs - rules.Value(p, c)), p, c));
                }
        }
        for (var p = 0; p < places; p++)
            flow.Add(Place(p), 1 + topics.Length + candidates + places, 1, 0);
        var bound = -flow.Send();
        for (var limit = 0; limit < prices.Length; limit++)
            bound += prices[limit] * Most(limit);
        Array.Fill(on, -1);
        foreach (var (edge, p, c) in edges)
            if (flow.On(edge) > 0)
                on[p] = c;
        return bound;
    }
}
