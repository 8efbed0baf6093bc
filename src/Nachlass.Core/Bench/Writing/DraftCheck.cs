using Nachlass.Core.Text;

namespace Nachlass.Core.Bench.Writing;

/// <summary>What a draft is looked over for.</summary>
public enum CheckKind
{
    /// <summary>A word that comes again and again within few sentences.</summary>
    Often,

    /// <summary>A sentence that is hard to hold in one breath.</summary>
    Lengthy,

    /// <summary>Sentences one after the other that begin with the same word.</summary>
    Openings,

    /// <summary>A sentence that hides who does it.</summary>
    Passive,

    /// <summary>A word that could go without loss.</summary>
    Filler,
}

/// <summary>A place worth another look.</summary>
/// <param name="Said">What it is, in a sentence.</param>
/// <param name="From">Where it begins in the draft, in UTF-16 units.</param>
/// <param name="To">Where it ends.</param>
/// <param name="Text">What stands there, shortened.</param>
public sealed record CheckNote(CheckKind Kind, string Said, int From, int To, string Text);

/// <summary>How hard a text is to read.</summary>
/// <param name="Lix">Björnsson (1968), <i>Läsbarhet</i>: words a sentence, and words of more than six letters in a hundred.</param>
/// <param name="LixSays">What that means, by his bands.</param>
/// <param name="Flesch">Reading ease: Flesch (1948), "A new readability yardstick", <i>Journal of Applied Psychology</i> 32; for German
/// Amstad (1978). Null for other languages.</param>
/// <param name="FleschSays">What that means, by Flesch's bands.</param>
public sealed record ReadingEase(
    int Words,
    int Sentences,
    double WordsASentence,
    double Lix,
    string LixSays,
    double? Flesch,
    string FleschSays
);

/// <summary>A draft looked over.</summary>
/// <param name="Language">Name of the language it was looked over in.</param>
/// <param name="NotLookedFor">Kinds for which there are no words of this language.</param>
/// <param name="More">How many places there are beyond those that are told.</param>
public sealed record CheckedDraft(
    string Language,
    ReadingEase Ease,
    IReadOnlyList<CheckNote> Notes,
    IReadOnlyList<CheckKind> NotLookedFor,
    int More
);

/// <summary>Looks a draft over for what its writer may want to see again. It judges nothing: a long sentence may be the best one.</summary>
public static class DraftCheck
{
    /// <summary>Words from which on a sentence is told as long: above it comprehension drops for general readers (Cutts 2013, <i>Oxford
    /// Guide to Plain English</i>, advises 15 to 20 on average and few beyond 35).</summary>
    public const int LongSentence = 35;

    /// <summary>A word is often when it comes so many times within so many words.</summary>
    public const int OftenTimes = 4,
        OftenWithin = 120;

    /// <summary>So many sentences that begin alike are told.</summary>
    public const int SameOpenings = 3;

    /// <summary>Places of one kind that are told at most.</summary>
    public const int MostOfAKind = 200;

    private const int LongestShown = 90;
    private static readonly System.Buffers.SearchValues<char> BetweenParts = System.Buffers.SearchValues.Create(",;:—–(");

    /// <summary>Looks over a draft.</summary>
    /// <param name="draft">Markdown.</param>
    /// <param name="language">The language it is written in.</param>
    /// <param name="without">Kinds that are off.</param>
    public static CheckedDraft Of(string draft, Language language, IReadOnlySet<CheckKind> without)
    {
        var words = WordsInPlace.Of(draft);
        var sentences = WordsInPlace
            .Sentences(words)
            .Select(s => new Sentence(s.From, s.To, s.Paragraph, WordsIn(words, s.From, s.To)))
            .ToList();
        sentences.RemoveAll(s => s.Words.Count == 0);
        var isEnglish = language.Primary == "en";
        var found = new Dictionary<CheckKind, IEnumerable<CheckNote>>
        {
            [CheckKind.Often] = Often(words, sentences),
            [CheckKind.Lengthy] = Lengthy(words, sentences),
            [CheckKind.Openings] = Openings(words, sentences),
            [CheckKind.Passive] = isEnglish ? Passives(words, sentences) : [],
            [CheckKind.Filler] = isEnglish ? Fillers(words, sentences) : [],
        };
        var notes = found.Where(f => !without.Contains(f.Key)).Select(f => f.Value.ToList()).ToList();
        return new CheckedDraft(
            language.Name,
            Ease(words, sentences, language),
            [.. notes.SelectMany(n => n.Take(MostOfAKind)).OrderBy(n => n.From).ThenBy(n => n.Kind)],
            isEnglish ? [] : [CheckKind.Passive, CheckKind.Filler],
            notes.Sum(n => Math.Max(0, n.Count - MostOfAKind))
        );
    }

    private readonly record struct Word(int From, int To);

    private sealed record Sentence(int From, int To, int Paragraph, List<Word> Words);

    private static List<Word> WordsIn(string text, int from, int to)
    {
        var words = new List<Word>();
        for (var at = from; at < to; )
        {
            if (!char.IsLetterOrDigit(text[at]))
            {
                at++;
                continue;
            }
            var start = at;
            while (at < to && (char.IsLetterOrDigit(text[at]) || IsInside(text, at, to)))
                at++;
            words.Add(new Word(start, at));
        }
        return words;
    }

    /// <summary>An apostrophe or hyphen between letters.</summary>
    private static bool IsInside(string text, int at, int to) =>
        text[at] is '\'' or '’' or '-' && at + 1 < to && char.IsLetterOrDigit(text[at + 1]);

    private static string Lower(string text, Word word) => text[word.From..word.To].ToLowerInvariant().Replace('’', '\'');

    private static CheckNote Note(CheckKind kind, string said, string text, int from, int to)
    {
        var shown = string.Join(
            ' ',
            text[from..Math.Min(to, from + LongestShown)].Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
        );
        return new CheckNote(kind, said, from, to, to - from > LongestShown ? shown + "…" : shown);
    }

    private static IEnumerable<CheckNote> Lengthy(string text, List<Sentence> sentences) =>
        sentences
            .Where(s => s.Words.Count > LongSentence)
            .Select(s => Note(CheckKind.Lengthy, $"A sentence of {s.Words.Count} words.", text, s.From, s.To));

    private static IEnumerable<CheckNote> Openings(string text, List<Sentence> sentences)
    {
        for (var at = 0; at < sentences.Count; )
        {
            var opening = Lower(text, sentences[at].Words[0]);
            var end = at + 1;
            while (
                end < sentences.Count
                && sentences[end].Paragraph - sentences[end - 1].Paragraph <= 1
                && Lower(text, sentences[end].Words[0]) == opening
            )
                end++;
            if (end - at >= SameOpenings)
                yield return Note(
                    CheckKind.Openings,
                    $"{end - at} sentences in a row begin with “{text[sentences[at].Words[0].From..sentences[at].Words[0].To]}”.",
                    text,
                    sentences[at].From,
                    sentences[end - 1].To
                );
            at = end;
        }
    }

    /// <summary>Words by their stems; those that only join are not told, nor names.</summary>
    private static IEnumerable<CheckNote> Often(string text, List<Sentence> sentences)
    {
        var places = new Dictionary<string, List<(int Nth, Word Word)>>(StringComparer.Ordinal);
        var nth = 0;
        foreach (var sentence in sentences)
            for (var i = 0; i < sentence.Words.Count; i++, nth++)
            {
                var word = sentence.Words[i];
                var isName = i > 0 && char.IsUpper(text[word.From]);
                if (isName || Stems.Of(text[word.From..word.To]) is not [var stem])
                    continue;
                if (!places.TryGetValue(stem.Root, out var of))
                    places[stem.Root] = of = [];
                of.Add((nth, word));
            }
        foreach (var of in places.Values.Where(p => p.Count >= OftenTimes))
            for (var at = 0; at + OftenTimes <= of.Count; )
            {
                var end = at + OftenTimes;
                if (of[end - 1].Nth - of[at].Nth > OftenWithin)
                {
                    at++;
                    continue;
                }
                while (end < of.Count && of[end].Nth - of[end - 1].Nth <= OftenWithin / OftenTimes)
                    end++;
                var (first, last) = (of[at].Word, of[end - 1].Word);
                yield return new CheckNote(
                    CheckKind.Often,
                    $"“{text[first.From..first.To]}” {end - at} times within {of[end - 1].Nth - of[at].Nth + 1} words.",
                    first.From,
                    last.To,
                    string.Join(", ", of[at..end].Select(o => text[o.Word.From..o.Word.To]).Distinct(StringComparer.OrdinalIgnoreCase))
                );
                at = end;
            }
    }

    /// <summary>A form of “to be”, at most two adverbs, and a participle.</summary>
    private static IEnumerable<CheckNote> Passives(string text, List<Sentence> sentences)
    {
        foreach (var sentence in sentences)
            for (var i = 0; i + 1 < sentence.Words.Count; i++)
            {
                if (!EnglishWords.FormsOfBe.Contains(Lower(text, sentence.Words[i])))
                    continue;
                var next = i + 1;
                while (next < sentence.Words.Count - 1 && next < i + 3 && EnglishWords.IsAdverb(Lower(text, sentence.Words[next])))
                    next++;
                var (from, to) = (sentence.Words[i].From, sentence.Words[next].To);
                // “was, and asked”: what is between has to be words alone.
                if (EnglishWords.IsParticiple(Lower(text, sentence.Words[next])) && !text.AsSpan(from, to - from).ContainsAny(BetweenParts))
                {
                    yield return Note(CheckKind.Passive, "Who does it?", text, from, to);
                    i = next;
                }
            }
    }

    private static IEnumerable<CheckNote> Fillers(string text, List<Sentence> sentences)
    {
        foreach (var sentence in sentences)
            for (var i = 0; i < sentence.Words.Count; i++)
            {
                var last = EnglishWords.Filler(n => i + n < sentence.Words.Count ? Lower(text, sentence.Words[i + n]) : "");
                if (last == 0)
                    continue;
                var (from, to) = (sentence.Words[i].From, sentence.Words[i + last - 1].To);
                yield return Note(CheckKind.Filler, "Does the sentence need it?", text, from, to);
                i += last - 1;
            }
    }

    private static ReadingEase Ease(string text, List<Sentence> sentences, Language language)
    {
        var words = sentences.SelectMany(s => s.Words).ToList();
        if (words.Count == 0)
            return new ReadingEase(0, 0, 0, 0, "", null, "");
        var perSentence = words.Count / (double)sentences.Count;
        var lix = perSentence + 100.0 * words.Count(w => Letters(text, w) > 6) / words.Count;
        var syllables = words.Sum(w => EnglishWords.Syllables(Lower(text, w), language.Primary)) / (double)words.Count;
        double? flesch = language.Primary switch
        {
            "en" => 206.835 - 1.015 * perSentence - 84.6 * syllables,
            "de" => 180 - perSentence - 58.5 * syllables,
            _ => null,
        };
        return new ReadingEase(
            words.Count,
            sentences.Count,
            Math.Round(perSentence, 1),
            Math.Round(lix, 1),
            lix switch
            {
                < 25 => "very easy",
                < 35 => "easy, as stories are",
                < 45 => "middling, as newspapers are",
                < 55 => "hard, as reports are",
                _ => "very hard",
            },
            flesch is { } ease ? Math.Round(ease, 1) : null,
            flesch switch
            {
                null => "",
                >= 90 => "very easy",
                >= 80 => "easy",
                >= 70 => "fairly easy",
                >= 60 => "plain",
                >= 50 => "fairly hard",
                >= 30 => "hard",
                _ => "very hard",
            }
        );
    }

    private static int Letters(string text, Word word) => text.AsSpan(word.From, word.To - word.From).ToString().Count(char.IsLetter);
}
