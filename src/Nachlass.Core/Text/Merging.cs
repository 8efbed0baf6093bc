using System.Text;
using DiffPlex;
using DiffPlex.Chunkers;
using DiffPlex.Model;

namespace Nachlass.Core.Text;

/// <summary>Who changed a stretch of a text.</summary>
public enum ChangedBy
{
    /// <summary>Nobody, or both alike.</summary>
    Nobody,
    Mine,
    Theirs,

    /// <summary>Both, each in another way.</summary>
    Both,
}

/// <summary>Some words, and whether they stand in only one of two texts.</summary>
public sealed record Wording(string Text, ChangedBy In);

/// <summary>A stretch of two texts that grew out of one.</summary>
/// <param name="By">Who changed it.</param>
/// <param name="Mine">As it stands in the one.</param>
/// <param name="Theirs">As it stands in the other.</param>
/// <param name="Words">What differs between the two, word by word; empty where they are the same.</param>
public sealed record MergedPart(ChangedBy By, string Mine, string Theirs, IReadOnlyList<Wording> Words);

/// <summary>Two texts laid over each other.</summary>
/// <param name="Parts">The stretches in order.</param>
/// <param name="Text">Both changes in one text, where none is in the other's way; null where the writer has to decide.</param>
public sealed record Merged(IReadOnlyList<MergedPart> Parts, string? Text);

/// <summary>
/// Merges two texts that grew out of the same one, line by line, as by hand: what only one of them changed is taken from that one, and a
/// line is never taken twice. The method is that of diff3 (Khanna, Kunal and Pierce, 2007).
/// </summary>
public static class Merging
{
    private static readonly Dictionary<StandsIn, ChangedBy> Sides = new()
    {
        [StandsIn.Both] = ChangedBy.Nobody,
        [StandsIn.Old] = ChangedBy.Theirs,
        [StandsIn.New] = ChangedBy.Mine,
    };

    /// <summary>Lays two texts over each other.</summary>
    /// <param name="origin">The text both grew out of; null when it is not known, so that wherever they differ the writer decides.</param>
    /// <param name="mine">The one.</param>
    /// <param name="theirs">The other.</param>
    public static Merged Of(string? origin, string mine, string theirs)
    {
        var parts =
            IsTooMuch(origin ?? mine, mine, theirs) ? Apart(mine, theirs)
            : origin is null ? Compared(mine, theirs)
            : Grown(origin, mine, theirs);
        var text = new StringBuilder();
        foreach (var part in parts)
        {
            if (part.By == ChangedBy.Both)
                return new Merged(parts, null);
            text.Append(part.By == ChangedBy.Theirs ? part.Theirs : part.Mine);
        }
        return new Merged(parts, text.ToString());
    }

    /// <summary>So many pairs of lines are looked at.</summary>
    private const long MostLines = 100_000_000;

    private static bool IsTooMuch(string origin, string mine, string theirs)
    {
        var (all, own, other) = (LinesOf(origin), LinesOf(mine), LinesOf(theirs));
        return WordDifference.IsTooMuch(all, own, MostLines)
            || WordDifference.IsTooMuch(all, other, MostLines)
            || WordDifference.IsTooMuch(own, other, MostLines);
    }

    private static IReadOnlyList<string> LinesOf(string text) => new LineEndingsPreservingChunker().Chunk(text);

    /// <summary>Two texts that have too little in common to be laid over each other: the writer takes the one or the other.</summary>
    private static List<MergedPart> Apart(string mine, string theirs)
    {
        var parts = new List<MergedPart>();
        Add(parts, mine == theirs ? ChangedBy.Nobody : ChangedBy.Both, mine, theirs);
        return parts;
    }

    private static List<MergedPart> Compared(string mine, string theirs)
    {
        var diff = Lines(mine, theirs);
        var parts = new List<MergedPart>();
        var (a, b) = (0, 0);
        foreach (var block in diff.DiffBlocks)
        {
            Add(parts, ChangedBy.Nobody, Join(diff.PiecesOld, a, block.DeleteStartA), Join(diff.PiecesNew, b, block.InsertStartB));
            (a, b) = (block.DeleteStartA + block.DeleteCountA, block.InsertStartB + block.InsertCountB);
            Add(parts, ChangedBy.Both, Join(diff.PiecesOld, block.DeleteStartA, a), Join(diff.PiecesNew, block.InsertStartB, b));
        }
        Add(parts, ChangedBy.Nobody, Join(diff.PiecesOld, a, diff.PiecesOld.Count), Join(diff.PiecesNew, b, diff.PiecesNew.Count));
        return parts;
    }

    private static List<MergedPart> Grown(string origin, string mine, string theirs)
    {
        var (own, other) = (Lines(origin, mine), Lines(origin, theirs));
        var parts = new List<MergedPart>();
        var (at, ownAt, otherAt) = (0, 0, 0);
        var (o, t) = (0, 0);
        while (o < own.DiffBlocks.Count || t < other.DiffBlocks.Count)
        {
            // The next changed stretch of the origin, grown until no change of either side reaches over its edge.
            var from = Math.Min(Start(own, o), Start(other, t));
            var to = from;
            var (o0, t0) = (o, t);
            bool grew;
            do
            {
                grew = Take(own, ref o, ref to);
                grew |= Take(other, ref t, ref to);
            } while (grew);
            var (ownTo, otherTo) = (Behind(own, o, to, ownAt, at, o0), Behind(other, t, to, otherAt, at, t0));
            var still = from - at;
            Add(parts, ChangedBy.Nobody, Join(own.PiecesNew, ownAt, ownAt + still), Join(other.PiecesNew, otherAt, otherAt + still));
            var (m, h) = (Join(own.PiecesNew, ownAt + still, ownTo), Join(other.PiecesNew, otherAt + still, otherTo));
            var by =
                m == h ? ChangedBy.Nobody
                : o == o0 ? ChangedBy.Theirs
                : t == t0 ? ChangedBy.Mine
                : ChangedBy.Both;
            Add(parts, by, m, h);
            (at, ownAt, otherAt) = (to, ownTo, otherTo);
        }
        Add(
            parts,
            ChangedBy.Nobody,
            Join(own.PiecesNew, ownAt, own.PiecesNew.Count),
            Join(other.PiecesNew, otherAt, other.PiecesNew.Count)
        );
        return parts;
    }

    private static int Start(DiffResult diff, int block) =>
        block < diff.DiffBlocks.Count ? diff.DiffBlocks[block].DeleteStartA : int.MaxValue;

    /// <summary>Takes in the next changes that begin within the stretch or at its edge.</summary>
    private static bool Take(DiffResult diff, ref int next, ref int to)
    {
        var took = false;
        while (next < diff.DiffBlocks.Count && diff.DiffBlocks[next].DeleteStartA <= to)
        {
            to = Math.Max(to, diff.DiffBlocks[next].DeleteStartA + diff.DiffBlocks[next].DeleteCountA);
            next++;
            took = true;
        }
        return took;
    }

    /// <summary>Where in a grown text the stretch of the origin that ends at <paramref name="to"/> ends.</summary>
    private static int Behind(DiffResult diff, int next, int to, int textAt, int originAt, int first)
    {
        if (next == first)
            return textAt + to - originAt;
        var last = diff.DiffBlocks[next - 1];
        return last.InsertStartB + last.InsertCountB + to - (last.DeleteStartA + last.DeleteCountA);
    }

    private static void Add(List<MergedPart> parts, ChangedBy by, string mine, string theirs)
    {
        if (mine.Length > 0 || theirs.Length > 0)
            parts.Add(
                new MergedPart(
                    by,
                    mine,
                    theirs,
                    mine == theirs ? [] : [.. WordDifference.Of(theirs, mine).Select(w => new Wording(w.Text, Sides[w.In]))]
                )
            );
    }

    private static DiffResult Lines(string old, string now) =>
        Differ.Instance.CreateDiffs(old, now, ignoreWhiteSpace: false, ignoreCase: false, new LineEndingsPreservingChunker());

    private static string Join(IReadOnlyList<string> pieces, int from, int to) => string.Concat(pieces.Skip(from).Take(to - from));
}
