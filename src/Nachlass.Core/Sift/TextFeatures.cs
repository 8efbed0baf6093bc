using System.Runtime.InteropServices;
using Nachlass.Core.Text;

namespace Nachlass.Core.Sift;

/// <summary>
/// A text as a vector: its words, their stems, pairs of neighbours, and the stretches of three to five letters in each word, which meet
/// where spelling and endings differ. Each falls into one of a fixed number of places by its hash (Weinberger et al., <i>Feature hashing
/// for large scale multitask learning</i>, ICML 2009), so that nothing has to be looked up.
/// </summary>
public static class TextFeatures
{
    /// <summary>Words of a text that are looked at; beyond them it says what it is about.</summary>
    public const int MostWords = 600;

    /// <summary>A place of the vector.</summary>
    /// <param name="Place">From 0 to the number of places less one.</param>
    /// <param name="Value">How often what stands there is in the text, as 1 + ln of it.</param>
    /// <param name="Word">Which word of the text it comes of first, from 0.</param>
    public readonly record struct Feature(int Place, float Value, int Word);

    /// <summary>The vector of a text, by place.</summary>
    /// <param name="places">How many places there are; a power of two.</param>
    /// <param name="words">The words of the text, as they stand in it.</param>
    public static Feature[] Of(string text, int places, out List<string> words)
    {
        words = [];
        var counts = new Dictionary<int, (int Count, int Word)>();
        var (before, stemBefore) = ("", "");
        foreach (var (word, root) in Words(text))
        {
            var at = words.Count;
            words.Add(word);
            var folded = Stems.Fold(word);
            Add(Hash('w', folded), at);
            Add(Hash('s', root ?? folded), at);
            if (before.Length > 0)
                Add(Hash('p', before, folded), at);
            if (root is not null)
            {
                if (stemBefore.Length > 0)
                    Add(Hash('q', stemBefore, root), at);
                stemBefore = root;
            }
            Letters(folded, at);
            before = folded;
            if (words.Count == MostWords)
                break;
        }
        var features = new Feature[counts.Count];
        var next = 0;
        foreach (var (place, (count, word)) in counts)
            features[next++] = new Feature(place, 1 + MathF.Log(count), word);
        // One order for one text, so that sums come out the same to the last bit.
        Array.Sort(features, (a, b) => a.Place.CompareTo(b.Place));
        return features;

        void Add(uint hash, int word)
        {
            ref var entry = ref CollectionsMarshal.GetValueRefOrAddDefault(counts, (int)(hash & (uint)(places - 1)), out var exists);
            entry = (entry.Count + 1, exists ? entry.Word : word);
        }

        void Letters(string word, int at)
        {
            var bounded = $" {word} ";
            for (var length = 3; length <= 5; length++)
            for (var start = 0; start + length <= bounded.Length; start++)
                Add(Hash('c', bounded.AsSpan(start, length)), at);
        }
    }

    /// <summary>The words in order, each with its stem; joining words have none.</summary>
    private static IEnumerable<(string Word, string? Root)> Words(string text)
    {
        for (var at = 0; at < text.Length; )
        {
            if (!char.IsLetterOrDigit(text[at]))
            {
                at++;
                continue;
            }
            var start = at;
            while (
                at < text.Length
                && (char.IsLetterOrDigit(text[at]) || (text[at] is '\'' or '’' && at + 1 < text.Length && char.IsLetter(text[at + 1])))
            )
                at++;
            var word = text[start..Math.Min(at, start + 40)];
            yield return (word, Stems.Of(word) is [var stem, ..] ? stem.Root : null);
        }
    }

    private static uint Hash(char kind, ReadOnlySpan<char> text) => Mixed(Fold(2_166_136_261u ^ kind, text));

    private static uint Hash(char kind, string first, string second) => Mixed(Fold(Fold(2_166_136_261u ^ kind, first) * 31 + ' ', second));

    /// <summary>FNV-1a over UTF-16 units.</summary>
    private static uint Fold(uint hash, ReadOnlySpan<char> text)
    {
        foreach (var c in text)
            hash = (hash ^ c) * 16_777_619u;
        return hash;
    }

    /// <summary>Spreads a hash over its low bits (the finalizer of MurmurHash3).</summary>
    private static uint Mixed(uint hash)
    {
        hash ^= hash >> 16;
        hash *= 0x85EB_CA6B;
        hash ^= hash >> 13;
        hash *= 0xC2B2_AE35;
        return hash ^ (hash >> 16);
    }
}
