using System.Globalization;

namespace Nachlass.Core.Text;

/// <summary>Words read in a minute: the adult means for English non-fiction in Brysbaert (2019),
/// "How many words do we read per minute?", <i>Journal of Memory and Language</i> 109.</summary>
public static class ReadingPace
{
    /// <summary>Read silently, words a minute.</summary>
    public const int Silent = 238;

    /// <summary>Read aloud, words a minute.</summary>
    public const int Aloud = 183;

    /// <summary>How long a text takes to read.</summary>
    /// <param name="words">Words in the text, 0 or more.</param>
    /// <param name="pace">Words a minute.</param>
    /// <returns>Whole seconds, rounded; 0 for no words.</returns>
    public static int Seconds(int words, int pace) => (int)Math.Round(words * 60.0 / pace, MidpointRounding.AwayFromZero);
}

/// <summary>The size of a text as a reader meets it: marks, addresses, our own references and remarks to oneself don't count.</summary>
/// <param name="Words">Runs between white space or dashes that hold a letter or a digit.</param>
/// <param name="Characters">Characters as a person sees them (grapheme clusters), spaces included, lines' ends not.</param>
/// <param name="SilentSeconds">Time to read it silently, in seconds.</param>
/// <param name="AloudSeconds">Time to read it aloud, in seconds.</param>
public sealed record Counts(int Words, int Characters, int SilentSeconds, int AloudSeconds)
{
    public static readonly Counts None = Of(0, 0);

    /// <summary>Counts a Markdown text.</summary>
    public static Counts Of(string markdown)
    {
        var plain = PlainText.Of(Remarks.Without(markdown));
        return Of(WordsIn(plain), CharactersIn(plain));
    }

    /// <summary>Two texts, one after the other.</summary>
    public static Counts operator +(Counts a, Counts b) => Of(a.Words + b.Words, a.Characters + b.Characters);

    private static Counts Of(int words, int characters) =>
        new(words, characters, ReadingPace.Seconds(words, ReadingPace.Silent), ReadingPace.Seconds(words, ReadingPace.Aloud));

    private static int WordsIn(string plain)
    {
        var words = 0;
        var holds = false;
        foreach (var c in plain)
        {
            if (char.IsWhiteSpace(c) || c is '—' or '–')
            {
                if (holds)
                    words++;
                holds = false;
            }
            else
                holds |= char.IsLetterOrDigit(c) || char.IsSurrogate(c);
        }
        return holds ? words + 1 : words;
    }

    private static int CharactersIn(string plain)
    {
        var characters = 0;
        foreach (var line in plain.EnumerateLines())
            characters += new StringInfo(line.ToString()).LengthInTextElements;
        return characters;
    }
}
