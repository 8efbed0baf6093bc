using System.Text.RegularExpressions;
using Nachlass.Core.Text;

namespace Nachlass.Core.Bench.Routes;

/// <summary>A name or term that stands before it is introduced.</summary>
/// <param name="Name">As it is introduced.</param>
/// <param name="Used">Place of the section where it stands first.</param>
/// <param name="Introduced">Place of the section that introduces it.</param>
/// <param name="At">Where in the first section's text it stands, in UTF-16 units.</param>
public sealed record BeforeItsTime(string Name, int Used, int Introduced, int At);

/// <summary>Finds names and terms that a reader meets before being told who or what they are.</summary>
/// <remarks>
/// A text introduces a name by setting beside it what it is ("Hester Lunt, who kept the book", "Lunt was a warden", "a warden called
/// Lunt"), or by giving it in full for the first time; a term by saying that it is called so. Places are not introduced by what follows
/// them: of a name that mostly stands after "at", "in" or "to", only the plain statement counts.
/// </remarks>
public static partial class Introductions
{
    private static readonly HashSet<string> NoNames = new(
        (
            "January February March April May June July August September October November December Monday Tuesday Wednesday Thursday "
            + "Friday Saturday Sunday Easter Christmas Michaelmas I The A An It He She They We You In On At By But And So Then There This "
            + "That These Those If When What Who Why How Where No Not Nobody Nothing Everybody Every Some Two Three Four One"
        ).Split(' '),
        StringComparer.Ordinal
    );

    private static readonly string[] Says = [" is", " was", " are", " were", " had been"];
    private static readonly string[] What = [" a ", " an ", " the ", " one of "];
    private static readonly string[] Beside =
    [
        ", who ",
        ", whose ",
        ", a ",
        ", an ",
        ", the ",
        ", my ",
        ", his ",
        ", her ",
        ", then ",
        ", born ",
    ];
    private static readonly HashSet<string> Naming = ["called", "named", "as"];
    private static readonly HashSet<string> Placing = ["at", "in", "on", "to", "from", "near", "past", "above", "below"];

    /// <param name="Before">The word before it, in small letters.</param>
    private readonly record struct Use(int Section, int At, string Before, bool IsStated, bool IsBeside);

    /// <param name="texts">The sections' texts without marks.</param>
    public static IReadOnlyList<BeforeItsTime> In(IReadOnlyList<string> texts)
    {
        var uses = new Dictionary<string, List<Use>>(StringComparer.Ordinal);
        for (var at = 0; at < texts.Count; at++)
            foreach (Match match in Name().Matches(texts[at]))
                Take(uses, texts[at], at, match.Index, match.Value);
        // Which full names end alike: "Lunt" alone can only be taken for Hester where there is no other Lunt.
        var ends = uses.Keys.Where(n => n.Contains(' ', StringComparison.Ordinal)).ToLookup(Last);
        var found = new List<BeforeItsTime>();
        foreach (var (name, own) in uses)
        {
            var isPerson = IsPerson(name) && ends[Last(name)].Count() == 1;
            var all = isPerson && uses.TryGetValue(Last(name), out var shorter) ? own.Concat(shorter) : own;
            var first = all.MinBy(u => (u.Section, u.At));
            var isPlace = own.Count(u => Placing.Contains(u.Before)) * 2 > own.Count;
            // Where nothing says who it is, a person is introduced by being named in full.
            var introduced =
                own.Where(u => u.IsStated || (u.IsBeside && !isPlace)).Select(u => (int?)u.Section).Min()
                ?? (isPerson ? own.Min(u => u.Section) : null);
            if (introduced is { } section && first.Section < section)
                found.Add(new BeforeItsTime(name, first.Section, section, first.At));
        }
        for (var at = 1; at < texts.Count; at++)
            foreach (Match match in Term().Matches(texts[at]))
            {
                var term = match.Groups["term"].Value.Trim();
                if (found.All(f => f.Name != term) && Earlier(texts, term, at) is { } use)
                    found.Add(new BeforeItsTime(term, use.Section, at, use.At));
            }
        return [.. found.OrderBy(f => f.Used).ThenBy(f => f.At).ThenBy(f => f.Name, StringComparer.Ordinal)];
    }

    private static void Take(Dictionary<string, List<Use>> uses, string text, int section, int at, string name)
    {
        // A sentence begins with a capital that is no name's.
        while (name.Split(' ', 2) is [var first, var rest] && NoNames.Contains(first))
            (at, name) = (at + first.Length + 1, rest);
        if (name.Length < 3 || NoNames.Contains(name))
            return;
        var after = text.AsSpan(at + name.Length);
        var isStated = false;
        foreach (var says in Says)
            if (after.StartsWith(says))
                isStated = StartsWithAny(after[says.Length..], What);
        var before = WordBefore(text, at);
        if (!uses.TryGetValue(name, out var list))
            uses[name] = list = [];
        list.Add(new Use(section, at, before, isStated || Naming.Contains(before), StartsWithAny(after, Beside)));
    }

    private static bool StartsWithAny(ReadOnlySpan<char> text, string[] words)
    {
        foreach (var word in words)
            if (text.StartsWith(word))
                return true;
        return false;
    }

    private static string WordBefore(string text, int at)
    {
        var end = at;
        while (end > 0 && text[end - 1] == ' ')
            end--;
        var start = end;
        while (start > 0 && char.IsLetter(text[start - 1]))
            start--;
        return text[start..end].ToLowerInvariant();
    }

    private static bool IsPerson(string name) => name.Split(' ') is { Length: 2 or 3 } words && !words.Any(NoNames.Contains);

    private static string Last(string name) => name[(name.LastIndexOf(' ') + 1)..];

    private static (int Section, int At)? Earlier(IReadOnlyList<string> texts, string term, int section)
    {
        for (var at = 0; at < section; at++)
        for (
            var place = texts[at].IndexOf(term, StringComparison.OrdinalIgnoreCase);
            place >= 0;
            place = texts[at].IndexOf(term, place + 1, StringComparison.OrdinalIgnoreCase)
        )
            if (!IsLetter(texts[at], place - 1) && !IsLetter(texts[at], place + term.Length))
                return (at, place);
        return null;
    }

    private static bool IsLetter(string text, int at) => at >= 0 && at < text.Length && char.IsLetterOrDigit(text[at]);

    [GeneratedRegex(@"(?<![\w’'])\p{Lu}[\p{L}’'-]*\p{Ll}(?: \p{Lu}[\p{L}’'-]*\p{Ll})*")]
    private static partial Regex Name();

    [GeneratedRegex(
        @"\b(?:is|was|are|were|it|this|that|what|we|I|they) (?:called|call|calls|known as|mean by|means by)(?: it| this| that)?"
            + @"(?: the| an?)? [“""](?<term>[^”""\n]{3,40})[”""]"
    )]
    private static partial Regex Term();
}
