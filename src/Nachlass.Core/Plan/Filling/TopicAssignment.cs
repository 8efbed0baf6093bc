namespace Nachlass.Core.Plan.Filling;

/// <summary>
/// Places get candidates, each candidate at most one place, so that values add up to most; a topic adds something more for each of its
/// first so many candidates. Places come in one by one, each by the shortest way from it over candidates and topics to the end (the
/// Hungarian method as shortest augmenting paths: Jonker and Volgenant 1987; node potentials: Edmonds and Karp 1972). A way may end at a
/// place that stays empty from then on.
/// </summary>
/// <param name="values">By place and candidate; not a number where it may not stand.</param>
/// <param name="topicOf">For each candidate its topic, or -1.</param>
/// <param name="wished">For each topic how many of its candidates add the bonus.</param>
/// <param name="bonus">What each of them adds, 0 or more.</param>
internal sealed class TopicAssignment(double[,] values, int[] topicOf, int[] wished, double bonus)
{
    private readonly int places = values.GetLength(0);
    private readonly int candidates = topicOf.Length;
    private readonly int topics = wished.Length;
    private readonly int[] on = new int[values.GetLength(0)];
    private readonly int[] placeOf = new int[topicOf.Length];
    private readonly int[] taken = new int[wished.Length];

    // Of nodes: the places, the candidates, the topics, and the end.
    private readonly double[] potential = new double[values.GetLength(0) + topicOf.Length + wished.Length + 1];
    private readonly double[] far = new double[values.GetLength(0) + topicOf.Length + wished.Length + 1];
    private readonly int[] by = new int[values.GetLength(0) + topicOf.Length + wished.Length + 1];
    private readonly bool[] isSettled = new bool[values.GetLength(0) + topicOf.Length + wished.Length + 1];

    /// <summary>For each place its candidate, or -1.</summary>
    public int[] On => on;

    /// <returns>What all of it adds up to.</returns>
    public double Solve()
    {
        Array.Fill(on, -1);
        Array.Fill(placeOf, -1);
        Array.Clear(taken);
        // Where nothing flows yet, the way from each node to the end is what it costs.
        Array.Clear(potential);
        for (var topic = 0; topic < topics; topic++)
            potential[Topic(topic)] = wished[topic] > 0 ? bonus : 0;
        for (var c = 0; c < candidates; c++)
            potential[Candidate(c)] = topicOf[c] >= 0 ? potential[Topic(topicOf[c])] : 0;
        for (var place = 0; place < places; place++)
            Let(place);
        var sum = 0.0;
        for (var place = 0; place < places; place++)
            if (on[place] >= 0)
                sum += values[place, on[place]];
        for (var topic = 0; topic < topics; topic++)
            sum += bonus * Math.Min(taken[topic], wished[topic]);
        return sum;
    }

    /// <summary>What is lost, at least, when a candidate has to stand on a place; endless where it may not.</summary>
    public double Loss(int place, int candidate) =>
        on[place] == candidate ? 0
        : double.IsNaN(values[place, candidate]) ? double.PositiveInfinity
        : potential[place] - potential[Candidate(candidate)] - values[place, candidate];

    private int End => places + candidates + topics;

    private int Candidate(int candidate) => places + candidate;

    private int Topic(int topic) => places + candidates + topic;

    /// <summary>Lets one more place take part.</summary>
    private void Let(int place)
    {
        potential[place] = potential[End];
        for (var c = 0; c < candidates; c++)
            if (!double.IsNaN(values[place, c]))
                potential[place] = Math.Max(potential[place], potential[Candidate(c)] + values[place, c]);
        Array.Fill(far, double.PositiveInfinity);
        Array.Clear(isSettled);
        far[place] = 0;
        for (var node = place; node != End; node = Nearest())
        {
            isSettled[node] = true;
            Leave(node);
        }
        for (var node = 0; node <= End; node++)
            potential[node] += Math.Min(far[node], far[End]);
        Shift(place);
    }

    private int Nearest()
    {
        var nearest = End;
        for (var node = 0; node < End; node++)
            if (!isSettled[node] && far[node] < far[nearest])
                nearest = node;
        return nearest;
    }

    private void Leave(int node)
    {
        if (node < places)
        {
            Reach(node, End, 0);
            for (var c = 0; c < candidates; c++)
                if (c != on[node] && !double.IsNaN(values[node, c]))
                    Reach(node, Candidate(c), -values[node, c]);
        }
        else if (node < places + candidates)
        {
            var c = node - places;
            if (placeOf[c] >= 0)
                Reach(node, placeOf[c], values[placeOf[c], c]);
            else
                Reach(node, topicOf[c] >= 0 ? Topic(topicOf[c]) : End, 0);
        }
        else
        {
            var topic = node - places - candidates;
            Reach(node, End, taken[topic] < wished[topic] ? -bonus : 0);
            for (var c = 0; c < candidates; c++)
                if (topicOf[c] == topic && placeOf[c] >= 0)
                    Reach(node, Candidate(c), 0);
        }
    }

    private void Reach(int from, int to, double cost)
    {
        // A rest below nothing is rounding.
        var way = far[from] + Math.Max(0, cost + potential[from] - potential[to]);
        if (!isSettled[to] && way < far[to])
            (far[to], by[to]) = (way, from);
    }

    /// <summary>Along the way found: each place takes the candidate after it; one reached from its topic is given up.</summary>
    private void Shift(int place)
    {
        List<int> way = [End];
        while (way[^1] != place)
            way.Add(by[way[^1]]);
        for (var i = way.Count - 1; i > 0; i--)
        {
            var (from, to) = (way[i], way[i - 1]);
            if (from < places)
            {
                on[from] = to == End ? -1 : to - places;
                if (to != End)
                    placeOf[to - places] = from;
            }
            else if (from >= places + candidates)
            {
                if (to == End)
                    taken[from - places - candidates]++;
                else
                    placeOf[to - places] = -1;
            }
        }
    }
}
