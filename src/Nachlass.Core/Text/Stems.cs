using System.Collections.Concurrent;
using System.Collections.Frozen;
using System.Text;
using Lucene.Net.Analysis.Miscellaneous;
using Lucene.Net.Tartarus.Snowball.Ext;

namespace Nachlass.Core.Text;

/// <summary>A word that carries meaning, reduced to its stem.</summary>
/// <param name="Root">The stem: lower case, without accents.</param>
/// <param name="Word">The word as it stood in the text.</param>
public readonly record struct Stem(string Root, string Word);

/// <summary>Takes texts apart into stems, for everything that compares texts.</summary>
public static class Stems
{
    // The closed-class words of English: they join what is said and say nothing themselves.
    private static readonly FrozenSet<string> Joining = FrozenSet.ToFrozenSet(
        (
            "a about above after again against all also am an and any are aren't as at be because been before being below between both "
            + "but by can can't cannot could couldn't did didn't do does doesn't doing don't down during each ever every few for from "
            + "further get got had hadn't has hasn't have haven't having he her here hers herself him himself his how i i'd i'll i'm i've "
            + "if in into is isn't it it's its itself just let let's like may me might more most much must my myself no nor not now "
            + "of off on "
            + "once one only or other ought our ours ourselves out over own same shall she should shouldn't so some still such than that "
            + "that's the their theirs them themselves then there there's these they they're this those through to too under until "
            + "up upon us "
            + "very was wasn't we we'd we'll we're we've were weren't what what's when where which while who whom whose why will "
            + "with without won't would wouldn't yet you you'd you'll you're you've your yours yourself"
        ).Split(' ')
    );

    private const int MostCachedRoots = 200_000;
    private static readonly ConcurrentDictionary<string, string> Roots = new();
    private static int cached;

    [ThreadStatic]
    private static EnglishStemmer? stemmer;

    /// <summary>The stems of a text in order, without joining words and single letters.</summary>
    public static List<Stem> Of(string text)
    {
        var stems = new List<Stem>(text.Length / 8);
        for (var at = 0; at < text.Length; )
        {
            if (!char.IsLetterOrDigit(text[at]))
            {
                at++;
                continue;
            }
            var start = at;
            while (at < text.Length && (char.IsLetterOrDigit(text[at]) || IsInside(text, at)))
                at++;
            var word = text[start..at];
            var folded = Fold(word);
            if (folded.Length < 2 || Joining.Contains(folded))
                continue;
            stems.Add(new Stem(Root(folded), word));
        }
        return stems;
    }

    private static bool IsInside(string text, int at) => text[at] is '\'' or '’' && at + 1 < text.Length && char.IsLetter(text[at + 1]);

    /// <summary>Lower case without accents and with plain apostrophes.</summary>
    public static string Fold(string word)
    {
        var lower = word.ToLowerInvariant().Replace('’', '\'');
        if (Ascii.IsValid(lower))
            return lower;
        // Not by Unicode normalisation, which the invariant culture the program runs under leaves undone.
        var folded = new char[lower.Length * 4];
        return new string(folded, 0, ASCIIFoldingFilter.FoldToASCII(lower.ToCharArray(), 0, folded, 0, lower.Length));
    }

    /// <summary>The stem of one folded word, after the Snowball English stemmer (Porter 2).</summary>
    private static string Root(string folded)
    {
        if (Roots.TryGetValue(folded, out var known))
            return known;
        stemmer ??= new EnglishStemmer();
        stemmer.SetCurrent(folded.EndsWith("'s", StringComparison.Ordinal) ? folded[..^2] : folded);
        stemmer.Stem();
        var stem = stemmer.Current;
        // The stemmer leaves the one common irregular plural of English alone: ferrymen, women, boatmen.
        var root = string.Intern(stem.Length > 4 && stem.EndsWith("men", StringComparison.Ordinal) ? stem[..^2] + "an" : stem);
        // A bound, so that papers full of numbers and codes don't grow the cache for ever.
        if (Interlocked.Increment(ref cached) < MostCachedRoots)
            Roots[folded] = root;
        return root;
    }
}
