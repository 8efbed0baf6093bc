using System.Runtime.InteropServices;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Ideas;

/// <summary>How a term stands in a sentence.</summary>
public enum TermForm
{
    /// <summary>A name: <i>Ostrey</i>.</summary>
    Name,

    /// <summary>One of several: <i>the ferry</i>, <i>a ferry</i>.</summary>
    Countable,

    /// <summary>Several at once: <i>ropes</i>.</summary>
    Plural,

    /// <summary>A stuff or a matter: <i>toll money</i>.</summary>
    Mass,
}

/// <summary>A term that is said more on one topic than elsewhere.</summary>
/// <param name="Words">As it most often stands, without an article.</param>
/// <param name="Texts">In how many of the topic's texts it stands.</param>
/// <param name="Elsewhere">In how many of all others, at most.</param>
/// <param name="Strength">How much more often it is here than chance would give (<see cref="LogLikelihood"/>).</param>
/// <param name="Things">The first few texts it stands in.</param>
public sealed record CharacteristicTerm(
    string Words,
    TermForm Form,
    int Texts,
    int Elsewhere,
    double Strength,
    IReadOnlyList<Reference> Things
)
{
    /// <summary>As a sentence speaks of it: <i>the ferry</i>, <i>ropes</i>, <i>Ostrey</i>.</summary>
    public string Spoken => Form == TermForm.Countable ? $"the {Words}" : Words;

    /// <summary>As a sentence speaks of any of them: <i>a ferry</i>, <i>an oar</i>, <i>ropes</i>.</summary>
    public string Any =>
        Form == TermForm.Countable ? $"{("aeiou".Contains(Words[0], StringComparison.Ordinal) ? "an" : "a")} {Words}" : Words;
}

/// <summary>Finds the nouns and pairs of words that are characteristic of a topic's texts.</summary>
public static class CharacteristicTerms
{
    private const int MostThings = 3;

    /// <summary>From here on a term is characteristic: χ² with one degree of freedom, p = 0.01. Lower than where something is said to be
    /// so (<see cref="LogLikelihood.Floor"/>), since a term is only proposed; with that, 8 of the demo's 20 topics had none, with this
    /// 2.</summary>
    public const double Floor = 6.63;

    /// <summary>Uses before which a noun's company stands, at least of all its uses; ours, by reading what came of it.</summary>
    private const double Company = 0.5;

    // What stands before a noun in English: articles, what points, what owns, what counts, and what leads to a place or time.
    private static readonly HashSet<string> Before =
    [
        .. (
            "the a an this that these those my your his her its our their no every each any some many few several all both one two three "
            + "four five six seven eight nine ten of in on at by from with without between under over across through near behind before "
            + "after for to into against along about per as like than and or"
        ).Split(' '),
    ];

    /// <summary>The most characteristic terms, the strongest first.</summary>
    /// <param name="texts">Texts on the topic, as Markdown.</param>
    /// <param name="holders">In how many texts of all a root stands.</param>
    /// <param name="all">How many texts there are, those of the topic among them.</param>
    /// <param name="words">Reads the texts, and leaves out what says nothing.</param>
    /// <param name="most">How many to give at most.</param>
    public static IReadOnlyList<CharacteristicTerm> Of(
        IReadOnlyList<(Reference Thing, string Text)> texts,
        Func<string, int> holders,
        int all,
        TermWords words,
        int most = 24
    )
    {
        var read = texts.Select(t => words.Of(PlainText.Of(t.Text))).ToList();
        // Most pairs stand in one text only, so that it is worth counting texts before looking at each use.
        var holding = new Dictionary<Key, (int Last, int Texts)>();
        foreach (var (at, key, _, _) in Uses(read))
        {
            ref var count = ref CollectionsMarshal.GetValueRefOrAddDefault(holding, key, out var isThere);
            if (!isThere || count.Last != at)
                count = (at, count.Texts + 1);
        }
        var seen = holding.Where(h => h.Value.Texts >= 2).ToDictionary(h => h.Key, h => new Seen { Texts = h.Value.Texts });
        foreach (var (at, key, first, last) in Uses(read))
            if (seen.TryGetValue(key, out var entry))
                entry.Add(texts[at].Thing, read[at], first, last);
        var terms = seen.Where(s => s.Value.IsNoun)
            .Select(s => (s.Key, Term: Term(Roots(s.Key), s.Value, holders, texts.Count, all)))
            .Where(t => t.Term.Strength >= Floor)
            .OrderByDescending(t => t.Term.Strength)
            .ThenBy(t => string.Join(' ', Roots(t.Key)), StringComparer.Ordinal)
            .ToList();
        // A word that hardly ever stands without its neighbour is given with it only.
        var pairs = terms.Where(t => t.Key.IsPair).ToList();
        return
        [
            .. terms
                .Where(t =>
                    t.Key.IsPair
                    || !pairs.Exists(p => (p.Key.First == t.Key.First || p.Key.Second == t.Key.First) && p.Term.Texts >= 0.7 * t.Term.Texts)
                )
                .Select(t => t.Term)
                .Take(most),
        ];

        string[] Roots(Key key) => key.IsPair ? [words.Root(key.First), words.Root(key.Second)] : [words.Root(key.First)];
    }

    /// <summary>What is counted: a root, or two that stand side by side, by their numbers.</summary>
    private readonly record struct Key(int First, int Second = TermWords.None)
    {
        public bool IsPair => Second != TermWords.None;
    }

    /// <summary>Each use of each root and pair: in which text, and from which of its words to which.</summary>
    private static IEnumerable<(int Text, Key Key, int First, int Last)> Uses(List<List<TermWord>> texts)
    {
        for (var at = 0; at < texts.Count; at++)
        {
            var words = texts[at];
            for (var i = 0; i < words.Count; i++)
            {
                if (!words[i].Counts)
                    continue;
                yield return (at, new Key(words[i].Root), i, i);
                if (i + 1 < words.Count && !words[i + 1].IsFresh && words[i + 1].Counts)
                    yield return (at, new Key(words[i].Root, words[i + 1].Root), i, i + 1);
            }
        }
    }

    private static CharacteristicTerm Term(string[] roots, Seen entry, Func<string, int> holders, int here, int all)
    {
        // Of a pair it is only known that it stands in no more texts than the rarer of its words.
        var elsewhere = Math.Max(entry.Texts, roots.Min(holders)) - entry.Texts;
        var (words, form) = entry.Spoken();
        return new CharacteristicTerm(
            words,
            form,
            entry.Texts,
            elsewhere,
            LogLikelihood.Ratio(entry.Texts, here, elsewhere, Math.Max(0, all - here)),
            entry.Things
        );
    }

    private sealed class Seen
    {
        private readonly Dictionary<string, int> spelt = [];
        private int uses,
            led,
            ledByWord,
            closed,
            inside,
            capital,
            any,
            definite;

        public List<Reference> Things { get; } = [];
        public required int Texts { get; init; }

        /// <summary>Whether it mostly stands where a noun does: behind what leads to one, and before no further word of its kind.</summary>
        public bool IsNoun =>
            led >= Company * uses && closed >= Company * uses && (any + definite > 0 || ledByWord >= Company * uses || IsName);

        private bool IsName => inside > 0 && capital >= 0.7 * inside;

        public void Add(Reference thing, List<TermWord> words, int first, int last)
        {
            if (Things.Count < MostThings && (Things.Count == 0 || Things[^1] != thing))
                Things.Add(thing);
            uses++;
            var text = first == last ? words[first].Text : $"{words[first].Text} {words[last].Text}";
            var before = first > 0 && !words[first].IsFresh ? words[first - 1].Folded : null;
            if (before is null || Before.Contains(before))
                led++;
            if (before is not null && Before.Contains(before))
                ledByWord++;
            if (before is "a" or "an")
                any++;
            if (before is "the")
                definite++;
            if (last + 1 >= words.Count || words[last + 1].IsFresh || words[last + 1].Root == TermWords.None)
                closed++;
            if (!words[first].IsFirst)
            {
                inside++;
                if (char.IsUpper(words[first].Text[0]))
                    capital++;
            }
            spelt[text] = spelt.GetValueOrDefault(text) + 1;
        }

        public (string Words, TermForm Form) Spoken()
        {
            var words = spelt
                .GroupBy(s => IsName ? s.Key : s.Key.ToLowerInvariant())
                .Select(g => (g.Key, Times: g.Sum(s => s.Value)))
                .OrderByDescending(s => s.Times)
                .ThenBy(s => s.Key, StringComparer.Ordinal)
                .First()
                .Key;
            if (IsName)
                return (words, TermForm.Name);
            var isPlural =
                words.EndsWith('s')
                && !words.EndsWith("ss", StringComparison.Ordinal)
                && !words.EndsWith("us", StringComparison.Ordinal)
                && !words.EndsWith("is", StringComparison.Ordinal);
            return (
                words,
                isPlural ? TermForm.Plural
                : any > 0 || definite >= 0.25 * uses ? TermForm.Countable
                : TermForm.Mass
            );
        }
    }
}
