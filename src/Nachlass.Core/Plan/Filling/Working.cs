namespace Nachlass.Core.Plan.Filling;

/// <summary>A filling in work, with what it uses kept count of, so that a change is judged without looking at all of it.</summary>
internal sealed class Working
{
    private const double Nothing = 1e-6;

    private readonly FillingRules rules;
    private readonly int[] on;
    private readonly int[] placeOf;
    private readonly double[] used,
        free;
    private readonly int[] topicOf;

    /// <summary>By topic, how many more add the mix; below 0 when there are more than wished.</summary>
    private readonly int[] missing;
    private readonly int[][] alike;

    /// <param name="rules">What holds.</param>
    /// <param name="alike">For each candidate the others that could stand in its way: of its topic or series.</param>
    public Working(FillingRules rules, int[][] alike)
    {
        (this.rules, this.alike) = (rules, alike);
        (on, placeOf) = (new int[rules.Places], new int[rules.Candidates]);
        Array.Fill(on, -1);
        Array.Fill(placeOf, -1);
        free = [.. rules.Case.Free.Select(f => f.Hours + Nothing)];
        used = new double[free.Length];
        var topics = rules.Case.Wished.Where(w => w.Value > 0).ToList();
        missing = [.. topics.Select(w => w.Value)];
        topicOf = [.. rules.Case.Candidates.Select(c => topics.FindIndex(w => w.Key == c.Topic))];
    }

    /// <summary>For each candidate the others of its topic or series.</summary>
    public static int[][] Alike(FillingRules rules)
    {
        var all = rules.Case.Candidates;
        return
        [
            .. Enumerable
                .Range(0, all.Count)
                .Select(c =>
                    Enumerable
                        .Range(0, all.Count)
                        .Where(o =>
                            o != c
                            && (
                                all[c].Topic is not null && all[c].Topic == all[o].Topic
                                || all[c].InSeries is { } series && all[o].InSeries?.Series == series.Series
                            )
                        )
                        .ToArray()
                ),
        ];
    }

    public int[] On => on;

    public int PlaceOf(int candidate) => placeOf[candidate];

    /// <summary>Whether a candidate that stands nowhere may be put on a free place.</summary>
    public bool MayPut(int p, int c)
    {
        if (!rules.MayStand(p, c))
            return false;
        var hours = rules.Hours(p, c);
        for (var day = rules.CheckedFrom(p); day < used.Length; day++)
            if (used[day] + hours > free[day])
                return false;
        foreach (var other in alike[c])
            if (placeOf[other] >= 0 && !rules.GoTogether(p, c, placeOf[other], other))
                return false;
        return true;
    }

    /// <summary>What putting it there adds now.</summary>
    public double Adds(int p, int c) => rules.Value(p, c) + (topicOf[c] >= 0 && missing[topicOf[c]] > 0 ? FillingRules.Mix : 0);

    public void Put(int p, int c)
    {
        (on[p], placeOf[c]) = (c, p);
        Count(p, c, 1);
    }

    /// <returns>What it added.</returns>
    public double Take(int p)
    {
        var c = on[p];
        (on[p], placeOf[c]) = (-1, -1);
        Count(p, c, -1);
        return Adds(p, c);
    }

    private void Count(int p, int c, int sign)
    {
        var hours = sign * rules.Hours(p, c);
        for (var day = rules.CheckedFrom(p); day < used.Length; day++)
            used[day] += hours;
        if (topicOf[c] >= 0)
            missing[topicOf[c]] -= sign;
    }
}
