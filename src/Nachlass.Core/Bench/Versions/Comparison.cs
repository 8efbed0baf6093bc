using System.Text;
using DiffPlex;
using DiffPlex.Model;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench.Versions;

/// <summary>What became of a paragraph between two versions.</summary>
public enum ParagraphChange
{
    Same,
    Changed,
    Added,
    Removed,

    /// <summary>It stands elsewhere now.</summary>
    MovedAway,
    MovedHere,
}

/// <summary>A paragraph or heading in two versions.</summary>
/// <param name="Old">As it stood; empty where it was not.</param>
/// <param name="New">As it stands; empty where it is not.</param>
/// <param name="Words">Word by word, where it changed; for what moved, at the place where it stands now.</param>
/// <param name="OldSection">Which section it stood in, counted from 0; −1 before the first, null where it was not.</param>
/// <param name="NewSection">Which section it stands in.</param>
/// <param name="Other">For what moved: which paragraph is its other place.</param>
public sealed record ComparedParagraph(
    ParagraphChange Change,
    string Old,
    string New,
    IReadOnlyList<ChangedWords> Words,
    int? OldSection,
    int? NewSection,
    bool IsHeading,
    int? Other = null
);

/// <summary>Two versions laid beside each other.</summary>
/// <param name="Added">Words that stand only in the new one, without what moved.</param>
/// <param name="Removed">Words that stand only in the old one.</param>
public sealed record Comparison(IReadOnlyList<ComparedParagraph> Paragraphs, int Added, int Removed)
{
    /// <summary>Paragraphs in a changed stretch are paired when they share this much of their words (Dice 1945).</summary>
    private const double Alike = 0.35;

    /// <summary>Elsewhere they have to share more, since they may be alike by chance.</summary>
    private const double AlikeElsewhere = 0.6;

    /// <summary>So many pairs of paragraphs of one stretch are looked at; in longer ones they are paired in their order.</summary>
    private const int MostPairs = 250_000;

    /// <summary>So many pairs of paragraphs of two whole texts are looked at.</summary>
    private const long MostUnits = 100_000_000;

    /// <summary>A shorter paragraph is not said to have moved: it may stand in two places by chance.</summary>
    private const int ShortestMoved = 20;

    /// <summary>Compares two versions: paragraphs first, the words of those that changed then.</summary>
    public static Comparison Of(string old, string now)
    {
        var (a, b) = (VersionText.Units(old), VersionText.Units(now));
        var paragraphs = new List<ComparedParagraph>();
        var (i, j) = (0, 0);
        foreach (var block in Blocks(old, now))
        {
            while (i < block.DeleteStartA)
                paragraphs.Add(Pair(a[i++], b[j++], isSame: true));
            var (endA, endB) = (i + block.DeleteCountA, j + block.InsertCountB);
            foreach (var (one, other) in Aligned(a, i, endA, b, j, endB))
                paragraphs.Add(Pair(one, other, isSame: false));
            (i, j) = (endA, endB);
        }
        while (i < a.Count)
            paragraphs.Add(Pair(a[i++], b[j++], isSame: true));
        Move(paragraphs);
        return new Comparison(
            paragraphs,
            paragraphs.Sum(p => Words(p, ParagraphChange.Added, StandsIn.New)),
            paragraphs.Sum(p => Words(p, ParagraphChange.Removed, StandsIn.Old))
        );
    }

    /// <summary>The new text with some paragraphs as they were; one that moved goes back to its place. All of them give the old text, none
    /// the new one.</summary>
    public string With(IReadOnlyCollection<int> chosen)
    {
        var back = chosen.Where(at => at >= 0 && at < Paragraphs.Count).ToHashSet();
        back.UnionWith(back.Select(at => Paragraphs[at].Other).OfType<int>().ToList());
        var text = new StringBuilder();
        bool? was = null;
        for (var at = 0; at < Paragraphs.Count; at++)
        {
            var isOld = back.Contains(at);
            var next = isOld ? Paragraphs[at].Old : Paragraphs[at].New;
            if (next.Length == 0)
                continue;
            // Where the two texts meet, a paragraph may have been the last of its own and have no empty line behind it.
            if (was is { } before && before != isOld)
                while (text[^1] != '\n' || (text.Length > 1 && text[^2] != '\n'))
                    text.Append('\n');
            text.Append(next);
            was = isOld;
        }
        return text.ToString();
    }

    /// <summary>The paragraphs that make up a section of the old text, with those that stand in it only now.</summary>
    public IReadOnlyList<int> OfSection(int oldSection)
    {
        var heading = Paragraphs.FirstOrDefault(p => p.IsHeading && p.OldSection == oldSection);
        var now = heading?.NewSection ?? (heading?.Other is { } there ? Paragraphs[there].NewSection : null);
        return
        [
            .. Paragraphs
                .Index()
                .Where(p =>
                    p.Item.OldSection == oldSection
                    || (now is not null && p.Item.NewSection == now && p.Item.Change == ParagraphChange.Added)
                )
                .Select(p => p.Index),
        ];
    }

    /// <summary>Where the units of two texts differ; where that is too much to be looked at, all between their equal ends.</summary>
    private static IEnumerable<DiffBlock> Blocks(string old, string now)
    {
        var (a, b) = (ByUnit.Of(old), ByUnit.Of(now));
        if (!WordDifference.IsTooMuch(a, b, MostUnits))
            return Differ.Instance.CreateDiffs(old, now, ignoreWhiteSpace: true, ignoreCase: false, new ByUnit()).DiffBlocks;
        var (start, end) = WordDifference.Ends(a, b);
        return [new DiffBlock(start, a.Count - start - end, start, b.Count - start - end)];
    }

    private static ComparedParagraph Pair(VersionUnit? old, VersionUnit? now, bool isSame) =>
        new(
            isSame ? ParagraphChange.Same
                : old is null ? ParagraphChange.Added
                : now is null ? ParagraphChange.Removed
                : ParagraphChange.Changed,
            old?.Text ?? "",
            now?.Text ?? "",
            isSame || old is null || now is null ? [] : WordDifference.Of(old.Value.Text.TrimEnd('\n'), now.Value.Text.TrimEnd('\n')),
            old?.Section,
            now?.Section,
            (old ?? now)!.Value.IsHeading
        );

    /// <summary>Pairs the paragraphs of a changed stretch so that they share as many words as they can, in their order
    /// (Needleman and Wunsch 1970).</summary>
    private static IEnumerable<(VersionUnit? Old, VersionUnit? New)> Aligned(
        IReadOnlyList<VersionUnit> a,
        int fromA,
        int toA,
        IReadOnlyList<VersionUnit> b,
        int fromB,
        int toB
    )
    {
        var (n, m) = (toA - fromA, toB - fromB);
        if ((long)n * m > MostPairs)
        {
            for (var at = 0; at < Math.Max(n, m); at++)
                yield return (at < n ? a[fromA + at] : null, at < m ? b[fromB + at] : null);
            yield break;
        }
        var ids = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        var olds = Enumerable.Range(fromA, n).Select(at => Bag(a[at].Text, ids)).ToList();
        var news = Enumerable.Range(fromB, m).Select(at => Bag(b[at].Text, ids)).ToList();
        var alike = new double[n, m];
        var best = new double[n + 1, m + 1];
        for (var i = n - 1; i >= 0; i--)
        for (var j = m - 1; j >= 0; j--)
        {
            alike[i, j] = a[fromA + i].IsHeading == b[fromB + j].IsHeading ? Dice(olds[i], news[j]) : 0;
            best[i, j] = Math.Max(best[i + 1, j], best[i, j + 1]);
            if (alike[i, j] >= Alike)
                best[i, j] = Math.Max(best[i, j], best[i + 1, j + 1] + alike[i, j]);
        }
        var (x, y) = (0, 0);
        while (x < n || y < m)
            if (x < n && y < m && alike[x, y] >= Alike && best[x, y] == best[x + 1, y + 1] + alike[x, y])
                yield return (a[fromA + x++], b[fromB + y++]);
            else if (y == m || (x < n && best[x, y] == best[x + 1, y]))
                yield return (a[fromA + x++], null);
            else
                yield return (null, b[fromB + y++]);
    }

    /// <summary>The words of a paragraph, each once, as sorted numbers.</summary>
    private static int[] Bag(string text, Dictionary<string, int> ids)
    {
        var words = new HashSet<int>();
        foreach (var word in text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries))
        {
            if (!ids.TryGetValue(word, out var id))
                ids[word] = id = ids.Count;
            words.Add(id);
        }
        return [.. words.Order()];
    }

    private static double Dice(int[] a, int[] b)
    {
        var (i, j, both) = (0, 0, 0);
        while (i < a.Length && j < b.Length)
            if (a[i] == b[j])
                (i, j, both) = (i + 1, j + 1, both + 1);
            else if (a[i] < b[j])
                i++;
            else
                j++;
        return a.Length + b.Length == 0 ? 0 : 2.0 * both / (a.Length + b.Length);
    }

    /// <summary>What went in one place and came in another has moved: headings and paragraphs word for word first, then paragraphs that
    /// were changed on the way.</summary>
    private static void Move(List<ComparedParagraph> paragraphs)
    {
        var gone = paragraphs
            .Index()
            .Where(p => p.Item.Change == ParagraphChange.Removed && (p.Item.IsHeading || p.Item.Old.Length >= ShortestMoved))
            .ToList();
        var came = paragraphs.Index().Where(p => p.Item.Change == ParagraphChange.Added).ToList();
        var places = gone.GroupBy(p => p.Item.Old.Trim()).ToDictionary(g => g.Key, g => new Queue<int>(g.Select(p => p.Index)));
        foreach (var (at, here) in came)
            if (places.TryGetValue(here.New.Trim(), out var from) && from.Count > 0)
                Moved(from.Dequeue(), at);

        gone = [.. gone.Where(p => paragraphs[p.Index].Other is null && !p.Item.IsHeading)];
        came = [.. came.Where(p => paragraphs[p.Index].Other is null && !p.Item.IsHeading)];
        if ((long)gone.Count * came.Count > MostPairs)
            return;
        var ids = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        var olds = gone.Select(p => Bag(p.Item.Old, ids)).ToList();
        foreach (var (at, here) in came)
        {
            var bag = Bag(here.New, ids);
            var nearest = -1;
            var most = AlikeElsewhere;
            for (var i = 0; i < gone.Count; i++)
                if (paragraphs[gone[i].Index].Other is null && Dice(olds[i], bag) is var alike && alike >= most)
                    (nearest, most) = (gone[i].Index, alike);
            if (nearest >= 0)
                Moved(nearest, at);
        }

        void Moved(int from, int to)
        {
            var (old, now) = (paragraphs[from], paragraphs[to]);
            var words = old.Old.Trim() == now.New.Trim() ? [] : WordDifference.Of(old.Old.TrimEnd('\n'), now.New.TrimEnd('\n'));
            paragraphs[to] = now with { Change = ParagraphChange.MovedHere, Other = from, Words = words };
            paragraphs[from] = old with { Change = ParagraphChange.MovedAway, Other = to };
        }
    }

    private static int Words(ComparedParagraph paragraph, ParagraphChange whole, StandsIn side) =>
        paragraph.Change == whole
            ? Counts.Of(side == StandsIn.New ? paragraph.New : paragraph.Old).Words
            : paragraph.Words.Where(w => w.In == side).Sum(w => Counts.Of(w.Text).Words);

    /// <summary>DiffPlex compares what this gives it.</summary>
    private sealed class ByUnit : IChunker
    {
        public static IReadOnlyList<string> Of(string text) => [.. VersionText.Units(text).Select(u => u.Text)];

        public IReadOnlyList<string> Chunk(string text) => Of(text);
    }
}
