using System.Numerics.Tensors;
using Nachlass.Core.Text;

namespace Nachlass.Core.Catalogue.Asks;

/// <summary>
/// How alike wishes are by what they mean. What all of them have in common, the subject of these papers, is taken away from each; and as
/// some sentences are near to everything, likeness is told in standard deviations of a wish's own to all others, the two of a pair
/// averaged: 0 is as alike as any two are, 2 is hardly chance.
/// </summary>
/// <remarks>
/// The mean is taken away after Mu and Viswanath, <i>All-but-the-Top</i> (ICLR 2018). The deviations are the symmetric normalisation of
/// scores in the recognition of speakers (Shum, Dehak, Dehak and Glass, Odyssey 2010; Matejka and others, Interspeech 2017), whose own mean
/// is near 0 once that of all is taken away.
/// </remarks>
internal sealed class WishMeanings
{
    /// <summary>As many wishes are counted as if they had been there, of which each was as far from all others as wishes mostly are, so
    /// that the first few are not held against each other alone.</summary>
    private const int Unheard = 10;

    /// <summary>The deviation of the likeness of two wishes, as it mostly is.</summary>
    private const float Deviation = 0.12f;

    /// <summary>What is nearer than this says the same for the most part: a wish that half of the readers have is told from chance like one
    /// that two have.</summary>
    private const float Nearest = 0.25f;

    /// <summary>Deviations are taken from so many wishes, the latest; those of a wish are kept once there are more.</summary>
    private const int Cohort = 400;

    private readonly List<float[]?> meanings = [],
        own = [];
    private readonly List<float> scales = [];
    private readonly float[] all = new float[SentenceMeaning.Numbers];
    private int known;

    /// <summary>Takes a wish in.</summary>
    /// <param name="meaning">Null when it was not read.</param>
    public void Add(float[]? meaning)
    {
        meanings.Add(null);
        own.Add(null);
        scales.Add(0);
        if (meaning is not null)
            Know(meanings.Count - 1, meaning);
    }

    /// <summary>Takes in what a wish means that was taken in without.</summary>
    public void Know(int at, float[] meaning)
    {
        if (meanings[at] is not null)
            return;
        meanings[at] = meaning;
        own[at] = new float[meaning.Length];
        TensorPrimitives.Add(all, meaning, all);
        known++;
    }

    public bool Knows(int wish) => meanings[wish] is not null;

    /// <summary>All of them as they are seen now; holds until the next is taken in.</summary>
    public Seen See()
    {
        var mean = new float[SentenceMeaning.Numbers];
        TensorPrimitives.Divide(all, known + Unheard, mean);
        for (var i = 0; i < own.Count; i++)
            if (own[i] is { } apart)
            {
                TensorPrimitives.Subtract(meanings[i], mean, apart);
                TensorPrimitives.Divide(apart, Math.Max(1e-6f, TensorPrimitives.Norm<float>(apart)), apart);
            }
        var cohort = own.OfType<float[]>().TakeLast(Cohort).ToList();
        for (var i = 0; i < own.Count; i++)
            if (own[i] is { } it && (scales[i] == 0 || known <= Cohort))
                scales[i] = 1 / Spread(it, cohort);
        return new Seen(own, scales);
    }

    private static float Spread(float[] it, List<float[]> cohort)
    {
        var (squares, count) = (Deviation * Deviation * Unheard, Unheard);
        foreach (var other in cohort)
        {
            if (ReferenceEquals(it, other))
                continue;
            var near = Math.Min(Nearest, TensorPrimitives.Dot<float>(it, other));
            squares += near * near;
            count++;
        }
        return MathF.Sqrt(squares / count);
    }

    /// <summary>Wishes as they are seen at one moment, by the order in which they were taken in.</summary>
    public sealed class Seen(IReadOnlyList<float[]?> own, IReadOnlyList<float> scales)
    {
        /// <summary>Sums of a group, from which the sum of the likenesses to all in it follows.</summary>
        /// <param name="Own">Of what they mean.</param>
        /// <param name="Scaled">The same, each by its deviation.</param>
        public readonly record struct Sums(float[] Own, float[] Scaled);

        public bool Knows(int wish) => own[wish] is not null;

        /// <summary>How alike two are, in deviations.</summary>
        public double Likeness(int a, int b) => TensorPrimitives.Dot<float>(own[a], own[b]) * (scales[a] + scales[b]) / 2;

        /// <summary>The sum of how alike one is to all of a group.</summary>
        public double Likeness(int one, Sums group) =>
            (TensorPrimitives.Dot<float>(own[one], group.Own) * scales[one] + TensorPrimitives.Dot<float>(own[one], group.Scaled)) / 2;

        public Sums Sum(IEnumerable<int> group)
        {
            var (sum, scaled) = (new float[SentenceMeaning.Numbers], new float[SentenceMeaning.Numbers]);
            foreach (var wish in group)
            {
                TensorPrimitives.Add(sum, own[wish], sum);
                TensorPrimitives.MultiplyAdd(own[wish], scales[wish], scaled, scaled);
            }
            return new Sums(sum, scaled);
        }
    }
}
