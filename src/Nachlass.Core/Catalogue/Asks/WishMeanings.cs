using System.Numerics.Tensors;
using Nachlass.Core.Text;

namespace Nachlass.Core.Catalogue.Asks;

/// <summary>
/// How alike wishes are by what they mean. What all of them have in common, the subject of these papers, is taken away from each; and
/// likeness is told in standard deviations of a wish's own to those that come nearest to it, the two of a pair averaged: among many on
/// bread a wish has to be nearer to be the same than among few. 0 is as alike as neighbours are, 2 is hardly chance.
/// </summary>
/// <remarks>
/// The mean is taken away after Mu and Viswanath, <i>All-but-the-Top</i> (ICLR 2018). The deviations are the adaptive symmetric
/// normalisation of scores in the recognition of speakers (Matejka and others, <i>Analysis of Score Normalization in Multilingual
/// Speaker Recognition</i>, Interspeech 2017). The constants are set on labelled messages; see the bench.
/// </remarks>
internal sealed class WishMeanings
{
    /// <summary>So many that come nearest make up a wish's neighbours.</summary>
    private const int Neighbours = 40;

    /// <summary>What is nearer than this says the same for the most part, and counts as this near: a wish that a hundred readers have is
    /// told from chance like one that two have.</summary>
    private const float Same = 0.4f;

    /// <summary>As many neighbours are counted as if they had been there, as far as wishes mostly are, so that the first few are not
    /// held against each other alone.</summary>
    private const int Unheard = 10;

    /// <summary>The deviation of the likeness of two wishes, as it mostly is.</summary>
    private const float Deviation = 0.12f;

    /// <summary>Neighbours are looked for among so many, the latest.</summary>
    private const int Latest = 2_000;

    /// <summary>Up to so many are measured anew with each that comes; of more each is measured once.</summary>
    private const int Anew = 400;

    private readonly List<float[]?> meanings = [],
        own = [];
    private readonly List<Measure> measures = [];
    private readonly float[] all = new float[SentenceMeaning.Numbers];
    private int known;

    /// <summary>By what the likenesses of a wish are told.</summary>
    /// <param name="Scale">One over the deviation; 0 while it is not measured.</param>
    /// <param name="Middle">How near its neighbours are, in deviations.</param>
    public readonly record struct Measure(float Scale, float Middle);

    /// <summary>Takes a wish in.</summary>
    /// <param name="meaning">Null when it was not read.</param>
    public void Add(float[]? meaning)
    {
        meanings.Add(null);
        own.Add(null);
        measures.Add(default);
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
        var latest = own.OfType<float[]>().TakeLast(Latest).ToList();
        for (var i = 0; i < own.Count; i++)
            if (own[i] is { } it && (measures[i].Scale == 0 || known <= Anew))
                measures[i] = Measured(it, latest);
        return new Seen(own, measures);
    }

    private static Measure Measured(float[] it, List<float[]> latest)
    {
        var near = latest
            .Where(other => !ReferenceEquals(it, other))
            .Select(other => Math.Min(Same, TensorPrimitives.Dot<float>(it, other)))
            .OrderDescending()
            .Take(Neighbours)
            .ToArray();
        var count = near.Length + Unheard;
        var mean = near.Sum() / count;
        var squares = near.Sum(n => (n - mean) * (n - mean)) + Unheard * Deviation * Deviation;
        var scale = 1 / MathF.Sqrt(squares / count);
        return new Measure(scale, mean * scale);
    }

    /// <summary>Wishes as they are seen at one moment, by the order in which they were taken in.</summary>
    public sealed class Seen(IReadOnlyList<float[]?> own, IReadOnlyList<Measure> measures)
    {
        /// <summary>Sums of a group, from which the sum of the likenesses to all in it follows.</summary>
        /// <param name="Own">Of what they mean.</param>
        /// <param name="Scaled">The same, each by its deviation.</param>
        /// <param name="Middle">Of how near their neighbours are.</param>
        public readonly record struct Sums(int Count, float[] Own, float[] Scaled, float Middle);

        public bool Knows(int wish) => own[wish] is not null;

        /// <summary>How alike two are, in deviations.</summary>
        public double Likeness(int a, int b) =>
            (
                TensorPrimitives.Dot<float>(own[a], own[b]) * (measures[a].Scale + measures[b].Scale)
                - measures[a].Middle
                - measures[b].Middle
            ) / 2;

        /// <summary>The sum of how alike one is to all of a group.</summary>
        public double Likeness(int one, Sums group) =>
            (
                TensorPrimitives.Dot<float>(own[one], group.Own) * measures[one].Scale
                + TensorPrimitives.Dot<float>(own[one], group.Scaled)
                - group.Count * measures[one].Middle
                - group.Middle
            ) / 2;

        public Sums Sum(IEnumerable<int> group)
        {
            var (count, sum, scaled, middle) = (0, new float[SentenceMeaning.Numbers], new float[SentenceMeaning.Numbers], 0f);
            foreach (var wish in group)
            {
                count++;
                TensorPrimitives.Add(sum, own[wish], sum);
                TensorPrimitives.MultiplyAdd(own[wish], measures[wish].Scale, scaled, scaled);
                middle += measures[wish].Middle;
            }
            return new Sums(count, sum, scaled, middle);
        }
    }
}
