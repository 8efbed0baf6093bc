using System.Buffers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Ideas;

/// <summary>A word of a text, as it is looked at for terms.</summary>
/// <param name="Folded">In small letters and without accents.</param>
/// <param name="Root">Number of its root; <see cref="TermWords.None"/> for one that only joins, and for a figure.</param>
/// <param name="Counts">Whether it could be a term, or part of one.</param>
/// <param name="IsFresh">Whether something other than a blank stands before it.</param>
/// <param name="IsFirst">Whether it begins a sentence.</param>
internal readonly record struct TermWord(string Text, string Folded, int Root, bool Counts, bool IsFresh = false, bool IsFirst = false);

/// <summary>Takes texts apart into words for <see cref="CharacteristicTerms"/>. Each word is looked at once, however many texts and
/// topics it comes up in.</summary>
/// <param name="leftOut">Roots that say nothing here.</param>
public sealed class TermWords(IReadOnlySet<string> leftOut)
{
    /// <summary>The number of no root.</summary>
    internal const int None = -1;

    /// <summary>What a sentence begins after.</summary>
    private static readonly SearchValues<char> Openers = SearchValues.Create(".!?:\n“");

    private readonly List<string> roots = [];
    private readonly Dictionary<string, int> numbers = [];
    private readonly Dictionary<string, TermWord> known = [];

    /// <summary>None is left out.</summary>
    public TermWords()
        : this(new HashSet<string>()) { }

    internal string Root(int number) => roots[number];

    /// <param name="text">Plain text.</param>
    internal List<TermWord> Of(string text)
    {
        var words = new List<TermWord>();
        var end = 0;
        for (var at = 0; at < text.Length; )
        {
            if (!IsOfWord(text[at]))
            {
                at++;
                continue;
            }
            var start = at;
            while (at < text.Length && (IsOfWord(text[at]) || IsBetween(text, at)))
                at++;
            var between = text.AsSpan(end, start - end);
            words.Add(
                Read(text.AsSpan(start, at - start)) with
                {
                    IsFresh = words.Count == 0 || between.Trim(' ').Length > 0,
                    IsFirst = words.Count == 0 || between.ContainsAny(Openers),
                }
            );
            end = at;
        }
        return words;
    }

    private static bool IsOfWord(char c) => char.IsLetter(c) || char.IsNumber(c);

    private static bool IsBetween(string text, int at) => text[at] is '\'' or '’' or '-' && at + 1 < text.Length && IsOfWord(text[at + 1]);

    private TermWord Read(ReadOnlySpan<char> letters)
    {
        var read = known.GetAlternateLookup<ReadOnlySpan<char>>();
        if (read.TryGetValue(letters, out var word))
            return word;
        var text = letters.ToString();
        var root = Stems.Of(text) is [var stem] && !stem.Root.Any(char.IsDigit) ? stem.Root : null;
        word = new TermWord(text, Stems.Fold(text), root is null ? None : Number(root), root is not null && !leftOut.Contains(root));
        return read[letters] = word;
    }

    private int Number(string root)
    {
        if (numbers.TryGetValue(root, out var number))
            return number;
        roots.Add(root);
        return numbers[root] = roots.Count - 1;
    }
}
