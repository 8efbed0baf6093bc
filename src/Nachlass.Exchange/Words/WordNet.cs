using System.Globalization;
using System.Text;

namespace Nachlass.Exchange.Words;

/// <summary>One meaning of a word.</summary>
/// <param name="Part">Part of speech: noun, verb, adjective or adverb.</param>
/// <param name="Means">What it means, in a sentence.</param>
/// <param name="Same">Other words for it, the word itself left out.</param>
/// <param name="Near">Words of wider or like meaning.</param>
public sealed record Meaning(string Part, string Means, IReadOnlyList<string> Same, IReadOnlyList<string> Near);

/// <summary>
/// Looks words up in the files of WordNet 3.1 (Princeton University), in the format of its manual page wndb(5WN): an index in the
/// order of its
/// words, and lines of synonyms found by their byte. Nothing of them is held in memory.
/// </summary>
public sealed class WordNet(string folder)
{
    private static readonly (string File, string Part)[] Parts =
    [
        ("noun", "noun"),
        ("verb", "verb"),
        ("adj", "adjective"),
        ("adv", "adverb"),
    ];

    /// <summary>Endings of inflected words and what they stand for, by part of speech: the rules of detachment of morphy(7WN).</summary>
    private static readonly Dictionary<string, (string Ending, string Base)[]> Detached = new()
    {
        ["noun"] = [("ses", "s"), ("xes", "x"), ("zes", "z"), ("ches", "ch"), ("shes", "sh"), ("men", "man"), ("ies", "y"), ("s", "")],
        ["verb"] = [("ies", "y"), ("es", "e"), ("es", ""), ("ed", "e"), ("ed", ""), ("ing", "e"), ("ing", ""), ("s", "")],
        ["adj"] = [("er", ""), ("est", ""), ("er", "e"), ("est", "e")],
        ["adv"] = [],
    };

    private const int MostMeanings = 12,
        MostWords = 12,
        LongestLine = 64 * 1024;

    /// <summary>Whether the files are there.</summary>
    public bool IsThere =>
        Parts.All(p => File.Exists(Path.Combine(folder, "index." + p.File)) && File.Exists(Path.Combine(folder, "data." + p.File)));

    /// <summary>The meanings of a word, the commonest of each part of speech first; none when it is not known.</summary>
    public IReadOnlyList<Meaning> Of(string word)
    {
        var asked = word.Trim().ToLowerInvariant().Replace(' ', '_').Replace('’', '\'');
        if (asked.Length is 0 or > 100 || !IsThere)
            return [];
        return [.. Parts.SelectMany(part => InPart(asked, part.File, part.Part)).Take(MostMeanings)];
    }

    private List<Meaning> InPart(string asked, string file, string part)
    {
        using var index = Open("index." + file);
        foreach (var lemma in Bases(asked, file))
            if (Find(index, lemma) is { } line)
            {
                using var data = Open("data." + file);
                return [.. Offsets(line).Select(offset => Read(data, offset, asked, lemma, part))];
            }
        return [];
    }

    private FileStream Open(string name) => new(Path.Combine(folder, name), FileMode.Open, FileAccess.Read, FileShare.Read);

    private static IEnumerable<string> Bases(string word, string file) =>
        Detached[file]
            .Where(rule => word.Length > rule.Ending.Length + 1 && word.EndsWith(rule.Ending, StringComparison.Ordinal))
            .SelectMany(rule => WithoutDoubling(word[..^rule.Ending.Length] + rule.Base, rule.Base.Length == 0 && file == "verb"))
            .Prepend(word)
            .Distinct();

    /// <summary>“rigging” comes of “rig”.</summary>
    private static IEnumerable<string> WithoutDoubling(string word, bool isCut) =>
        isCut && word.Length > 3 && word[^1] == word[^2] ? [word, word[..^1]] : [word];

    /// <summary>The line of a lemma, by halves; null when there is none. Lines are in the order of their bytes.</summary>
    private static string? Find(FileStream index, string lemma)
    {
        var (low, high) = (0L, index.Length);
        while (low < high)
        {
            var middle = (low + high) / 2;
            var start = middle == 0 ? 0 : AfterLineEnd(index, middle - 1);
            if (start >= high)
            {
                high = middle;
                continue;
            }
            var line = LineAt(index, start);
            // The head of the file, its licence, is set off by spaces, which come before every letter.
            var order = line.StartsWith(' ') ? -1 : string.CompareOrdinal(line.Split(' ', 2)[0], lemma);
            if (order == 0)
                return line;
            if (order < 0)
                low = start + Encoding.UTF8.GetByteCount(line) + 1;
            else
                high = middle;
        }
        return null;
    }

    private static long AfterLineEnd(FileStream file, long from)
    {
        file.Position = from;
        for (int next; (next = file.ReadByte()) >= 0; )
            if (next == '\n')
                return file.Position;
        return file.Length;
    }

    private static string LineAt(FileStream file, long at)
    {
        file.Position = at;
        var bytes = new List<byte>(256);
        for (int next; (next = file.ReadByte()) >= 0 && next != '\n' && bytes.Count < LongestLine; )
            bytes.Add((byte)next);
        return Encoding.UTF8.GetString([.. bytes]);
    }

    /// <summary>Where in the data the lemma's meanings lie: <c>lemma pos synset_cnt p_cnt [ptr…] sense_cnt tagsense_cnt
    /// offset…</c></summary>
    private static IEnumerable<long> Offsets(string line)
    {
        var fields = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var pointers = int.Parse(fields[3], CultureInfo.InvariantCulture);
        return fields.Skip(4 + pointers + 2).Select(offset => long.Parse(offset, CultureInfo.InvariantCulture));
    }

    private static Meaning Read(FileStream data, long offset, string asked, string lemma, string part)
    {
        var (words, pointers, gloss) = Synset(LineAt(data, offset));
        var same = words.Where(w => !IsAsked(w)).Distinct().Take(MostWords).ToList();
        // “@” leads to the wider, “&” to the like, within the same part of speech.
        var near = pointers
            .Where(p => p.Sign is "@" or "&")
            .SelectMany(p => Synset(LineAt(data, p.Offset)).Words)
            .Where(w => !IsAsked(w) && !same.Contains(w))
            .Distinct()
            .Take(MostWords)
            .ToList();
        return new Meaning(part, gloss.Split("; \"")[0].Trim(), same, near);

        bool IsAsked(string word) => word.Replace(' ', '_').ToLowerInvariant() is var w && (w == asked || w == lemma);
    }

    /// <summary><c>offset lex ss_type w_cnt word lex_id … p_cnt [sign offset pos source/target]… | gloss</c>, with the number of words in
    /// hexadecimal.</summary>
    private static (List<string> Words, List<(string Sign, long Offset)> Pointers, string Gloss) Synset(string line)
    {
        var halves = line.Split('|', 2);
        var fields = halves[0].Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var count = int.Parse(fields[3], NumberStyles.HexNumber, CultureInfo.InvariantCulture);
        var words = Enumerable.Range(0, count).Select(i => Spoken(fields[4 + 2 * i])).ToList();
        var at = 4 + 2 * count;
        var pointers = Enumerable
            .Range(0, int.Parse(fields[at], CultureInfo.InvariantCulture))
            .Select(i => (Sign: fields[at + 1 + 4 * i], Offset: long.Parse(fields[at + 2 + 4 * i], CultureInfo.InvariantCulture)))
            .ToList();
        return (words, pointers, halves.Length > 1 ? halves[1].Trim() : "");
    }

    /// <summary>Without the underlines between words, and without the mark that says where an adjective may stand:
    /// <c>galore(ip)</c>.</summary>
    private static string Spoken(string word) =>
        (word.IndexOf('(', StringComparison.Ordinal) is var mark and > 0 ? word[..mark] : word).Replace('_', ' ');
}
