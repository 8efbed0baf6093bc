using System.Buffers;
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

    /// <summary>How many postings are read for one question, the rarest words first.</summary>
    private const int PostingsRead = 40_000;

    private readonly ReaderWriterLockSlim gate = new();
    private readonly Postings postings = new();
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
            if (counted.Count == 0)
                return;
            var slot = free.Count > 0 ? free.Pop() : entries.Count;
            if (slot == entries.Count)
                entries.Add(null);
            var packed = new int[counted.Count];
            var at = 0;
            foreach (var (key, term) in counted)
            {
                var id = postings.FindOrAdd(key, term.IsPair);
                postings.Add(id, Pack(slot, term.Count));
                packed[at++] = Pack(id, term.Count);
            }
            entries[slot] = new Entry(thing, packed);
            slots[thing] = slot;
            entries[slot]!.Norm = Norm(packed);
            if (slots.Count > weighedAt * 1.2 + 10)
                WeighAgain();
        }
        finally
        {
            gate.ExitWriteLock();
        }
    }

    /// <summary>Takes a text out; does nothing if it isn't there.</summary>
    public void Remove(Reference thing)
    {
        gate.EnterWriteLock();
        try
        {
            TakeOut(thing);
        }
        finally
        {
            gate.ExitWriteLock();
        }
    }

    /// <summary>The things nearest to a text, the nearest first.</summary>
    /// <param name="text">The text asked about.</param>
    /// <param name="most">How many to give at most.</param>
    /// <param name="floor">The least likeness worth giving, 0 to 1.</param>
    /// <param name="among">Which things may be given; all when null.</param>
    /// <returns>Nothing, when nothing is near.</returns>
    public IReadOnlyList<Nearness> Nearest(string text, int most, double floor, Func<Reference, bool>? among = null)
    {
        gate.EnterReadLock();
        try
        {
            var asked = Weigh(text);
            return Measure(asked, Candidates(asked, most * 4 + 32, among), most, floor);
        }
        finally
        {
            gate.ExitReadLock();
        }
    }

    /// <summary>How near a few things are to a text, the nearest first; better than <see cref="Nearest"/> when they are few among
    /// many.</summary>
    /// <param name="text">The text asked about.</param>
    /// <param name="things">The things to measure; those that are not in the index are left out.</param>
    /// <param name="most">How many to give at most.</param>
    /// <param name="floor">The least likeness worth giving, 0 to 1.</param>
    public IReadOnlyList<Nearness> NearestOf(string text, IEnumerable<Reference> things, int most, double floor)
    {
        gate.EnterReadLock();
        try
        {
            return Measure(Weigh(text), things.Where(slots.ContainsKey).Select(thing => slots[thing]), most, floor);
        }
        finally
        {
            gate.ExitReadLock();
        }
    }

    /// <summary>What a stem weighs here, the rarer the more; 1 or above, also for one that no text holds.</summary>
    public double Rarity(string root)
    {
        gate.EnterReadLock();
        try
        {
            var id = postings.Find(Key(root));
            return Idf(id >= 0 ? postings.Holders(id) : 0);
        }
        finally
        {
            gate.ExitReadLock();
        }
    }

    /// <summary>In how many texts a root stands.</summary>
    public int Holders(string root)
    {
        gate.EnterReadLock();
        try
        {
            return postings.Find(Key(root)) is >= 0 and var id ? postings.Holders(id) : 0;
        }
        finally
        {
            gate.ExitReadLock();
        }
    }

    public void Dispose() => gate.Dispose();

    private Asked Weigh(string text)
    {
        var counted = Counted(Stems.Of(text));
        var known = new Dictionary<int, (double Weight, string Word)>(counted.Count);
        var square = 0.0;
        foreach (var (key, term) in counted)
        {
            var id = postings.Find(key);
            var weight = Weight(term.Count, id >= 0 ? postings.Holders(id) : 0, term.IsPair);
            square += weight * weight;
            if (id >= 0)
                known[id] = (weight, term.Word);
        }
        return new Asked(known, Math.Sqrt(square));
    }

    /// <summary>
    /// The slots that look nearest by the rarer words of a text. Its commonest words stand in so many texts that they hardly
    /// tell one from another and would take nearly all of the time; they are counted when the candidates are measured
    /// (index elimination, Manning, Raghavan and Schütze, section 7.1.2).
    /// </summary>
    private List<int> Candidates(Asked asked, int most, Func<Reference, bool>? among)
    {
        var scores = ArrayPool<float>.Shared.Rent(entries.Count);
        Array.Clear(scores, 0, entries.Count);
        var touched = new List<int>();
        var read = 0;
        foreach (var (id, (weight, _)) in asked.Terms.OrderBy(term => postings.Holders(term.Key)))
        {
            var holders = postings.Holders(id);
            if (read > 0 && read + holders > PostingsRead)
                break;
            read += holders;
            var worth = weight * Idf(holders) * (postings.IsPair(id) ? PairWeight : 1);
            foreach (var posting in postings.Of(id))
            {
                var slot = posting >> CountBits;
                if (scores[slot] == 0)
                    touched.Add(slot);
                scores[slot] += (float)(worth * Tf(posting & CountMask));
            }
        }
        var best = new PriorityQueue<int, double>();
        foreach (var slot in touched)
        {
            var entry = entries[slot]!;
            if (among is not null && !among(entry.Thing))
                continue;
            var rough = scores[slot] / entry.Norm;
            if (best.Count < most)
                best.Enqueue(slot, rough);
            else
                best.EnqueueDequeue(slot, rough);
        }
        ArrayPool<float>.Shared.Return(scores);
        return [.. best.UnorderedItems.Select(item => item.Element)];
    }

    /// <summary>Measures candidates exactly, with weights as they are now.</summary>
    private List<Nearness> Measure(Asked asked, IEnumerable<int> candidates, int most, double floor)
    {
        if (asked.Terms.Count == 0)
            return [];
        return
        [
            .. candidates
                .Select(slot => entries[slot]!)
                .Select(entry => (Entry: entry, Likeness: Likeness(asked, entry)))
                .Where(found => found.Likeness > 0 && found.Likeness >= floor)
                .OrderByDescending(found => found.Likeness)
                .ThenBy(found => found.Entry.Thing.Kind)
                .ThenBy(found => found.Entry.Thing.Number)
                .Take(most)
                .Select(found => new Nearness(found.Entry.Thing, found.Likeness, Carrying(found.Entry, asked))),
        ];
    }

    private double Likeness(Asked asked, Entry entry)
    {
        var (product, square) = (0.0, 0.0);
        foreach (var packed in entry.Terms)
        {
            var weight = Weight(packed);
            square += weight * weight;
            if (asked.Terms.TryGetValue(packed >> CountBits, out var term))
                product += weight * term.Weight;
        }
        return Math.Min(1, product / (asked.Norm * Math.Sqrt(square)));
    }

    private List<string> Carrying(Entry entry, Asked asked)
    {
        var shared = entry
            .Terms.Where(packed => asked.Terms.ContainsKey(packed >> CountBits))
            .Select(packed => (Of: asked.Terms[packed >> CountBits], Own: Weight(packed)))
            .OrderByDescending(term => term.Of.Weight * term.Own)
            .Select(term => term.Of.Word);
        var words = new List<string>();
        foreach (var word in shared)
        {
            // A pair says what its two words say; show either, not both.
            if (words.Any(w => w.Contains(word, StringComparison.OrdinalIgnoreCase)))
                continue;
            words.RemoveAll(w => word.Contains(w, StringComparison.OrdinalIgnoreCase));
            words.Add(word);
            if (words.Count == WordsShown)
                break;
        }
        return words;
    }

    private void TakeOut(Reference thing)
    {
        if (!slots.Remove(thing, out var slot))
            return;
        foreach (var packed in entries[slot]!.Terms)
            postings.Remove(packed >> CountBits, Pack(slot, packed & CountMask));
        entries[slot] = null;
        free.Push(slot);
    }

    private void WeighAgain()
    {
        foreach (var entry in entries)
            if (entry is not null)
                entry.Norm = Norm(entry.Terms);
        weighedAt = slots.Count;
    }

    private double Norm(int[] packedTerms)
    {
        var square = 0.0;
        foreach (var packed in packedTerms)
        {
            var weight = Weight(packed);
            square += weight * weight;
        }
        return Math.Sqrt(square);
    }

    /// <summary>What a packed term weighs now.</summary>
    private double Weight(int packed) =>
        Weight(packed & CountMask, postings.Holders(packed >> CountBits), postings.IsPair(packed >> CountBits));

    private double Weight(int count, int holders, bool isPair) => Tf(Math.Min(count, CountMask)) * Idf(holders) * (isPair ? PairWeight : 1);

    private static double Tf(int count) => count == 1 ? 1 : 1 + Math.Log(count);

    private double Idf(int holders) => 1 + Math.Log((1.0 + slots.Count) / (1 + Math.Min(holders, slots.Count)));

    private static ulong Key(string root) => XxHash3.HashToUInt64(MemoryMarshal.AsBytes(root.AsSpan()));

    private static int Pack(int id, int count) => id << CountBits | Math.Min(count, CountMask);

    private static Dictionary<ulong, Term> Counted(List<Stem> stems)
    {
        var counted = new Dictionary<ulong, Term>(stems.Count * 2);
        ulong previous = 0;
        for (var i = 0; i < stems.Count; i++)
        {
            var key = Key(stems[i].Root);
            Count(key, false, stems[i].Word);
            if (i > 0)
                Count(unchecked(previous * 0x9E3779B97F4A7C15 + key), true, stems[i - 1].Word + " " + stems[i].Word);
            previous = key;
        }
        return counted;

        void Count(ulong key, bool isPair, string word)
        {
            ref var term = ref CollectionsMarshal.GetValueRefOrAddDefault(counted, key, out var known);
            term = known ? term with { Count = term.Count + 1 } : new Term(1, isPair, word);
        }
    }

    /// <summary>A text that is asked about: its known terms with their weights, and the length of its whole vector.</summary>
    private sealed record Asked(Dictionary<int, (double Weight, string Word)> Terms, double Norm);

    private readonly record struct Term(int Count, bool IsPair, string Word);

    private sealed class Entry(Reference thing, int[] terms)
    {
        public Reference Thing { get; } = thing;

        /// <summary>Term and how often, packed.</summary>
        public int[] Terms { get; } = terms;

        public double Norm { get; set; }
    }
}
