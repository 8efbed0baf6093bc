using System.Collections.Frozen;

namespace Nachlass.Core.Bench.Writing;

/// <summary>English words that a check looks for.</summary>
public static class EnglishWords
{
    public static readonly FrozenSet<string> FormsOfBe = Set("am is are was were be been being isn't aren't wasn't weren't");

    /// <summary>Participles that do not end in -ed.</summary>
    private static readonly FrozenSet<string> Irregular = Set(
        "beaten become begun bent bet bitten blown bought bound bred broken brought built burnt burst cast caught chosen cut dealt done "
            + "drawn driven drunk dug eaten fallen fed felt flung forbidden forgotten forgiven fought found "
            + "frozen given ground grown heard held "
            + "hidden hit hung hurt kept knelt knit known laid learnt led left lent let lit lost made meant "
            + "met mown overtaken overthrown paid "
            + "proven put quit read ridden rung run sawn said seen sent set sewn shaken shed shod shot shown "
            + "shut slain slit smelt sold sought "
            + "sown sped spent spilt spoilt spoken spread spun stolen struck stuck stung strewn sung sunk "
            + "swept sworn swung taken taught thought "
            + "thrown told torn trodden understood undone upheld wept withdrawn withheld won worn wound woven written wrung"
    );

    /// <summary>Words in -ed that are none.</summary>
    private static readonly FrozenSet<string> NoParticiple = Set(
        "red bed need seed weed feed speed breed creed deed greed indeed hundred sacred naked wicked tired "
            + "aged beloved ragged rugged kindred "
            + "shed sled bred fled embed"
    );

    /// <summary>Words and phrases that can mostly go; Strunk (1918), <i>The Elements of Style</i>, III.13, "Omit needless words", and
    /// Gowers (1954), <i>The Complete Plain Words</i>, name these and their like.</summary>
    private static readonly FrozenDictionary<string, string[][]> FillersByFirst = (
        "very|really|quite|rather|just|simply|actually|basically|literally|essentially|somewhat|obviously|clearly|certainly|definitely|"
        + "totally|completely|absolutely|extremely|perhaps|maybe|sort of|kind of|of course|in fact|in order to|the fact that|"
        + "due to the fact that|at this point in time|it should be noted that|it is important to note "
        + "that|needless to say|as a matter of fact|"
        + "a lot of|in terms of|for all intents and purposes|more or less|in a sense|so to speak|as it were|to be honest"
    )
        .Split('|')
        .Select(phrase => phrase.Split(' '))
        .GroupBy(words => words[0])
        .ToFrozenDictionary(g => g.Key, g => g.OrderByDescending(words => words.Length).ToArray());

    private static FrozenSet<string> Set(string words) => words.Split(' ').ToFrozenSet(StringComparer.Ordinal);

    public static bool IsAdverb(string word) =>
        word.EndsWith("ly", StringComparison.Ordinal)
        || word is "not" or "never" or "always" or "often" or "also" or "then" or "still" or "being" or "been";

    public static bool IsParticiple(string word) =>
        Irregular.Contains(word) || word.Length > 3 && word.EndsWith("ed", StringComparison.Ordinal) && !NoParticiple.Contains(word);

    /// <summary>How many words from here on are a filler; 0 for none.</summary>
    /// <param name="word">The word so many places on, in small letters; empty behind the sentence.</param>
    public static int Filler(Func<int, string> word) =>
        FillersByFirst.TryGetValue(word(0), out var phrases)
            ? Array.Find(phrases, phrase => phrase.Index().All(w => word(w.Index) == w.Item))?.Length ?? 0
            : 0;

    /// <summary>Syllables by groups of vowels: in English a final silent e is none, and -le behind a consonant is one. Exact for nine in
    /// ten words, which is what the formulas were fitted to by hand counts.</summary>
    public static int Syllables(string word, string language)
    {
        var vowels = language == "en" ? "aeiouy" : "aeiouyäöüàâéèêëîïôûùáíóúåæø";
        var groups = 0;
        var inGroup = false;
        foreach (var c in word)
        {
            var isVowel = vowels.Contains(c, StringComparison.Ordinal);
            if (isVowel && !inGroup)
                groups++;
            inGroup = isVowel;
        }
        if (language == "en" && groups > 1)
        {
            var isLe =
                word.EndsWith("le", StringComparison.Ordinal) && word.Length > 2 && !vowels.Contains(word[^3], StringComparison.Ordinal);
            if (word.EndsWith('e') && !isLe && !vowels.Contains(word[^2], StringComparison.Ordinal))
                groups--;
            else if (
                word.EndsWith("ed", StringComparison.Ordinal)
                && word.Length > 3
                && word[^3] is not ('t' or 'd')
                && !vowels.Contains(word[^3], StringComparison.Ordinal)
            )
                groups--;
        }
        return Math.Max(1, groups);
    }
}
