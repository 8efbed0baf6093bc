using System.Numerics.Tensors;
using Nachlass.Core.Text;

namespace Nachlass.Core.Catalogue.Asks;

/// <summary>
/// How alike two wishes are, 0 to 1: each word of the one is held against the word of the other that comes nearest to it in meaning, the
/// words weighing by how rare they are, and the two directions are averaged.
/// </summary>
/// <remarks>
/// After Mihalcea, Corley and Strapparava, <i>Corpus-based and Knowledge-based Measures of Text Semantic Similarity</i> (AAAI 2006), with
/// the cosine of word vectors (<see cref="NearWords"/>) for the likeness of words, and for their weight a/(a + p) after Arora, Liang and
/// Ma, <i>A Simple but Tough-to-Beat Baseline for Sentence Embeddings</i> (ICLR 2017), p from the word's rank by Zipf's law. What
/// nearly every reader of these papers speaks of weighs less still. The constants are set on labelled messages; see the bench.
/// </remarks>
public sealed class WishLikeness
{
    /// <summary>a of the weight.</summary>
    private const double Smooth = 3e-4;

    /// <summary>The sum of 1/rank over the commonest hundred thousand words, by which Zipf's law makes a rank a share.</summary>
    private const double Harmonic = 12.1;

    /// <summary>Cosine under which two words have nothing to do with each other.</summary>
    private const float WordFloor = 0.38f;

    private readonly Dictionary<string, Known> words = [];
    private readonly Func<string, double> share;

    /// <param name="share">The share of wishes that have a stem, 0 to 1.</param>
    public WishLikeness(Func<string, double> share) => this.share = share;

    private sealed record Known(double Rarity, float[]? Direction);

    /// <summary>What a stem weighs, 0 to 1.</summary>
    public double Weight(string root) => Of(root).Rarity / (1 + Commonness * share(root));

    /// <summary>How much less weighs what all wishes speak of.</summary>
    private const double Commonness = 12;

    /// <summary>How alike two wishes are.</summary>
    public double Of(IReadOnlyList<WishWord> a, IReadOnlyList<WishWord> b) => (Covered(a, b) + Covered(b, a)) / 2;

    private double Covered(IReadOnlyList<WishWord> one, IReadOnlyList<WishWord> other)
    {
        var (sum, all) = (0.0, 0.0);
        foreach (var word in one)
        {
            var weight = Weight(word.Root) * word.Share;
            all += weight;
            var best = 0.0;
            foreach (var its in other)
                best = Math.Max(best, Near(word.Root, its.Root));
            sum += weight * best;
        }
        return all == 0 ? 0 : sum / all;
    }

    /// <summary>How near two stems are in meaning, 0 to 1.</summary>
    public double Near(string a, string b)
    {
        if (a == b)
            return 1;
        var (one, other) = (Of(a).Direction, Of(b).Direction);
        return one is null || other is null ? 0 : Math.Max(0, TensorPrimitives.Dot<float>(one, other) - WordFloor) / (1 - WordFloor);
    }

    private Known Of(string root)
    {
        if (words.TryGetValue(root, out var known))
            return known;
        var rank = NearWords.Table.RankOf(root);
        // A word that is not among the commonest, a name for the most part, is as rare as a word can be.
        var rarity = rank is { } r ? Smooth / (Smooth + 1 / (Harmonic * r)) : 1;
        return words[root] = new Known(rarity, NearWords.Table.DirectionOf(root));
    }
}
