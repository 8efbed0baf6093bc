using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench.Short;

/// <summary>Cuts threads into parts that fit, joins and moves them. What is written stays to the letter; only dividers come and
/// go.</summary>
public static partial class ThreadCut
{
    private const string Between = "\n\n" + ThreadParts.Divider + "\n\n";

    /// <summary>What is put behind a numbered part; empty when parts are not numbered.</summary>
    public static string Numbering(bool isNumbered, int nth, int of) =>
        isNumbered && of > 1 ? string.Create(CultureInfo.InvariantCulture, $" {nth}/{of}") : "";

    /// <summary>Where a part begins to be over its limit: the first character that does not go in any more. Addresses go in whole or not at
    /// all.</summary>
    /// <param name="text">The part.</param>
    /// <param name="behind">What stands behind it and counts too.</param>
    /// <returns>A place in the text, in UTF-16 units; null when all of it goes in.</returns>
    public static int? OverFrom(string text, string behind, Limit limit, FormatLimits limits)
    {
        if (!Measure.Of(text + behind, limit, limits).IsOver)
            return null;
        var ends = Ends(text);
        // The longest beginning that goes in, by halves.
        var (fits, over) = (0, ends.Count - 1);
        while (over - fits > 1)
        {
            var middle = (fits + over) / 2;
            if (Measure.Of(text[..ends[middle]] + behind, limit, limits).IsOver)
                over = middle;
            else
                fits = middle;
        }
        return ends[fits];
    }

    /// <summary>Ends of characters as a reader sees them, none inside an address, from 0 on.</summary>
    private static List<int> Ends(string text)
    {
        var addresses = Address().Matches(text).Select(m => (From: m.Index, To: m.Index + m.Length)).ToList();
        var ends = new List<int> { 0 };
        var next = 0;
        foreach (var at in StringInfo.ParseCombiningCharacters(text).Skip(1).Append(text.Length))
        {
            while (next < addresses.Count && addresses[next].To <= at)
                next++;
            if (next == addresses.Count || at <= addresses[next].From)
                ends.Add(at);
        }
        return ends;
    }

    /// <summary>The draft with every part that is over its limit cut at the ends of sentences, and where one sentence is too long by
    /// itself,
    /// between words.</summary>
    public static string Fitted(string draft, bool isNumbered, Limit limit, FormatLimits limits)
    {
        // Numbers grow with the number of parts, so it is cut anew until that stays.
        for (var of = Math.Max(2, ThreadParts.In(draft).Count); ; )
        {
            var behind = Numbering(isNumbered, of, of);
            var text = Cut(draft, behind, limit, limits);
            var now = ThreadParts.In(text).Count;
            if (Numbering(isNumbered, now, now).Length <= behind.Length)
                return text;
            of = now;
        }
    }

    /// <summary>Where a part is cut, in UTF-16 units.</summary>
    private static List<int> Cuts(string text, string behind, Limit limit, FormatLimits limits)
    {
        var cuts = new List<int>();
        var from = 0;
        while (from < text.Length)
        {
            // No further than a part could reach, so that a long text is not read over and over.
            var rest = text.Substring(from, Math.Min(text.Length - from, Reach(limit)));
            if ((OverFrom(rest, behind, limit, limits) ?? (from + rest.Length < text.Length ? rest.Length : 0)) is not (> 0 and var over))
                break;
            var sentence = WordsInPlace
                .Sentences(WordsInPlace.Of(rest))
                .Select(s => s.To)
                .Where(end => end <= over && end > 0)
                .DefaultIfEmpty(0)
                .Max();
            var word = rest.LastIndexOfAny([' ', '\n'], over - 1);
            var at =
                sentence > 0 ? sentence
                : word > 0 ? word
                : over;
            while (at < rest.Length && char.IsWhiteSpace(rest[at]))
                at++;
            if (at == 0 || from + at >= text.Length)
                break;
            cuts.Add(from + at);
            from += at;
        }
        return cuts;
    }

    /// <summary>UTF-16 units in which a part surely ends: no character or word takes more than forty of them on average, and an address
    /// has 2,000 at most.</summary>
    private static int Reach(Limit limit) => (int)Math.Min(10_000_000L, limit.Most * 40L + 4_000);

    private static string Cut(string draft, string behind, Limit limit, FormatLimits limits)
    {
        var cut = new StringBuilder(draft.Length);
        var at = 0;
        foreach (var part in ThreadParts.In(draft))
        foreach (var place in Cuts(part.Text, behind, limit, limits))
        {
            var end = part.From + place;
            var start = end;
            while (start > at && char.IsWhiteSpace(draft[start - 1]))
                start--;
            cut.Append(draft, at, start - at).Append(Between);
            at = end;
        }
        return cut.Append(draft, at, draft.Length - at).ToString();
    }

    /// <summary>The draft with a part joined to the next one.</summary>
    /// <param name="nth">Counted from 0.</param>
    /// <returns>Null when there is no next one, or a heading stands between.</returns>
    public static string? Joined(string draft, int nth)
    {
        var parts = ThreadParts.In(draft);
        if (nth < 0 || nth + 1 >= parts.Count)
            return null;
        var between = draft[parts[nth].To..parts[nth + 1].From];
        return between.Contains('#', StringComparison.Ordinal) ? null : draft[..parts[nth].To] + "\n\n" + draft[parts[nth + 1].From..];
    }

    /// <summary>The draft with a part in another place; the others keep their order, and dividers and headings stay where they
    /// are.</summary>
    /// <param name="nth">Which one, from 0.</param>
    /// <param name="to">The place it gets, from 0.</param>
    /// <returns>Null when there is no such part or place.</returns>
    public static string? Moved(string draft, int nth, int to)
    {
        var parts = ThreadParts.In(draft);
        if (nth < 0 || nth >= parts.Count || to < 0 || to >= parts.Count)
            return null;
        var texts = parts.Select(p => p.Text).ToList();
        var text = texts[nth];
        texts.RemoveAt(nth);
        texts.Insert(to, text);
        var moved = new StringBuilder();
        var at = 0;
        for (var i = 0; i < parts.Count; at = parts[i].To, i++)
            moved.Append(draft, at, parts[i].From - at).Append(texts[i]);
        return moved.Append(draft, at, draft.Length - at).ToString();
    }

    [GeneratedRegex(@"https?://[^\s<>()\[\]]+")]
    private static partial Regex Address();
}
