using Nachlass.Core.Plan;

namespace Nachlass.Core.Ideas.Order;

/// <summary>A release with how much it reached.</summary>
/// <param name="Outlet">Where it went out; releases are held against those of their outlet.</param>
/// <param name="Topics">What it is on.</param>
/// <param name="Figure">How often it was seen at the same age as the others, 0 or more.</param>
public sealed record Reached(int? Outlet, IReadOnlyList<int> Topics, double Figure);

/// <summary>What releases on a topic reached.</summary>
/// <param name="Releases">How many there are.</param>
/// <param name="Raw">Their geometric mean, by that of their outlets: 1 is as usual.</param>
/// <param name="Ratio">The same drawn towards 1, the more the fewer they are.</param>
public sealed record EffectRead(int Releases, double Raw, double Ratio);

/// <summary>How what went out on topics did, not believing few releases too much.</summary>
public static class Effect
{
    /// <summary>Fewer releases with a figure in all tell nothing.</summary>
    public const int Fewest = Middle.Few;

    /// <summary>
    /// Means of the logarithm of each figure, less that of its outlet, drawn to nothing by how much topics differ beyond what
    /// releases on one topic do: the one-way random effects model (Efron and Morris, <i>Journal of the American Statistical
    /// Association</i> 70 (1975); the variance between by moments, DerSimonian and Laird, <i>Controlled Clinical Trials</i> 7 (1986)).
    /// </summary>
    /// <returns>By topic; empty where there are too few releases.</returns>
    public static IReadOnlyDictionary<int, EffectRead> Of(IReadOnlyList<Reached> releases)
    {
        if (releases.Count < Fewest)
            return new Dictionary<int, EffectRead>();
        // One more, so that nothing has a logarithm too.
        var usual = releases.GroupBy(r => r.Outlet ?? 0).ToDictionary(g => g.Key, g => g.Average(r => Math.Log(r.Figure + 1)));
        var logs = releases.Select(r => (r.Topics, Log: Math.Log(r.Figure + 1) - usual[r.Outlet ?? 0])).ToList();
        var groups = logs.SelectMany(l => l.Topics.Distinct().Select(topic => (topic, l.Log)))
            .GroupBy(l => l.topic)
            .ToDictionary(g => g.Key, g => g.Select(l => l.Log).ToList());
        if (groups.Count == 0)
            return new Dictionary<int, EffectRead>();
        var means = groups.ToDictionary(g => g.Key, g => g.Value.Average());
        var freedom = groups.Values.Sum(g => g.Count - 1);
        // With one release on each topic nothing is known of how much those on one differ: as much as all do.
        var within =
            freedom > 0
                ? groups.Sum(g => g.Value.Sum(log => (log - means[g.Key]) * (log - means[g.Key]))) / freedom
                : logs.Average(l => l.Log * l.Log);
        var between = Between(groups, means, within);
        return groups.ToDictionary(
            g => g.Key,
            g =>
            {
                var n = g.Value.Count;
                var kept = between == 0 ? 0 : n * between / (n * between + within);
                return new EffectRead(n, Math.Exp(means[g.Key]), Math.Exp(kept * means[g.Key]));
            }
        );
    }

    private static double Between(Dictionary<int, List<double>> groups, Dictionary<int, double> means, double within)
    {
        double all = groups.Values.Sum(g => g.Count);
        var grand = groups.Sum(g => g.Value.Sum()) / all;
        var spread = groups.Sum(g => g.Value.Count * (means[g.Key] - grand) * (means[g.Key] - grand));
        var size = all - groups.Values.Sum(g => (double)g.Count * g.Count) / all;
        return size <= 0 ? 0 : Math.Max(0, (spread - (groups.Count - 1) * within) / size);
    }
}
