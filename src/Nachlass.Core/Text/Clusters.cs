namespace Nachlass.Core.Text;

/// <summary>Puts short texts together that are about the same. The same texts always give the same groups.</summary>
/// <remarks>
/// Group-average agglomerative clustering of TF-IDF vectors under cosine (Manning, Raghavan and Schütze, <i>Introduction to Information
/// Retrieval</i> (2008), section 17.3).
/// </remarks>
public static class Clusters
{
    /// <summary>The two or three heaviest words, as they stand in the texts.</summary>
    public static string NameOf(Dictionary<string, double> centroid, IEnumerable<Stem> stems)
    {
        var spelt = stems
            .GroupBy(s => s.Root)
            .ToDictionary(
                g => g.Key,
                g =>
                    g.GroupBy(s => s.Word.ToLowerInvariant())
                        .OrderByDescending(w => w.Count())
                        .ThenBy(w => w.Key, StringComparer.Ordinal)
                        .First()
                        .First()
                        .Word
            );
        var heavy = centroid
            .Where(c => spelt.ContainsKey(c.Key) && !c.Key.All(char.IsDigit))
            .OrderByDescending(c => c.Value)
            .ThenBy(c => c.Key, StringComparer.Ordinal)
            .Take(3)
            .Select(c => spelt[c.Key])
            .ToList();
        var name = string.Join(", ", heavy);
        return name.Length == 0 ? "…" : char.ToUpperInvariant(name[0]) + name[1..];
    }

    /// <summary>The passages' vectors, each of length 1.</summary>
    public static List<Dictionary<string, double>> Weighed(List<List<Stem>> passages)
    {
        var counted = passages.Select(p => p.CountBy(s => s.Root).ToDictionary()).ToList();
        var holders = counted.SelectMany(c => c.Keys).CountBy(r => r).ToDictionary();
        return
        [
            .. counted
                .Select(c =>
                    c.ToDictionary(
                        t => t.Key,
                        t => (1 + Math.Log(t.Value)) * (Math.Log((1.0 + passages.Count) / (1 + holders[t.Key])) + 0.3)
                    )
                )
                .Select(Unit),
        ];

        static Dictionary<string, double> Unit(Dictionary<string, double> vector)
        {
            var length = Length(vector);
            return length == 0 ? vector : vector.ToDictionary(t => t.Key, t => t.Value / length);
        }
    }

    public static double Length(Dictionary<string, double> vector) => Math.Sqrt(vector.Values.Sum(w => w * w));

    public static double Product(Dictionary<string, double> a, Dictionary<string, double> b) =>
        a.Sum(t => b.TryGetValue(t.Key, out var weight) ? weight * t.Value : 0);

    /// <summary>The cosine of every two, word by word: most pairs share few words.</summary>
    public static double[,] Likenesses(List<Dictionary<string, double>> vectors)
    {
        var near = new double[vectors.Count, vectors.Count];
        foreach (var word in vectors.SelectMany((vector, at) => vector.Select(t => (t.Key, At: at, t.Value))).GroupBy(t => t.Key))
        {
            var holders = word.ToArray();
            for (var i = 0; i < holders.Length; i++)
            for (var j = i + 1; j < holders.Length; j++)
                near[holders[i].At, holders[j].At] += holders[i].Value * holders[j].Value;
        }
        for (var i = 0; i < vectors.Count; i++)
        for (var j = 0; j < i; j++)
            near[i, j] = near[j, i];
        return near;
    }

    /// <summary>Joins the two nearest groups again and again, until none are nearer than a floor.</summary>
    /// <returns>The groups, as places in the list; each place is in one of them.</returns>
    public static List<List<int>> Of(double[,] near, int count, double floor)
    {
        var groups = Enumerable.Range(0, count).Select(i => new List<int> { i }).ToList();
        var between = (double[,])near.Clone();
        var alive = Enumerable.Range(0, count).ToList();
        while (alive.Count > 1)
        {
            var (best, a, b) = (floor, -1, -1);
            for (var i = 0; i < alive.Count; i++)
            for (var j = i + 1; j < alive.Count; j++)
                if (between[alive[i], alive[j]] > best)
                    (best, a, b) = (between[alive[i], alive[j]], alive[i], alive[j]);
            if (a < 0)
                break;
            // The mean over all pairs, kept by the Lance–Williams update for the group average.
            var (sizeA, sizeB) = ((double)groups[a].Count, (double)groups[b].Count);
            foreach (var other in alive.Where(o => o != a && o != b))
                between[a, other] = between[other, a] = (sizeA * between[a, other] + sizeB * between[b, other]) / (sizeA + sizeB);
            groups[a].AddRange(groups[b]);
            alive.Remove(b);
        }
        return [.. alive.Select(i => groups[i])];
    }
}
