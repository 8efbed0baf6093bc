using Nachlass.Core.Bench;
using Nachlass.Core.Choosing;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Catalogue.Asks;

/// <summary>A wish as it stands in the papers.</summary>
/// <param name="Text">The sentence.</param>
/// <param name="Ask">The ask it is part of; null for one of which its writer said that it asks nothing.</param>
/// <param name="ByHand">Whether the writer put it there.</param>
public sealed record WishKept(WishNumber Number, MessageNumber Message, string Text, AskNumber? Ask, bool ByHand);

/// <summary>An ask as it stands in the papers; what is in it is said by its wishes.</summary>
/// <param name="Title">In the writer's words; empty to have one of the wishes stand for all.</param>
/// <param name="Slip">The idea that was made of it.</param>
/// <param name="Piece">The piece that was made of it.</param>
/// <param name="IsPutAway">Whether it is out of sight.</param>
public sealed record AskKept(AskNumber Number, string Title, SlipNumber? Slip, PieceNumber? Piece, bool IsPutAway, int Version);

/// <summary>What an ask weighs, and which wish stands for it.</summary>
public static class AskWeight
{
    /// <summary>One person's wish: 1 when fresh, half after <see cref="WorthTerms.AskHalfLife"/> days, and one more for each tenfold of
    /// people who agreed with it. The logarithm is ours: a thousand who press a button are not a thousand letters.</summary>
    public static double Of(int days, int reach) => WorthTerms.AskWeight(days) * (1 + Math.Log10(Math.Max(1, reach)));

    /// <summary>An ask's weight: of each person the heaviest wish, once.</summary>
    public static double Of(IEnumerable<(string Person, int Days, int Reach)> wishes) =>
        wishes.GroupBy(w => w.Person).Sum(person => person.Max(w => Of(w.Days, w.Reach)));

    /// <summary>The wish that says it best: one that says what is wished without the sentence before it, a question before a wish, one that
    /// begins as a title does, then the one that is nearest to the others, then the shorter.</summary>
    public static string Title(IReadOnlyList<Wish> wishes, Func<Wish, Wish, double> likeness)
    {
        // What the sentence before says is not said in the title.
        var alone = wishes.Select(w => w with { Words = [.. w.Words.Take(Math.Max(1, w.Own))] }).ToList();
        return alone
            .OrderByDescending(w => w.Own >= FewestWords)
            .ThenByDescending(w => w.Text.EndsWith('?'))
            .ThenBy(w => Joined.Any(word => w.Text.StartsWith(word, StringComparison.OrdinalIgnoreCase)))
            // A tenth more or less is nothing against a title that is short.
            .ThenByDescending(w => alone.Count < 3 ? 0 : Math.Round(alone.Average(o => likeness(w, o)), 1))
            .ThenBy(w => w.Text.Length)
            .ThenBy(w => w.Text, StringComparer.Ordinal)
            .First()
            .Text;
    }

    private static readonly string[] Joined = ["But ", "And ", "So ", "Or ", "Please "];

    private const int FewestWords = 2;
}
