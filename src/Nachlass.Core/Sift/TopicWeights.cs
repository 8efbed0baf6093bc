using System.Numerics;
using System.Runtime.InteropServices;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Sift;

/// <summary>A text whose topics the writer decided.</summary>
/// <param name="Thing">What it is.</param>
/// <param name="Topics">The topics it was put under.</param>
/// <param name="Refused">Topics that were offered for it and refused.</param>
public sealed record Decided(int Thing, string Text, IReadOnlyList<TopicNumber> Topics, IReadOnlyList<TopicNumber> Refused)
{
    public bool Says(Decided? other) =>
        other is not null && Text == other.Text && Topics.SequenceEqual(other.Topics) && Refused.SequenceEqual(other.Refused);
}

/// <summary>
/// Weights of words for topics, learnt from decisions: for each topic a linear classifier, a support vector machine with squared hinge
/// loss, by dual coordinate descent (Hsieh et al., <i>A dual coordinate descent method for large-scale linear SVM</i>, ICML 2008), over
/// tf-idf of unit length. What is learnt follows from the decisions and from nothing else: they are gone through in one fixed order, so
/// that a decision taken back leaves no trace. Never changes; <see cref="With"/> gives other weights.
/// </summary>
public sealed class TopicWeights
{
    /// <summary>The cost of a text on the wrong side, and of one that was put there against a refusal.</summary>
    private const double Cost = 0.6,
        CostOfRefused = 2.4;

    /// <summary>Numbers that all weights together may be: 32 MB.</summary>
    private const int MostWeights = 1 << 23;

    /// <summary>How often all texts are gone through.</summary>
    private const int Rounds = 12;

    /// <summary>Texts it learns from at most, the newest.</summary>
    public const int MostTexts = 20_000;

    private readonly int places,
        width;
    private readonly TopicNumber[] topics;
    private readonly float[] rarity,
        weights,
        bias;

    /// <summary>Of each text, by thing: what was decided, and its part in the weights of each topic.</summary>
    private readonly Dictionary<int, (Decided Decided, float[] Parts)> texts;

    /// <summary>What later decisions add, by place; empty where all is learnt from the start.</summary>
    private readonly Dictionary<int, float[]> added = [];
    private readonly float[] addedBias;

    /// <summary>Places that only later decisions brought.</summary>
    private readonly HashSet<int> fresh = [];

    /// <summary>Nothing learnt yet.</summary>
    public static readonly TopicWeights None = new(1, [], [], [], [], []);

    private TopicWeights(
        int places,
        TopicNumber[] topics,
        float[] rarity,
        float[] weights,
        float[] bias,
        Dictionary<int, (Decided, float[])> texts
    )
    {
        (this.places, this.topics, this.rarity, this.weights, this.bias, this.texts) = (places, topics, rarity, weights, bias, texts);
        width = Width(topics.Length);
        addedBias = new float[width];
    }

    private TopicWeights(TopicWeights before)
        : this(before.places, before.topics, before.rarity, before.weights, before.bias, before.texts) { }

    /// <summary>From how many texts it was learnt.</summary>
    public int Texts => texts.Count;

    /// <summary>The topics that have weights.</summary>
    public IReadOnlyList<TopicNumber> Topics => topics;

    /// <summary>What a thing said when the weights were learnt; null when it was not among them.</summary>
    public Decided? LearntFrom(int thing) => texts.TryGetValue(thing, out var text) ? text.Decided : null;

    private static int Width(int topics) => (topics + Vector<float>.Count - 1) / Vector<float>.Count * Vector<float>.Count;

    /// <summary>Learns from decisions; from the newest when there are more than <see cref="MostTexts"/>.</summary>
    public static TopicWeights Learn(IEnumerable<Decided> decided, CancellationToken stop = default)
    {
        var all = decided.Where(d => d.Topics.Count + d.Refused.Count > 0).OrderByDescending(d => d.Thing).Take(MostTexts).ToList();
        TopicNumber[] topics = [.. all.SelectMany(d => d.Topics).Distinct().OrderBy(t => t.Value)];
        if (topics.Length == 0)
            return None;
        var width = Width(topics.Length);
        // About as many as there are things to tell apart.
        var places = (int)BitOperations.RoundUpToPowerOf2((uint)Math.Clamp(all.Count * 128, 1 << 14, 1 << 18));
        while (places * width > MostWeights && places > 1 << 12)
            places >>= 1;
        var rarity = new float[places];
        var vectors = new TextFeatures.Feature[all.Count][];
        for (var i = 0; i < all.Count; i++)
            foreach (var feature in vectors[i] = TextFeatures.Of(all[i].Text, places, out _))
                rarity[feature.Place]++;
        for (var place = 0; place < places; place++)
            rarity[place] = rarity[place] == 0 ? 0 : 1 + MathF.Log((1f + all.Count) / (1 + rarity[place]));
        var learnt = new TopicWeights(
            places,
            topics,
            rarity,
            new float[places * width],
            new float[width],
            new Dictionary<int, (Decided, float[])>(all.Count)
        );
        var examples = all.Select((d, i) => new Example(d, learnt.Unit(vectors[i]), learnt.Signs(d), new float[width])).ToArray();
        var order = Enumerable.Range(0, all.Count).ToArray();
        var chance = 1u;
        for (var round = 0; round < Rounds; round++)
        {
            stop.ThrowIfCancellationRequested();
            Shuffle(order, ref chance);
            foreach (var i in order)
                learnt.Step(examples[i], learnt.weights, learnt.bias);
        }
        foreach (var example in examples)
            learnt.texts[example.Decided.Thing] = (example.Decided, example.Parts);
        return learnt;
    }

    /// <summary>Another order, always the same one (Fisher and Yates, with Marsaglia's xorshift, <i>Journal of Statistical Software</i> 8
    /// (2003)).</summary>
    private static void Shuffle(int[] order, ref uint chance)
    {
        for (var last = order.Length - 1; last > 0; last--)
        {
            chance ^= chance << 13;
            chance ^= chance >> 17;
            chance ^= chance << 5;
            var other = (int)(chance % (uint)(last + 1));
            (order[last], order[other]) = (order[other], order[last]);
        }
    }

    private sealed record Example(Decided Decided, TextFeatures.Feature[] Vector, sbyte[] Signs, float[] Parts);

    /// <summary>For each topic: 1 where it was put, −1 where it was not, −2 where that was refused.</summary>
    private sbyte[] Signs(Decided decided)
    {
        var signs = new sbyte[width];
        for (var t = 0; t < topics.Length; t++)
            signs[t] = (sbyte)(
                decided.Topics.Contains(topics[t]) ? 1
                : decided.Refused.Contains(topics[t]) ? -2
                : -1
            );
        return signs;
    }

    /// <summary>The vector with rarity, of length 1; what no text had is left out.</summary>
    private TextFeatures.Feature[] Unit(TextFeatures.Feature[] vector)
    {
        var length = 0.0;
        foreach (var feature in vector)
            length += Math.Pow(feature.Value * Rarity(feature.Place), 2);
        var by = length == 0 ? 0 : (float)(1 / Math.Sqrt(length));
        return [.. vector.Where(f => Rarity(f.Place) > 0).Select(f => f with { Value = f.Value * Rarity(f.Place) * by })];
    }

    private float Rarity(int place) => rarity[place] > 0 || !fresh.Contains(place) ? rarity[place] : 1 + MathF.Log(1f + texts.Count);

    /// <summary>One text's best step for every topic, with all others as they are.</summary>
    private void Step(Example example, float[] into, float[] intoBias)
    {
        Span<float> margins = stackalloc float[width];
        Span<float> steps = stackalloc float[width];
        Margins(example.Vector, margins);
        var any = false;
        for (var t = 0; t < topics.Length; t++)
        {
            var sign = Math.Sign(example.Signs[t]);
            var loose = 1 / (2 * (example.Signs[t] == -2 ? CostOfRefused : Cost));
            var part = example.Parts[t];
            var next = (float)Math.Max(0, part - (sign * margins[t] - 1 + loose * part) / (2 + loose));
            steps[t] = (next - part) * sign;
            example.Parts[t] = next;
            any |= steps[t] != 0;
        }
        if (!any)
            return;
        foreach (var feature in example.Vector)
            AddTo(into.AsSpan(feature.Place * width, width), steps, feature.Value);
        AddTo(intoBias, steps, 1);
    }

    private static void AddTo(Span<float> into, ReadOnlySpan<float> what, float times)
    {
        var wide = MemoryMarshal.Cast<float, Vector<float>>(into);
        var add = MemoryMarshal.Cast<float, Vector<float>>(what);
        for (var i = 0; i < wide.Length; i++)
            wide[i] += add[i] * times;
    }

    private void Margins(ReadOnlySpan<TextFeatures.Feature> vector, Span<float> margins)
    {
        bias.CopyTo(margins);
        AddTo(margins, addedBias, 1);
        foreach (var feature in vector)
        {
            AddTo(margins, weights.AsSpan(feature.Place * width, width), feature.Value);
            if (added.Count > 0 && added.TryGetValue(feature.Place, out var more))
                AddTo(margins, more, feature.Value);
        }
    }

    /// <summary>
    /// The same weights with some decisions changed since they were learnt: what those said then is taken out, and what they say now is put
    /// in, each by the step it would make. They follow from the learnt weights and these decisions alone, in whatever order they were made.
    /// </summary>
    /// <param name="changed">What each thing says now; null where it says nothing any more.</param>
    public TopicWeights With(IReadOnlyDictionary<int, Decided?> changed)
    {
        var other = new TopicWeights(this);
        if (topics.Length == 0)
            return other;
        var vectors = changed
            .Where(c => c.Value is { } says && says.Topics.Count + says.Refused.Count > 0)
            .ToDictionary(c => c.Key, c => TextFeatures.Of(c.Value!.Text, places, out _));
        other.fresh.UnionWith(vectors.Values.SelectMany(v => v).Select(f => f.Place).Where(place => rarity[place] == 0));
        var now = new List<Example>();
        foreach (var (thing, says) in changed.OrderBy(c => c.Key))
        {
            if (texts.TryGetValue(thing, out var then))
            {
                var signs = Signs(then.Decided);
                var steps = new float[width];
                for (var t = 0; t < topics.Length; t++)
                    steps[t] = -then.Parts[t] * Math.Sign(signs[t]);
                other.Put(Unit(TextFeatures.Of(then.Decided.Text, places, out _)), steps);
            }
            if (vectors.TryGetValue(thing, out var vector))
                now.Add(new Example(says!, other.Unit(vector), Signs(says!), new float[width]));
        }
        for (var round = 0; round < 3; round++)
            foreach (var example in now)
                other.Put(example.Vector, other.BestSteps(example));
        return other;
    }

    private float[] BestSteps(Example example)
    {
        var (margins, steps) = (new float[width], new float[width]);
        Margins(example.Vector, margins);
        for (var t = 0; t < topics.Length; t++)
        {
            var sign = Math.Sign(example.Signs[t]);
            var loose = 1 / (2 * (example.Signs[t] == -2 ? CostOfRefused : Cost));
            var next = (float)Math.Max(0, example.Parts[t] - (sign * margins[t] - 1 + loose * example.Parts[t]) / (2 + loose));
            steps[t] = (next - example.Parts[t]) * sign;
            example.Parts[t] = next;
        }
        return steps;
    }

    private void Put(TextFeatures.Feature[] vector, float[] steps)
    {
        foreach (var feature in vector)
        {
            if (!added.TryGetValue(feature.Place, out var more))
                added[feature.Place] = more = new float[width];
            AddTo(more, steps, feature.Value);
        }
        AddTo(addedBias, steps, 1);
    }

    /// <summary>How far on the side of each topic a text lies: 1 is surely in, −1 surely out.</summary>
    public IReadOnlyDictionary<TopicNumber, double> Of(string text)
    {
        if (topics.Length == 0)
            return new Dictionary<TopicNumber, double>();
        var margins = new float[width];
        Margins(Unit(TextFeatures.Of(text, places, out _)), margins);
        return topics.Select((topic, t) => (topic, (double)margins[t])).ToDictionary();
    }

    /// <summary>The words of a text that carry a topic, or speak against it, the heaviest first, each with its part in the
    /// margin.</summary>
    public IReadOnlyList<(string Word, double Part)> Because(string text, TopicNumber topic)
    {
        var t = Array.IndexOf(topics, topic);
        if (t < 0)
            return [];
        var parts = new Dictionary<int, double>();
        var vector = TextFeatures.Of(text, places, out var words);
        foreach (var feature in Unit(vector))
        {
            var weight = weights[feature.Place * width + t] + (added.TryGetValue(feature.Place, out var more) ? more[t] : 0);
            parts[feature.Word] = parts.GetValueOrDefault(feature.Word) + weight * feature.Value;
        }
        return
        [
            .. parts
                .GroupBy(p => Text.Stems.Fold(words[p.Key]))
                .Select(g => (words[g.Min(p => p.Key)], g.Sum(p => p.Value)))
                .OrderByDescending(p => Math.Abs(p.Item2))
                .ThenBy(p => p.Item1, StringComparer.Ordinal),
        ];
    }
}
