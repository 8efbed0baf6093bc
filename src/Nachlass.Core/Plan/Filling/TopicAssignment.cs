namespace Nachlass.Core.Plan.Filling;

/// <summary>
/// Places get candidates, each candidate at most one place, so that values add up to most; a topic adds something more for each of its
/// first so many candidates. Places come in one by one, each by the shortest way from it over candidates and topics to the end (the
/// Hungarian method as shortest augmenting paths: Jonker and Volgenant 1987; node potentials: Edmonds and Karp 1972). A way may end at a
/// place that stays empty from then on.
/// </summary>
internal sealed class TopicAssignment
{
    private readonly int places,
        candidates,
        topics;
    private readonly double bonus;
    private readonly int[] topicOf,
        wished;

    /// <summary>By place, then by candidate; endlessly little where it may not stand.</summary>
    private readonly double[] values;
    private readonly int[] on,
        placeOf,
        taken;

    // Of the candidates, then the topics; places and the end have theirs apart.
    private readonly double[] potential,
        far;
    private readonly int[] by;
    private readonly bool[] isSettled;
    private readonly double[] potentialOfPlace,
        farToPlace;
    private double potentialOfEnd,
        farToEnd;
    private int byEnd;

    /// <param name="values">By place and candidate; not a number where it may not stand.</param>
    /// <param name="topicOf">For each candidate its topic, or -1.</param>
    /// <param name="wished">For each topic how many of its candidates add the bonus.</param>
    /// <param name="bonus">What each of them adds, 0 or more.</param>
    public TopicAssignment(double[,] values, int[] topicOf, int[] wished, double bonus)
    {
        (places, candidates, topics) = (values.GetLength(0), topicOf.Length, wished.Length);
        (this.topicOf, this.wished, this.bonus) = (topicOf, wished, bonus);
        this.values = new double[places * candidates];
        for (var place = 0; place < places; place++)
        for (var c = 0; c < candidates; c++)
            this.values[place * candidates + c] = double.IsNaN(values[place, c]) ? double.NegativeInfinity : values[place, c];
        (on, placeOf, taken) = (new int[places], new int[candidates], new int[topics]);
        (potential, far) = (new double[candidates + topics], new double[candidates + topics]);
        (by, isSettled) = (new int[candidates + topics], new bool[candidates + topics]);
        (potentialOfPlace, farToPlace) = (new double[places], new double[places]);
    }

    /// <summary>For each place its candidate, or -1.</summary>
    public int[] On => on;

    /// <returns>What all of it adds up to.</returns>
    public double Solve()
    {
        Array.Fill(on, -1);
        Array.Fill(placeOf, -1);
        Array.Clear(taken);
        // Where nothing flows yet, the way from each node to the end is what it costs.
        potentialOfEnd = 0;
        for (var topic = 0; topic < topics; topic++)
            potential[Topic(topic)] = wished[topic] > 0 ? bonus : 0;
        for (var c = 0; c < candidates; c++)
            potential[c] = topicOf[c] >= 0 ? potential[Topic(topicOf[c])] : 0;
        for (var place = 0; place < places; place++)
            Let(place);
        var sum = 0.0;
        for (var place = 0; place < places; place++)
            if (on[place] >= 0)
                sum += Values(place)[on[place]];
        for (var topic = 0; topic < topics; topic++)
            sum += bonus * Math.Min(taken[topic], wished[topic]);
        return sum;
    }

    /// <summary>What is lost, at least, when a candidate has to stand on a place; endless where it may not.</summary>
    public double Loss(int place, int candidate) =>
        on[place] == candidate ? 0 : potentialOfPlace[place] - potential[candidate] - Values(place)[candidate];

    private ReadOnlySpan<double> Values(int place) => values.AsSpan(place * candidates, candidates);

    private int Topic(int topic) => candidates + topic;

    /// <summary>A place as what something is reached from.</summary>
    private int Place(int place) => candidates + topics + place;

    /// <summary>Lets one more place take part.</summary>
    private void Let(int place)
    {
        potentialOfPlace[place] = potentialOfEnd;
        var row = Values(place);
        for (var c = 0; c < row.Length; c++)
            potentialOfPlace[place] = Math.Max(potentialOfPlace[place], potential[c] + row[c]);
        Array.Fill(far, double.PositiveInfinity);
        Array.Fill(farToPlace, double.PositiveInfinity);
        Array.Clear(isSettled);
        farToEnd = double.PositiveInfinity;
        LeavePlace(place, 0);
        while (Nearest() is >= 0 and var node)
        {
            isSettled[node] = true;
            if (node >= candidates)
                LeaveTopic(node - candidates);
            else if (placeOf[node] >= 0)
                // From a candidate to the place that has it the way costs nothing.
                LeavePlace(placeOf[node], far[node]);
            else if (topicOf[node] >= 0)
                Reach(Topic(topicOf[node]), node, 0);
            else
                ReachEnd(node, far[node], potential[node]);
        }
        for (var node = 0; node < far.Length; node++)
            potential[node] += Math.Min(far[node], farToEnd);
        for (var p = 0; p < places; p++)
            potentialOfPlace[p] += Math.Min(farToPlace[p], farToEnd);
        potentialOfEnd += farToEnd;
        Shift(place);
    }

    /// <summary>The candidate or topic that is nearest, of those nearer than the end; -1 for none.</summary>
    private int Nearest()
    {
        var (nearest, least) = (-1, farToEnd);
        for (var node = 0; node < far.Length; node++)
            if (far[node] < least && !isSettled[node])
                (nearest, least) = (node, far[node]);
        return nearest;
    }

    private void LeavePlace(int place, double way)
    {
        farToPlace[place] = way;
        var from = potentialOfPlace[place];
        ReachEnd(Place(place), way, from);
        var row = Values(place);
        for (var c = 0; c < row.Length; c++)
            // A rest below nothing is rounding.
            if (way + Math.Max(0, from - row[c] - potential[c]) is var there && there < far[c] && !isSettled[c])
                (far[c], by[c]) = (there, Place(place));
    }

    private void LeaveTopic(int topic)
    {
        var node = Topic(topic);
        ReachEnd(node, far[node], potential[node] - (taken[topic] < wished[topic] ? bonus : 0));
        for (var c = 0; c < candidates; c++)
            if (topicOf[c] == topic && placeOf[c] >= 0)
                Reach(c, node, 0);
    }

    private void Reach(int to, int from, double cost)
    {
        var way = far[from] + Math.Max(0, cost + potential[from] - potential[to]);
        if (!isSettled[to] && way < far[to])
            (far[to], by[to]) = (way, from);
    }

    /// <param name="potentialOfFrom">With what the step costs.</param>
    private void ReachEnd(int from, double way, double potentialOfFrom)
    {
        way += Math.Max(0, potentialOfFrom - potentialOfEnd);
        if (way < farToEnd)
            (farToEnd, byEnd) = (way, from);
    }

    /// <summary>Back along the way found: each place takes the candidate after it; one reached from its topic is given up.</summary>
    private void Shift(int start)
    {
        const int End = -1;
        for (var (to, from) = (End, byEnd); ; )
        {
            if (from >= Place(0))
            {
                var place = from - Place(0);
                var before = on[place];
                on[place] = to;
                if (to != End)
                    placeOf[to] = place;
                if (place == start)
                    return;
                (to, from) = (before, by[before]);
                continue;
            }
            if (from >= candidates && to == End)
                taken[from - candidates]++;
            else if (from >= candidates)
                placeOf[to] = -1;
            (to, from) = (from, by[from]);
        }
    }
}
