using System.Text.RegularExpressions;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Ideas;

/// <summary>What ideas are wanted.</summary>
/// <param name="Count">How many at most, 1 to <see cref="Most"/>.</param>
/// <param name="Audience">For whom, in the writer's words; empty for whoever reads.</param>
/// <param name="Seed">The same seed gives the same ideas from the same papers; 1 or more.</param>
/// <param name="Kinds">What they may be made from; null for everything.</param>
public sealed record IdeaWish(int Count, string Audience = "", int Seed = 1, IReadOnlyList<SparkKind>? Kinds = null)
{
    public const int Most = 100,
        LongestAudience = 80;
}

/// <summary>An idea that is proposed.</summary>
/// <param name="Shape">The angle it was laid with.</param>
/// <param name="From">What it was made from.</param>
/// <param name="Because">Why just that.</param>
/// <param name="Own">Roots of the words it has neither from its angle nor from its audience; not kept, and null where not known.</param>
public sealed record MadeIdea(
    string Text,
    string Shape,
    SparkKind Kind,
    TopicNumber? Topic,
    IReadOnlyList<IdeaOrigin> From,
    string Because,
    IReadOnlySet<string>? Own = null
);

/// <summary>
/// Makes ideas from what is in the papers, by laying angles over sparks. It knows nothing of its own and states nothing: what is filled in
/// are the writer's words. The same papers, wish and seed give the same ideas.
/// </summary>
public static partial class IdeaMaker
{
    /// <summary>From this share of common words on, the rare ones counting most, two ideas are one in other words. Ours: below it ideas on
    /// one term from two sides were joined.</summary>
    public const double NearSame = 0.72;

    /// <summary>Ideas one by one: a topic after the other in turn, each kind of spark in turn, each angle as seldom as can be.</summary>
    /// <param name="topics">The sparks of each topic. The first idea on one is there before the next one's sparks are asked for.</param>
    /// <param name="said">What is not to be proposed again, nor what is nearly the same; what is made comes into it.</param>
    /// <param name="joined">Told each time one says nearly what another of these says already, and is joined to it.</param>
    public static IEnumerable<MadeIdea> Make(
        IEnumerable<IReadOnlyList<Spark>> topics,
        IReadOnlyList<Angle> angles,
        IdeaWish wish,
        SaidIdeas said,
        Action? joined = null
    )
    {
        var dice = new Dice((uint)wish.Seed);
        var used = new Dictionary<Angle, int>();
        // Each time a spark comes round it is looked at from a side it was not seen from before.
        var seen = new HashSet<(Spark, Angle)>();
        var piles = new List<List<Spark>>();
        var isFresh = false;
        var made = 0;
        foreach (var spark in Turns())
        {
            var angle = angles
                .Where(a => a.For == spark.Kind && !a.IsOff && !seen.Contains((spark, a)))
                .Select(a => (Angle: a, Lot: dice.Next()))
                .OrderBy(a => used.GetValueOrDefault(a.Angle))
                .ThenBy(a => a.Lot)
                .Select(a => a.Angle)
                .FirstOrDefault();
            if (angle is null)
                continue;
            isFresh = true;
            seen.Add((spark, angle));
            if (Lay(spark, angle, wish.Audience) is not { } text)
                continue;
            if (!said.Add(text, out var isOfThese))
            {
                if (isOfThese)
                    joined?.Invoke();
                continue;
            }
            used[angle] = used.GetValueOrDefault(angle) + 1;
            var own = Roots(text);
            own.ExceptWith(Roots($"{Places().Replace(angle.Wording, " ")} {wish.Audience}"));
            yield return new MadeIdea(text, angle.Shape, spark.Kind, spark.Topic, spark.From, spark.Because, own);
            if (++made == wish.Count)
                yield break;
        }

        IEnumerable<Spark> Turns()
        {
            foreach (var sparks in topics)
            {
                var pile = InTurn(sparks.Where(spark => wish.Kinds is not { Count: > 0 } kinds || kinds.Contains(spark.Kind)), dice);
                if (pile.Count == 0)
                    continue;
                piles.Add(pile);
                yield return pile[0];
            }
            for (var first = 1; ; first = 0)
            {
                for (var at = first; piles.Exists(pile => at < pile.Count); at++)
                    foreach (var pile in piles.Where(pile => at < pile.Count))
                        yield return pile[at];
                if (!isFresh)
                    yield break;
                isFresh = false;
            }
        }
    }

    /// <summary>Kinds in turn, those that say more by themselves more often; within a kind the strongest first but never quite in the same
    /// order.</summary>
    private static List<Spark> InTurn(IEnumerable<Spark> pile, Dice dice) =>
        [
            .. pile.GroupBy(spark => spark.Kind)
                .OrderBy(kind => kind.Key)
                .SelectMany(kind => kind.Select((spark, at) => (spark, Place: (1 + at + dice.Next() % 4 / 2.0) * Every(kind.Key))))
                .OrderBy(s => s.Place)
                .Select(s => s.spark),
        ];

    /// <summary>How seldom a kind comes, of the same number of sparks. Ours: with all alike, topics and formats that never met were two
    /// ideas of five.</summary>
    private static double Every(SparkKind kind) =>
        kind switch
        {
            SparkKind.Term or SparkKind.Occasion => 1,
            SparkKind.Ask or SparkKind.Question or SparkKind.Opposed or SparkKind.Dropped => 1.5,
            SparkKind.Pair => 2,
            SparkKind.Sequel => 3,
            _ => 4,
        };

    /// <summary>The words of an idea; null where the angle can't be laid over it.</summary>
    private static string? Lay(Spark spark, Angle angle, string audience)
    {
        // A topic seen through itself is no idea.
        if (
            angle.Wording.Contains("topic", StringComparison.Ordinal)
            && spark.Kind == SparkKind.Term
            && Roots(spark.Words["word"]).IsSubsetOf(Roots(spark.Words["topic"]))
        )
            return null;
        var filled = FillIn.Fill(angle.Wording, spark.Words);
        if (filled.Fault is not null)
            return null;
        var text = Blanks().Replace(filled.Text, " ").Trim();
        if (text.Length == 0)
            return null;
        text = char.ToUpperInvariant(text[0]) + text[1..];
        return audience.Length == 0 ? text : $"{text} (for {audience})";
    }

    internal static HashSet<string> Roots(object words) => [.. Stems.Of((string)words).Select(s => s.Root)];

    [GeneratedRegex(@"\s+")]
    private static partial Regex Blanks();

    /// <summary>What is filled in, and what decides about it.</summary>
    [GeneratedRegex(@"\{\{.*?\}\}|\{%.*?%\}", RegexOptions.Singleline)]
    private static partial Regex Places();

    /// <summary>Small numbers from a seed: Marsaglia's xorshift, <i>Journal of Statistical Software</i> 8:14 (2003).</summary>
    private sealed class Dice(uint seed)
    {
        private uint state = (seed * 2_654_435_761u) | 1;

        public int Next()
        {
            state ^= state << 13;
            state ^= state >> 17;
            state ^= state << 5;
            return (int)(state >> 1);
        }
    }
}
