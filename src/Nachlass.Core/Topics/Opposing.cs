using System.Text.RegularExpressions;
using Nachlass.Core.Text;

namespace Nachlass.Core.Topics;

/// <summary>
/// Whether one text denies what another says. Precision comes first: two texts are set against each other only where a clause of one
/// says of the same things what a clause of the other denies, or gives another number of the same unit for them. A "no" that stands in
/// one of them is nothing by itself, nor is a "but". Where it can't be told, nothing is said.
/// </summary>
/// <remarks>
/// The cues are those of de Marneffe, Rafferty and Manning, <i>Finding Contradictions in Text</i> (ACL 2008), who found that a cue counts
/// only once it is made sure that both texts speak of one event; here that is asked of each pair of clauses. How often it is right is
/// measured on labelled pairs in the bench.
/// </remarks>
public static partial class Opposing
{
    /// <summary>So many things have to be the same in two clauses.</summary>
    private const int FewestShared = 2;

    private static readonly HashSet<string> Denials =
    [
        "not",
        "no",
        "never",
        "none",
        "nobody",
        "nothing",
        "neither",
        "nor",
        "without",
        "cannot",
        "can't",
        "couldn't",
        "don't",
        "doesn't",
        "didn't",
        "isn't",
        "aren't",
        "wasn't",
        "weren't",
        "won't",
        "wouldn't",
        "hasn't",
        "hadn't",
        "denies",
        "denied",
    ];

    /// <summary>Words that say which of several is meant.</summary>
    private static readonly HashSet<string> Ones =
    [
        .. "this that these those other another first second third next last far near former latter every each some".Split(' '),
    ];

    /// <summary>Verbs that are not told by their ending.</summary>
    private static readonly HashSet<string> Stating =
    [
        .. (
            "is are was were be been has have had does did takes took costs cost comes came goes went runs ran "
            + "holds held keeps kept breaks broke begins began gives gave makes made pays paid sells sold buys "
            + "bought lies lay stands stood falls fell rises rose grows grew dies writes wrote says said draws drew "
            + "finds found leaves left meets met sees saw sends sent shows shuts shut sets set wins won"
        ).Split(' '),
    ];

    /// <summary>What sets two texts against each other; null when nothing surely does.</summary>
    public static string? Of(string a, string b) => Of(Clauses(PlainText.Of(a)), Clauses(PlainText.Of(b)));

    internal static string? Of(IReadOnlyList<Clause> a, IReadOnlyList<Clause> b)
    {
        foreach (var one in a)
        foreach (var other in b)
            if (Between(one, other) is { } why)
                return why;
        return null;
    }

    private static string? Between(Clause one, Clause other)
    {
        var (small, large) = one.Things.Count <= other.Things.Count ? (one, other) : (other, one);
        var shared = small.Things.Count;
        // Whatever the one speaks of, the other speaks of too, and of little besides: else it may be about something else.
        if (
            shared < FewestShared
            || large.Things.Count - shared > Math.Max(1, shared / 2)
            || !small.Things.IsSubsetOf(large.Things)
            || !one.Which.SetEquals(other.Which)
        )
            return null;
        if (one.Denials.Count % 2 != other.Denials.Count % 2)
            // With other numbers it may be another time or another one of them that is denied.
            return one.Numbers.Keys.ToHashSet().SetEquals(other.Numbers.Keys) || one.Numbers.Count == 0 || other.Numbers.Count == 0
                ? $"“{one.Denials.Concat(other.Denials).First()}” in one of them"
                : null;
        // A number that is no part of a statement is a name: of a chapter, a contest, a case.
        if (
            !one.States
            || !other.States
            || one.Denials.Count + other.Denials.Count > 0
            || one.Numbers.Count != 1
            || other.Numbers.Count != 1
        )
            return null;
        var ((number, unit), (another, its)) = (one.Numbers.Single(), other.Numbers.Single());
        return number != another && unit == its ? $"{number} against {another}" : null;
    }

    /// <summary>A clause: the things it speaks of, what it denies them with, its numbers with what they count, which of several it
    /// means, and whether it states something.</summary>
    internal sealed record Clause(
        HashSet<string> Things,
        IReadOnlyList<string> Denials,
        IReadOnlyDictionary<string, string> Numbers,
        HashSet<string> Which,
        bool States
    );

    /// <summary>The clauses of a text that say something; what asks or says "if" says nothing.</summary>
    internal static List<Clause> Clauses(string plain)
    {
        var clauses = new List<Clause>();
        foreach (
            Match match in Sentence()
                .Matches(plain)
                .Where(s => !s.Value.EndsWith('?') && !Supposing().IsMatch(s.Value))
                .SelectMany(s => Stretch().Matches(s.Value))
        )
        {
            var text = match.Value;
            if (Supposing().IsMatch(text))
                continue;
            var words = Word().Matches(text).Select(w => Stems.Fold(w.Value)).ToList();
            var numbers = new Dictionary<string, string>();
            for (var i = 0; i < words.Count; i++)
                if (char.IsAsciiDigit(words[i][0]))
                    numbers[words[i]] = IsYear(words[i])
                        ? "year"
                        : Stems.Of(words.ElementAtOrDefault(i + 1) ?? "").FirstOrDefault().Root ?? "";
            clauses.Add(
                new Clause(
                    [
                        .. Stems
                            .Of(text)
                            .Where(s => !Denials.Contains(Stems.Fold(s.Word)) && !char.IsAsciiDigit(s.Root[0]))
                            .Select(s => s.Root),
                    ],
                    // "Not only" says more and "no doubt" says so; neither denies.
                    [
                        .. words.Where(
                            (w, i) =>
                                Denials.Contains(w)
                                && words.ElementAtOrDefault(i + 1) is not ("only" or "doubt" or "but" or "less" or "longer" or "matter")
                        ),
                    ],
                    numbers,
                    [.. words.Where(Ones.Contains)],
                    !text.Contains('#', StringComparison.Ordinal)
                        && words.Any(w => Stating.Contains(w) || (w.Length > 4 && w.EndsWith("ed", StringComparison.Ordinal)))
                )
            );
        }
        return clauses;
    }

    private static bool IsYear(string number) => number.Length == 4 && number[0] is '1' or '2' && number.All(char.IsAsciiDigit);

    [GeneratedRegex(@"[^.!?\n]+[?]?")]
    private static partial Regex Sentence();

    [GeneratedRegex(@"[^.;:!?,—–\n]+")]
    private static partial Regex Stretch();

    [GeneratedRegex(@"^\s*(?:if|unless|whether|when|suppose|perhaps|maybe)\b", RegexOptions.IgnoreCase)]
    private static partial Regex Supposing();

    [GeneratedRegex(@"[\p{L}\p{N}][\p{L}\p{N}'’/]*")]
    private static partial Regex Word();
}
