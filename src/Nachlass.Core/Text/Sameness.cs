using DiffPlex;
using DiffPlex.Chunkers;
using DiffPlex.DiffBuilder;
using DiffPlex.DiffBuilder.Model;

namespace Nachlass.Core.Text;

/// <summary>A stretch of two texts laid over each other.</summary>
/// <param name="Text">The words.</param>
/// <param name="In">Where they stand: in both, or in one of them only.</param>
public sealed record Stretch(string Text, StretchIn In);

public enum StretchIn
{
    Both,
    First,
    Second,
}

/// <summary>Whether two texts are nearly the same, and where they differ.</summary>
public static class Sameness
{
    /// <summary>From this on two texts are nearly the same: two fifths of all that either says is said by both, or three quarters of the
    /// shorter stands in the longer.</summary>
    public const double Resembling = 0.4,
        Contained = 0.75;

    private const int FewestWords = 4;

    /// <summary>
    /// Whether two texts are nearly the same, by the stems they share: resemblance (shared over all) and containment (shared over
    /// the shorter), after Broder, <i>On the resemblance and containment of documents</i> (1997), with pairs of neighbouring stems for
    /// shingles beside the single ones, since slips are short and get reworded.
    /// </summary>
    public static bool IsNearlySame(string a, string b)
    {
        var (one, other) = (Shingles(a), Shingles(b));
        if (Math.Min(one.Count, other.Count) < FewestWords)
            return one.Count > 0 && one.SetEquals(other);
        var shared = one.Count(other.Contains);
        return (double)shared / (one.Count + other.Count - shared) >= Resembling
            || (double)shared / Math.Min(one.Count, other.Count) >= Contained;
    }

    /// <summary>Both texts laid over each other, word by word.</summary>
    public static IReadOnlyList<Stretch> Differences(string first, string second)
    {
        var model = InlineDiffBuilder.Diff(first, second, ignoreWhiteSpace: false, ignoreCase: false, chunker: new WordChunker());
        var stretches = new List<Stretch>();
        foreach (var line in model.Lines)
        {
            var at = line.Type switch
            {
                ChangeType.Deleted => StretchIn.First,
                ChangeType.Inserted => StretchIn.Second,
                _ => StretchIn.Both,
            };
            if (stretches.Count > 0 && stretches[^1].In == at)
                stretches[^1] = stretches[^1] with { Text = stretches[^1].Text + line.Text };
            else
                stretches.Add(new Stretch(line.Text, at));
        }
        return stretches;
    }

    private static HashSet<string> Shingles(string text)
    {
        var roots = Stems.Of(text).Select(s => s.Root).ToList();
        var shingles = new HashSet<string>(roots);
        for (var i = 1; i < roots.Count; i++)
            shingles.Add(roots[i - 1] + " " + roots[i]);
        return shingles;
    }
}
