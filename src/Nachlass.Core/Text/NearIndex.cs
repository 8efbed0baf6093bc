using System.Diagnostics.CodeAnalysis;
using System.IO.Hashing;
using System.Runtime.InteropServices;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Text;

/// <summary>How near one thing is to a text.</summary>
/// <param name="Thing">The thing.</param>
/// <param name="Likeness">Cosine of the two, 0 (nothing shared) to 1 (the same words).</param>
/// <param name="Words">The shared words and pairs that carry it, the heaviest first, as they stand in the asked text.</param>
public sealed record Nearness(Reference Thing, double Likeness, IReadOnlyList<string> Words);

/// <summary>
/// Finds the nearest texts: an inverted index over stems and pairs of neighbouring stems, weighed by
/// TF-IDF and compared by cosine. Safe for many readers and one writer at a time.
/// </summary>
/// <remarks>
/// Weights after Manning, Raghavan and Schütze, <i>Introduction to Information Retrieval</i> (2008), section 6.4:
/// (1 + ln tf) · idf; idf smoothed as 1 + ln((1 + N)/(1 + n)), as if one more text held every word, so that a word shared by
/// all of the first few texts still counts.
/// A pair counts half, so that a shared phrase lifts a text and a missing one doesn't sink it.
/// </remarks>
public sealed class NearIndex : IDisposable
{
    private const double PairWeight = 0.5;
    private const int CountBits = 4;
    private const int CountMask = (1 << CountBits) - 1;
    private const int WordsShown = 4;

    private readonly ReaderWriterLockSlim gate = new();
    private readonly Dictionary<ulong, int> terms = [];
    private readonly List<Postings> postings = [];
    private readonly List<Entry?> entries = [];
    private readonly Dictionary<Reference, int> slots = [];
    private readonly Stack<int> free = new();
    private int weighedAt;

    /// <summary>How many texts are in it.</summary>
    public int Count => slots.Count;

    /// <summary>Takes a text in, or takes its new wording in place of the old.</summary>
    public void Put(Reference thing, string text)
    {
        var counted = Counted(Stems.Of(text));
        gate.EnterWriteLock();
        try
        {
            TakeOut(thing);
            if (counted.Count == 0) return;
            var slot = free.Count > 0 ? free.Pop() : entries.Count;
            if (slot == entries.Count) entries.Add(null);
            var packed = new int[counted.Count];
            var at = 0;
            foreach (var (key, term) in counted)
            {
                ref var id = ref CollectionsMarshal.GetValueRefOrAddDefault(terms, key, out var known);
                if (!known)
                {
                    id = postings.Count;
                    postings.Add(new Postings(term.IsPair));
                }
                CollectionsMarshal.AsSpan(postings)[id].Add(Pack(slot, term.Count));
                packed[at++] = Pack(id, term.Count);
            }
            entries[slot] = new Entry(thing, packed);
            slots[thing] = slot;
            entries[slot]!.Norm = Norm(packed);
            if (slots.Count > weighedAt * 1.2 + 10) WeighAgain();
        }
        finally { gate.ExitWriteLock(); }
    }

    /// <summary>Takes a text out; does nothing if it isn't there.</summary>
    public void Remove(Reference thing)
    {
        gate.EnterWriteLock();
        try { TakeOut(thing); }
        finally { gate.ExitWriteLock(); }
    }

    /// <summary>The things nearest to a text, the nearest first.</summary>
    /// <param name="text">The text asked about.</param>
    /// <param name="most">How many to give at most.</param>
    /// <param name="floor">The least likeness worth giving, 0 to 1.</param>
    /// <param name="among">Which things may be given; all when null.</param>
    /// <returns>Nothing, when nothing is near.</returns>
    public IReadOnlyList<Nearness> Nearest(string text, int most, double floor, Func<Reference, bool>? among = null)
    {
        var asked = Counted(Stems.Of(text));
        gate.EnterReadLock();
        try
        {
            var weights = new List<(int Id, double Weight, string Word)>(asked.Count);
            var square = 0.0;
            foreach (var (key, term) in asked)
            {
                var known = terms.TryGetValue(key, out var id);
                var weight = Weight(term.Count, known ? postings[id].Count : 0, term.IsPair);
                square += weight * weight;
                if (known) weights.Add((id, weight, term.Word));
            }
            if (weights.Count == 0) return [];
            var norm = Math.Sqrt(square);
            var (scores, touched) = Accumulate(weights);
            // The running norms were weighed a little while ago; take some to spare and measure those exactly.
            var near = new PriorityQueue<int, double>();
            foreach (var slot in touched)
            {
                var entry = entries[slot]!;
                var rough = scores[slot] / (norm * entry.Norm);
                if (rough < floor * 0.8 || (among is not null && !among(entry.Thing))) continue;
                near.Enqueue(slot, rough);
                if (near.Count > most * 2 + 8) near.Dequeue();
            }
            return [.. near.UnorderedItems
                .Select(item => (Slot: item.Element, Likeness: Math.Min(1, scores[item.Element] / (norm * Norm(entries[item.Element]!.Terms)))))
                .Where(item => item.Likeness >= floor)
                .OrderByDescending(item => item.Likeness).ThenBy(item => entries[item.Slot]!.Thing.Kind).ThenBy(item => entries[item.Slot]!.Thing.Number)
                .Take(most)
                .Select(item => new Nearness(entries[item.Slot]!.Thing, item.Likeness, Carrying(entries[item.Slot]!, weights)))];
        }
        finally { gate.ExitReadLock(); }
    }

    public void Dispose() => gate.Dispose();

    private (float[] Scores, List<int> Touched) Accumulate(List<(int Id, double Weight, string Word)> weights)
    {
        var scores = new float[entries.Count];
        var touched = new List<int>();
        foreach (var (id, weight, _) in weights)
        {
            var list = postings[id];
            var worth = weight * Idf(list.Count) * (list.IsPair ? PairWeight : 1);
            foreach (var posting in list.All)
            {
                var slot = posting >> CountBits;
                if (scores[slot] == 0) touched.Add(slot);
                scores[slot] += (float)(worth * Tf(posting & CountMask));
            }
        }
        return (scores, touched);
    }

    private List<string> Carrying(Entry entry, List<(int Id, double Weight, string Word)> weights)
    {
        var held = entry.Terms.ToDictionary(packed => packed >> CountBits, packed => packed & CountMask);
        var shared = weights
            .Where(w => held.ContainsKey(w.Id))
            .OrderByDescending(w => w.Weight * Weight(held[w.Id], postings[w.Id].Count, postings[w.Id].IsPair))
            .Select(w => w.Word);
        var words = new List<string>();
        foreach (var word in shared)
        {
            // A pair says what its two words say; show either, not both.
            if (words.Any(w => w.Contains(word, StringComparison.OrdinalIgnoreCase))) continue;
            words.RemoveAll(w => word.Contains(w, StringComparison.OrdinalIgnoreCase));
            words.Add(word);
            if (words.Count == WordsShown) break;
        }
        return words;
    }

    private void TakeOut(Reference thing)
    {
        if (!slots.Remove(thing, out var slot)) return;
        foreach (var packed in entries[slot]!.Terms)
            CollectionsMarshal.AsSpan(postings)[packed >> CountBits].Remove(Pack(slot, packed & CountMask));
        entries[slot] = null;
        free.Push(slot);
    }

    private void WeighAgain()
    {
        foreach (var entry in entries)
            if (entry is not null) entry.Norm = Norm(entry.Terms);
        weighedAt = slots.Count;
    }

    private double Norm(int[] packedTerms)
    {
        var square = 0.0;
        foreach (var packed in packedTerms)
        {
            var list = postings[packed >> CountBits];
            var weight = Weight(packed & CountMask, list.Count, list.IsPair);
            square += weight * weight;
        }
        return Math.Sqrt(square);
    }

    private double Weight(int count, int holders, bool isPair) => Tf(Math.Min(count, CountMask)) * Idf(holders) * (isPair ? PairWeight : 1);

    private static double Tf(int count) => count == 1 ? 1 : 1 + Math.Log(count);

    private double Idf(int holders) => 1 + Math.Log((1.0 + slots.Count) / (1 + Math.Min(holders, slots.Count)));

    private static int Pack(int id, int count) => id << CountBits | Math.Min(count, CountMask);

    private static Dictionary<ulong, Term> Counted(List<Stem> stems)
    {
        var counted = new Dictionary<ulong, Term>(stems.Count * 2);
        ulong previous = 0;
        for (var i = 0; i < stems.Count; i++)
        {
            var key = XxHash3.HashToUInt64(MemoryMarshal.AsBytes(stems[i].Root.AsSpan()));
            Count(key, false, stems[i].Word);
            if (i > 0) Count(unchecked(previous * 0x9E3779B97F4A7C15 + key), true, stems[i - 1].Word + " " + stems[i].Word);
            previous = key;
        }
        return counted;

        void Count(ulong key, bool isPair, string word)
        {
            ref var term = ref CollectionsMarshal.GetValueRefOrAddDefault(counted, key, out var known);
            term = known ? term with { Count = term.Count + 1 } : new Term(1, isPair, word);
        }
    }

    private readonly record struct Term(int Count, bool IsPair, string Word);

    private sealed class Entry(Reference thing, int[] terms)
    {
        public Reference Thing { get; } = thing;

        /// <summary>Term and how often, packed.</summary>
        public int[] Terms { get; } = terms;

        public double Norm { get; set; }
    }

    /// <summary>The texts that hold a term. Most terms stand in one text only, so the first is kept without an array.</summary>
    private struct Postings(bool isPair)
    {
        private int first;
        private int[]? all;

        public readonly bool IsPair => isPair;
        public int Count { get; private set; }

        [UnscopedRef]
        public readonly ReadOnlySpan<int> All => Count == 0 ? [] : all is null ? new ReadOnlySpan<int>(in first) : all.AsSpan(0, Count);

        public void Add(int posting)
        {
            if (Count == 0 && all is null) first = posting;
            else
            {
                all ??= [first, 0];
                if (Count == all.Length) Array.Resize(ref all, Count * 2);
                all[Count] = posting;
            }
            Count++;
        }

        public void Remove(int posting)
        {
            if (all is null) { Count = 0; return; }
            var at = Array.IndexOf(all, posting, 0, Count);
            if (at < 0) return;
            all[at] = all[--Count];
        }
    }
}
