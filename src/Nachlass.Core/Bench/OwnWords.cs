using System.Text.RegularExpressions;
using Nachlass.Core.Ideas;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench;

/// <summary>A text of a piece, of which titles and openings can be made.</summary>
/// <param name="Where">Where it stands, in a few words.</param>
/// <param name="Text">As Markdown.</param>
/// <param name="IsVoice">Whether somebody else says it.</param>
public sealed record OwnText(string Where, string Text, bool IsVoice = false);

/// <summary>What a piece has of words.</summary>
/// <param name="Draft">Its sections in order, then what lies beside it.</param>
/// <param name="Terms">What it says more than all other papers do, the strongest first.</param>
/// <param name="Rarity">What a root weighs, 1 or more, the rarer the more.</param>
public sealed record OwnWords(
    string Title,
    IReadOnlyList<string> Headings,
    IReadOnlyList<OwnText> Draft,
    IReadOnlyList<OwnText> Beside,
    IReadOnlyList<CharacteristicTerm> Terms,
    Func<string, double> Rarity
);

/// <summary>A title or an opening made of a piece's own words: nothing is put in that does not stand there.</summary>
/// <param name="Shape">Of what kind it is, in a few words.</param>
/// <param name="Where">Where its words stand.</param>
public sealed record Variant(string Text, string Shape, string Where);

/// <summary>A sentence of a piece.</summary>
internal sealed record OwnSentence(string Text, string Where, bool IsVoice, bool IsFirst, bool IsLast, double Weight)
{
    /// <summary>Whether it can be understood by itself: what begins with <i>it</i> or <i>but</i> hangs on what stood before.</summary>
    public bool StandsAlone => AsksAtOnce || !OwnSentences.Hanging.Contains(First);

    public bool IsQuestion => Text.EndsWith('?');

    /// <summary>Whether it asks from its first word on: <i>who</i>, <i>what</i>, <i>did</i>. English only.</summary>
    public bool AsksAtOnce => IsQuestion && OwnSentences.Asking.Contains(First);

    private string First { get; } = Stems.Fold(OwnSentences.FirstWord(Text));
}

internal static partial class OwnSentences
{
    /// <summary>English only: other languages have these words too, and their sentences are all taken to stand alone.</summary>
    public static readonly HashSet<string> Hanging =
    [
        .. (
            "it its he she they his her their him them this that these those there then so and but or yet also still both such which "
            + "who whom here thus hence therefore however moreover nor neither either again instead otherwise"
        ).Split(' '),
    ];

    public static readonly HashSet<string> Asking =
    [
        .. "who what how why where when which whose did does do is are was were can could will would should has have had".Split(' '),
    ];

    public static string FirstWord(string text) => Word().Match(text).Value;

    /// <summary>Sentences of these texts in order. A sentence weighs the mean of its words, the rare ones counting most.</summary>
    public static IReadOnlyList<OwnSentence> Of(IReadOnlyList<OwnText> texts, Func<string, double> rarity) =>
        [
            .. texts.SelectMany(text =>
            {
                var all = Paragraphs.Of(text.Text).SelectMany(Paragraphs.Sentences).Where(s => s.Any(char.IsLetter) && IsWhole(s)).ToList();
                return all.Select((s, at) => new OwnSentence(s, text.Where, text.IsVoice, at == 0, at == all.Count - 1, Weight(s, rarity)));
            }),
        ];

    /// <summary>Whether no quotation begins or ends outside it.</summary>
    private static bool IsWhole(string sentence) => sentence.Count(c => c == '“') == sentence.Count(c => c == '”');

    private static double Weight(string sentence, Func<string, double> rarity) =>
        Stems.Of(sentence) is { Count: > 0 } stems ? stems.Select(s => s.Root).Distinct().Average(rarity) : 0;

    public static string Capital(string words) => words.Length == 0 ? words : char.ToUpperInvariant(words[0]) + words[1..];

    /// <summary>A figure, or a number in words from three on: one and two are seldom meant as numbers.</summary>
    [GeneratedRegex(
        @"\b(\p{N}+|three|four|five|six|seven|eight|nine|ten|eleven|twelve|nineteen|twenty|thirty|forty|fifty|sixty|hundred|thousand)\b",
        RegexOptions.IgnoreCase
    )]
    public static partial Regex Number();

    [GeneratedRegex(@"[\p{L}\p{N}]+")]
    private static partial Regex Word();
}

/// <summary>Titles of a piece's own words, by shape.</summary>
public static partial class TitleVariants
{
    public const int Longest = 80;

    private const int MostOfAShape = 3,
        Shortest = 6;

    /// <summary>Titles, shape after shape, each once; the one it has is not among them.</summary>
    public static IReadOnlyList<Variant> Of(OwnWords own)
    {
        var found = new List<Variant>();
        var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase) { own.Title };
        var sentences = OwnSentences.Of([.. own.Draft, .. own.Beside], own.Rarity);
        var strong = sentences.Where(s => s.Text.Length <= Longest && s.StandsAlone).OrderByDescending(s => s.Weight).ToList();
        Add("its question", strong.Where(s => s.IsQuestion).OrderByDescending(s => s.AsksAtOnce).Select(s => (s.Text, s.Where)));
        Add(
            "in quotation marks",
            sentences.SelectMany(s => Quoted().Matches(s.Text).Select(q => ($"“{q.Groups[1].Value.Trim().TrimEnd('.', ',')}”", s.Where)))
        );
        Add("a number in it", strong.Where(s => OwnSentences.Number().IsMatch(s.Text)).Select(s => (s.Text, s.Where)));
        Add("a heading of its own", own.Headings.Select(h => (h, "a heading")));
        var terms = own.Terms.Where(t => t.Words.Any(char.IsLetter)).ToList();
        Add("one thing", terms.Select(t => (t.Spoken, Said(t))));
        Add(
            "two things",
            terms.Take(5).SelectMany((one, at) => terms.Take(5).Skip(at + 1).Select(two => ($"{one.Spoken} and {two.Spoken}", Said(two))))
        );
        Add(
            "one thing, and its question",
            from term in terms.Take(4)
            let root = Roots(term.Words)
            let asks = strong.FirstOrDefault(s => s.AsksAtOnce && !Roots(s.Text).IsSupersetOf(root))
            where asks is not null
            select ($"{OwnSentences.Capital(term.Words)}: {asks.Text}", asks.Where)
        );
        var draft = OwnSentences.Of(own.Draft, own.Rarity);
        Add("as it begins", draft.Where(s => s.IsFirst).Select(s => (s.Text, s.Where)));
        Add("as it ends", draft.Where(s => s.IsLast).Reverse().Select(s => (s.Text, s.Where)));
        Add("its sharpest sentence", strong.Where(s => !s.IsQuestion && !s.IsVoice).Select(s => (s.Text, s.Where)));
        return found;

        void Add(string shape, IEnumerable<(string Words, string Where)> some)
        {
            var of = 0;
            foreach (var (words, where) in some)
            {
                var title = OwnSentences.Capital(words.Trim().TrimEnd('.', ',', ';', ':', '…'));
                if (title.Length is < Shortest or > Longest || !taken.Add(title))
                    continue;
                found.Add(new Variant(title, shape, where));
                if (++of == MostOfAShape)
                    return;
            }
        }
    }

    private static string Said(CharacteristicTerm term) => term.Texts == 1 ? "in one paragraph" : $"in {term.Texts} paragraphs";

    private static HashSet<string> Roots(string words) => [.. Stems.Of(words).Select(s => s.Root)];

    [GeneratedRegex("[“\"„]([^”\"“]{4,60})[”\"“]")]
    private static partial Regex Quoted();
}

/// <summary>Openings of a piece's own words, by shape. Where a reader could come in is the writer's to say; these are places that
/// stand there already.</summary>
public static partial class OpeningVariants
{
    public const int Longest = 260;

    private const int MostOfAShape = 2,
        Shortest = 12;

    /// <summary>Openings, shape after shape, each once; the one it has is not among them.</summary>
    public static IReadOnlyList<Variant> Of(OwnWords own)
    {
        var found = new List<Variant>();
        var sentences = OwnSentences.Of([.. own.Draft, .. own.Beside], own.Rarity);
        var taken = new HashSet<string>();
        if (sentences is [{ IsVoice: false } first, ..] && own.Draft.Count > 0)
            taken.Add(first.Text);
        var alone = sentences.Where(s => s.StandsAlone && s.Text.Length <= Longest).ToList();
        var strong = alone.OrderByDescending(s => s.Weight).ToList();
        var said = alone.Where(s => !s.IsQuestion && !s.IsVoice).ToList();
        Add("with a question", strong.Where(s => s.IsQuestion).OrderByDescending(s => s.AsksAtOnce));
        Add("in somebody’s words", strong.Where(s => s.IsVoice || s.Text.StartsWith('“')));
        Add("with a number", said.Where(s => OwnSentences.Number().IsMatch(s.Text)).OrderByDescending(s => s.Weight));
        Add("on a day, at an hour", said.Where(s => Moment().IsMatch(s.Text)));
        var things = own.Terms.Take(6).Select(t => Stems.Of(t.Words).Select(s => s.Root).ToHashSet()).ToList();
        Add(
            "with a thing",
            said.Select(s => (s, roots: Stems.Of(s.Text).Select(r => r.Root).ToHashSet()))
                .Select(s => (s.s, things: things.Count(t => t.IsSubsetOf(s.roots))))
                .Where(s => s.things > 0)
                .OrderByDescending(s => s.things)
                .ThenByDescending(s => s.s.Weight)
                .Select(s => s.s)
        );
        Add("against what is thought", said.Where(s => Against().IsMatch(s.Text)).OrderByDescending(s => s.Weight));
        Add("from the end", OwnSentences.Of(own.Draft, own.Rarity).Where(s => s.IsLast && s.StandsAlone && !s.IsQuestion).Reverse());
        Add("in a few words", said.Where(s => s.Text.Count(c => c == ' ') is >= 2 and < 7).OrderByDescending(s => s.Weight));
        return found;

        void Add(string shape, IEnumerable<OwnSentence> some)
        {
            foreach (var one in some.Where(s => s.Text.Length is >= Shortest and <= Longest && taken.Add(s.Text)).Take(MostOfAShape))
                found.Add(new Variant(one.Text, shape, one.Where));
        }
    }

    [GeneratedRegex(
        @"\b(1[5-9]\d\d|20\d\d|Monday|Tuesday|Wednesday|Thursday|Friday|Saturday|Sunday|January|February|March|April|June|July|August"
            + "|September|October|November|December|dawn|dusk|midnight|noon"
            + "|that (?:night|morning|evening|winter|summer|spring|autumn|year)"
            + @"|o’clock|at (?:night|daybreak))\b"
    )]
    private static partial Regex Moment();

    [GeneratedRegex(@"\b(nobody|never|no one|not because|not a|nothing|no longer|instead of|rather than|wrong)\b", RegexOptions.IgnoreCase)]
    private static partial Regex Against();
}
