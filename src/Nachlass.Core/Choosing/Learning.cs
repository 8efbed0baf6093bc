namespace Nachlass.Core.Choosing;

/// <summary>One choice: what stood there, and which of it was taken.</summary>
/// <param name="Stood">The terms of each idea that stood there, the taken one among them.</param>
/// <param name="Taken">Place of the taken one.</param>
public sealed record Chosen(IReadOnlyList<TermValues> Stood, int Taken);

/// <summary>Weights that choices speak for.</summary>
/// <param name="Held">In how many of the choices they would have held the taken one among the first three, each judged by weights learnt
/// from the other choices only.</param>
public sealed record Learnt(Weights Weights, int Held);

/// <summary>
/// Learns weights from choices: whatever was taken is preferred to each thing that stood beside it, with a probability that is the
/// logistic function of the difference of their worths; the weights are those that make all of that likeliest, held near the writer's
/// own by a ridge.
/// </summary>
/// <remarks>
/// Pairs as in Herbrich, Graepel and Obermayer, <i>Large margin rank boundaries for ordinal regression</i> (2000); logistic loss as in
/// Burges et al., <i>Learning to rank using gradient descent</i> (ICML 2005); ridge after Hoerl and Kennard (Technometrics 1970).
/// Solved by coordinate descent with Newton steps (Friedman, Hastie and Tibshirani, J. Stat. Softw. 2010), each weight kept from falling
/// under 0. What is not known of an idea counts as the mean of what is, as it does in its worth.
/// </remarks>
public static class Learning
{
    /// <summary>From so many choices on there is something to learn.</summary>
    public const int Enough = 12;

    /// <summary>How many ideas at the top are meant by “the first”.</summary>
    public const int First = 3;

    private const double Ridge = 0.6;
    private const int Sweeps = 200,
        Folds = 10;

    /// <summary>Learns from all choices.</summary>
    /// <param name="from">Weights that nothing has spoken against yet.</param>
    public static Weights Weights(IReadOnlyList<Chosen> choices, Weights from)
    {
        var pairs = Pairs(choices, from);
        var start = from.ToList();
        var weights = start.ToArray();
        var margin = new double[pairs.Count];
        for (var p = 0; p < pairs.Count; p++)
            margin[p] = Dot(weights, pairs[p].Better);
        for (var sweep = 0; sweep < Sweeps; sweep++)
        {
            var moved = 0.0;
            for (var k = 0; k < 9; k++)
            {
                double slope = Ridge * (weights[k] - start[k]),
                    bend = Ridge;
                for (var p = 0; p < pairs.Count; p++)
                {
                    var (better, share) = pairs[p];
                    var wrong = 1 / (1 + Math.Exp(margin[p]));
                    slope -= share * wrong * better[k];
                    bend += share * wrong * (1 - wrong) * better[k] * better[k];
                }
                var next = Math.Max(0, weights[k] - slope / bend);
                var step = next - weights[k];
                if (step == 0)
                    continue;
                weights[k] = next;
                for (var p = 0; p < pairs.Count; p++)
                    margin[p] += step * pairs[p].Better[k];
                moved = Math.Max(moved, Math.Abs(step));
            }
            if (moved < 1e-6)
                break;
        }
        // Only how the weights stand to each other makes an order.
        var top = weights.Max();
        return top == 0 ? from : Choosing.Weights.Of([.. weights.Select(w => Math.Round(Choosing.Weights.Most * w / top, 1))]);
    }

    /// <summary>Learns from all choices, and says honestly how well that does: each tenth of the choices is judged by weights that the
    /// others taught. Null while there are fewer than <see cref="Enough"/>.</summary>
    public static Learnt? From(IReadOnlyList<Chosen> choices, Weights from)
    {
        if (choices.Count < Enough)
            return null;
        var held = 0;
        for (var fold = 0; fold < Folds; fold++)
        {
            var others = Weights([.. choices.Where((_, i) => i % Folds != fold)], from);
            held += choices.Where((_, i) => i % Folds == fold).Count(choice => IsHeld(choice, others));
        }
        return new Learnt(Weights(choices, from), held);
    }

    /// <summary>Whether the taken one stands among the first three by some weights.</summary>
    public static bool IsHeld(Chosen choice, Weights weights) => Rank(choice, weights) <= First;

    /// <summary>The place of the taken one by some weights, counted from 1; equals count as half before it.</summary>
    public static double Rank(Chosen choice, Weights weights)
    {
        var taken = Worth.Of(choice.Stood[choice.Taken], weights);
        var rank = 1.0;
        for (var i = 0; i < choice.Stood.Count; i++)
            if (i != choice.Taken)
            {
                var other = Worth.Of(choice.Stood[i], weights);
                rank +=
                    other > taken ? 1
                    : other == taken ? 0.5
                    : 0;
            }
        return rank;
    }

    /// <summary>The taken one less each other. A choice counts as one however many stood beside it, so that a long list doesn't speak
    /// louder than a short one; its pairs share three voices.</summary>
    private static List<(double[] Better, double Share)> Pairs(IReadOnlyList<Chosen> choices, Weights from)
    {
        var pairs = new List<(double[], double)>();
        foreach (var choice in choices)
        {
            var taken = Filled(choice.Stood[choice.Taken], from);
            var share = Math.Min(1, 3.0 / Math.Max(1, choice.Stood.Count - 1));
            for (var i = 0; i < choice.Stood.Count; i++)
            {
                if (i == choice.Taken)
                    continue;
                var other = Filled(choice.Stood[i], from);
                pairs.Add(([.. taken.Select((value, k) => value - other[k])], share));
            }
        }
        return pairs;
    }

    private static double[] Filled(TermValues values, Weights from)
    {
        var mean = Worth.Of(values, from) / Worth.Most;
        return [.. values.ToList().Select(value => value ?? mean)];
    }

    private static double Dot(double[] a, double[] b)
    {
        var sum = 0.0;
        for (var i = 0; i < a.Length; i++)
            sum += a[i] * b[i];
        return sum;
    }
}
