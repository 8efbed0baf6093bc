namespace Nachlass.Core.Plan.Filling;

/// <summary>
/// A flow of least cost from the first node to the last, by successive shortest paths with node potentials (Edmonds and Karp 1972;
/// Ahuja, Magnanti and Orlin, Network Flows, 1993, section 9.7). Edges go from lower to higher nodes, so that first potentials are
/// found in one pass over costs that may be negative.
/// </summary>
internal sealed class CostFlow(int nodes)
{
    private const double Nothing = 1e-9;

    private readonly List<int>[] leaving = [.. Enumerable.Range(0, nodes).Select(_ => new List<int>())];
    private readonly List<int> to = [];
    private readonly List<int> left = [];
    private readonly List<double> cost = [];

    /// <returns>The edge, to ask for its flow.</returns>
    public int Add(int from, int target, int most, double price)
    {
        var edge = to.Count;
        leaving[from].Add(edge);
        leaving[target].Add(edge + 1);
        to.AddRange([target, from]);
        left.AddRange([most, 0]);
        cost.AddRange([price, -price]);
        return edge;
    }

    /// <summary>What goes over an edge.</summary>
    public int On(int edge) => left[edge + 1];

    /// <summary>Sends units as long as that lessens the cost.</summary>
    /// <returns>The cost of all of them, 0 or less.</returns>
    public double Send()
    {
        var potential = new double[nodes];
        Array.Fill(potential, double.PositiveInfinity);
        potential[0] = 0;
        for (var node = 0; node < nodes; node++)
            foreach (var edge in leaving[node])
                if (left[edge] > 0)
                    potential[to[edge]] = Math.Min(potential[to[edge]], potential[node] + cost[edge]);
        var (far, by) = (new double[nodes], new int[nodes]);
        var sum = 0.0;
        var queue = new PriorityQueue<int, double>();
        while (true)
        {
            Array.Fill(far, double.PositiveInfinity);
            far[0] = 0;
            queue.Clear();
            queue.Enqueue(0, 0);
            while (queue.TryDequeue(out var node, out var reached))
            {
                if (reached > far[node])
                    continue;
                foreach (var edge in leaving[node])
                {
                    var next = to[edge];
                    if (left[edge] <= 0 || double.IsPositiveInfinity(potential[next]))
                        continue;
                    // A rest below nothing is rounding.
                    var way = reached + Math.Max(0, cost[edge] + potential[node] - potential[next]);
                    if (way >= far[next] - Nothing)
                        continue;
                    (far[next], by[next]) = (way, edge);
                    queue.Enqueue(next, way);
                }
            }
            if (double.IsPositiveInfinity(far[^1]))
                return sum;
            for (var node = 0; node < nodes; node++)
                if (!double.IsPositiveInfinity(far[node]))
                    potential[node] += far[node];
            if (potential[^1] - potential[0] >= -Nothing)
                return sum;
            for (var node = nodes - 1; node != 0; node = to[by[node] ^ 1])
            {
                left[by[node]]--;
                left[by[node] ^ 1]++;
                sum += cost[by[node]];
            }
        }
    }
}
