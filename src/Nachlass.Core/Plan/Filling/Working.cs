namespace Nachlass.Core.Plan.Filling;

/// <summary>A filling in work, with what it uses kept count of, so that a change is judged without looking at all of it.</summary>
internal sealed class Working
{
    private const double Nothing = 1e-6;

    private readonly FillingRules rules;
    private readonly int[] on;
    private readonly int[] placeOf;
    private readonly double[] used;
    private readonly Dictionary<int, int> ofTopic = [];
    private readonly int[][] alike;

    /// <param name="rules">What holds.</param>
    /// <param name="alike">For each candidate the others that could stand in its way: of its topic or series.</param>
    public Working(FillingRules rules, int[][] alike)
    {
        (this.rules, this.alike) = (rules, alike);
        (on, placeOf) = (new int[rules.Places], new int[rules.Candidates]);
        Array.Fill(on, -1);
        Array.Fill(placeOf, -1);
        used = new double[rules.Case.Free.Count];
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
            if (used[day] + hours > rules.Case.Free[day].Hours + Nothing)
                return false;
        foreach (var other in alike[c])
            if (placeOf[other] >= 0 && !rules.GoTogether(p, c, placeOf[other], other))
                return false;
        return true;
    }

    /// <summary>What putting it there adds now.</summary>
    public double Adds(int p, int c) => rules.Value(p, c) + (IsShort(c, 0) ? FillingRules.Mix : 0);

    private bool IsShort(int c, int but) =>
        rules.Case.Candidates[c].Topic is { } topic
        && rules.Case.Wished.TryGetValue(topic, out var wished)
        && ofTopic.GetValueOrDefault(topic) - but < wished;

    public void Put(int p, int c)
    {
        (on[p], placeOf[c]) = (c, p);
        Count(p, c, 1);
    }

    /// <returns>What it added.</returns>
    public double Take(int p)
    {
        var c = on[p];
        var had = rules.Value(p, c) + (IsShort(c, 1) ? FillingRules.Mix : 0);
        (on[p], placeOf[c]) = (-1, -1);
        Count(p, c, -1);
        return had;
    }

    private void Count(int p, int c, int sign)
    {
        for (var day = rules.CheckedFrom(p); day < used.Length; day++)
            used[day] += sign * rules.Hours(p, c);
        if (rules.Case.Candidates[c].Topic is { } topic)
            ofTopic[topic] = ofTopic.GetValueOrDefault(topic) + sign;
    }

    /// <summary>The best of those that may be put on a free place and stand nowhere; -1 when there is none.</summary>
    public (int Candidate, double Adds) BestFor(int p)
    {
        var (best, most) = (-1, 1e-9);
        for (var c = 0; c < rules.Candidates; c++)
            if (placeOf[c] < 0 && rules.MayStand(p, c) && Adds(p, c) is var adds && adds > most && MayPut(p, c))
                (best, most) = (c, adds);
        return (best, best < 0 ? 0 : most);
    }
}
