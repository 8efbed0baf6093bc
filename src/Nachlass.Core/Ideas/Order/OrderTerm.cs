using Nachlass.Core.Papers;

namespace Nachlass.Core.Ideas.Order;

/// <summary>What can speak for a topic now.</summary>
public enum OrderTerm
{
    /// <summary>An occasion comes, or these are the months in which it comes up.</summary>
    Season,

    /// <summary>It comes up more often lately.</summary>
    Rising,

    /// <summary>What went out on it reached more.</summary>
    Effect,

    /// <summary>Readers want it.</summary>
    Asks,

    /// <summary>Nothing went out on it for long.</summary>
    Coverage,
}

/// <summary>How much each term counts, 0 (not at all) to 5.</summary>
public sealed record OrderWeights(double Season = 3, double Rising = 2, double Effect = 2, double Asks = 3, double Coverage = 3)
{
    public const double Most = 5;

    public double this[OrderTerm term] =>
        term switch
        {
            OrderTerm.Season => Season,
            OrderTerm.Rising => Rising,
            OrderTerm.Effect => Effect,
            OrderTerm.Asks => Asks,
            _ => Coverage,
        };

    /// <exception cref="BadInputException">One is not from 0 to 5, or all are 0.</exception>
    public OrderWeights Checked()
    {
        foreach (var term in Enum.GetValues<OrderTerm>())
            if (!(this[term] is >= 0 and <= Most))
                throw new BadInputException(
                    $"weights.{term.ToString().ToLowerInvariant()}",
                    $"{term} weighs from 0, not at all, to {Most:0}."
                );
        return Enum.GetValues<OrderTerm>().All(term => this[term] == 0)
            ? throw new BadInputException("weights", "Something has to count: with every weight at 0 there is no order.")
            : this;
    }
}

/// <summary>A figure a reason was made from.</summary>
/// <param name="Name">What it counts, in a few words.</param>
/// <param name="Value">Rounded to what it is good for.</param>
public sealed record TermFigure(string Name, double Value);

/// <summary>What one term says of a topic.</summary>
/// <param name="Value">0 to 1, ½ where it is as usual; null where there is too little to say, which counts neither way.</param>
/// <param name="Because">The reason as a sentence, made from the figures.</param>
public sealed record TermRead(OrderTerm Term, double? Value, string Because, IReadOnlyList<TermFigure> Figures);

/// <summary>Puts topics in an order.</summary>
public static class TopicOrder
{
    /// <summary>The weighted mean of what is known, times a hundred; null where nothing that counts is known.</summary>
    public static double? Score(IReadOnlyList<TermRead> terms, OrderWeights weights)
    {
        var known = terms.Where(t => t.Value is not null).ToList();
        var whole = known.Sum(t => weights[t.Term]);
        return whole == 0 ? null : 100 * known.Sum(t => weights[t.Term] * t.Value!.Value) / whole;
    }

    /// <summary>From here on a term lifts a topic; what is next to ½ is as usual. Ours.</summary>
    private const double Lifts = 0.55;

    /// <summary>The reasons that lift it, the weightiest first; where none does, what is said of the term that counts most.</summary>
    public static string Because(IReadOnlyList<TermRead> terms, OrderWeights weights)
    {
        var known = terms.Where(t => t.Value is not null && weights[t.Term] > 0).ToList();
        var lifts = known.Where(t => t.Value >= Lifts).OrderByDescending(t => weights[t.Term] * (t.Value - 0.5)).Take(2).ToList();
        if (lifts.Count == 0)
            lifts = [.. known.OrderByDescending(t => weights[t.Term] * t.Value).Take(1)];
        return lifts.Count == 0 ? "Too little is known of it to say anything." : string.Join(' ', lifts.Select(t => t.Because));
    }
}
