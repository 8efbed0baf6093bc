using DiffPlex;
using DiffPlex.Chunkers;

namespace Nachlass.Core.Text;

/// <summary>In which of two texts some words stand.</summary>
public enum StandsIn
{
    Both,
    Old,
    New,
}

/// <summary>Some words, and in which of two texts they stand.</summary>
public sealed record ChangedWords(string Text, StandsIn In);

/// <summary>What differs between two texts, word by word (Myers 1986, as DiffPlex does it).</summary>
public static class WordDifference
{
    /// <summary>Two stretches with more pairs of words than this are not compared: one then stands for the other as a whole. The work
    /// grows with the square of what differs, and words that have so little in common say nothing side by side.</summary>
    public const long MostPairs = 4_000_000;

    private static readonly DelimiterChunker ByWord = new([' ', '\n', '\t', '.', ',', ';', ':', '!', '?', '(', ')', '“', '”', '"']);

    /// <summary>The words of both texts in order; joined without those of one side they are the other text.</summary>
    public static IReadOnlyList<ChangedWords> Of(string old, string now)
    {
        var (a, b) = (ByWord.Chunk(old), ByWord.Chunk(now));
        var (start, end) = Ends(a, b);
        var words = new List<ChangedWords>();
        Say(a, 0, start, StandsIn.Both);
        if ((long)(a.Count - start - end) * (b.Count - start - end) > MostPairs)
        {
            Say(a, start, a.Count - end, StandsIn.Old);
            Say(b, start, b.Count - end, StandsIn.New);
        }
        else
        {
            var (olds, news) = (Join(a, start, a.Count - end), Join(b, start, b.Count - end));
            var diff = Differ.Instance.CreateDiffs(olds, news, ignoreWhiteSpace: false, ignoreCase: false, ByWord);
            var at = 0;
            foreach (var block in diff.DiffBlocks)
            {
                Say(diff.PiecesOld, at, block.DeleteStartA, StandsIn.Both);
                at = block.DeleteStartA + block.DeleteCountA;
                Say(diff.PiecesOld, block.DeleteStartA, at, StandsIn.Old);
                Say(diff.PiecesNew, block.InsertStartB, block.InsertStartB + block.InsertCountB, StandsIn.New);
            }
            Say(diff.PiecesOld, at, diff.PiecesOld.Count, StandsIn.Both);
        }
        Say(a, a.Count - end, a.Count, StandsIn.Both);
        return words;

        void Say(IReadOnlyList<string> pieces, int from, int to, StandsIn side)
        {
            var text = Join(pieces, from, to);
            if (text.Length == 0)
                return;
            if (words.Count > 0 && words[^1].In == side)
                words[^1] = words[^1] with { Text = words[^1].Text + text };
            else
                words.Add(new ChangedWords(text, side));
        }
    }

    /// <summary>How many pieces are the same at the beginning and at the end of two lists.</summary>
    public static (int Start, int End) Ends(IReadOnlyList<string> a, IReadOnlyList<string> b)
    {
        var start = 0;
        while (start < a.Count && start < b.Count && a[start] == b[start])
            start++;
        var end = 0;
        while (end < a.Count - start && end < b.Count - start && a[^(end + 1)] == b[^(end + 1)])
            end++;
        return (start, end);
    }

    /// <summary>Whether what differs between two lists has more pairs than can be looked at.</summary>
    public static bool IsTooMuch(IReadOnlyList<string> a, IReadOnlyList<string> b, long most)
    {
        var (start, end) = Ends(a, b);
        return (long)(a.Count - start - end) * (b.Count - start - end) > most;
    }

    private static string Join(IReadOnlyList<string> pieces, int from, int to) => string.Concat(pieces.Skip(from).Take(to - from));
}
