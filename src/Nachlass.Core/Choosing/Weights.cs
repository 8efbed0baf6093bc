using System.Text.Json.Serialization;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Choosing;

/// <summary>How much each term of worth counts, 0 (not at all) to 5.</summary>
public sealed record Weights(
    double Pull,
    double Effort,
    double Material,
    double Asks,
    double Timeliness,
    double Mix,
    double Novelty,
    double Ripeness,
    double Waiting
)
{
    public const double Most = 5;

    /// <summary>The weight of a term by its place among <see cref="WorthTerms.All"/>.</summary>
    [JsonIgnore]
    public double this[int term] =>
        term switch
        {
            0 => Pull,
            1 => Effort,
            2 => Material,
            3 => Asks,
            4 => Timeliness,
            5 => Mix,
            6 => Novelty,
            7 => Ripeness,
            _ => Waiting,
        };

    [JsonIgnore]
    public double this[WorthTerm term] => this[(int)term];

    public IReadOnlyList<double> ToList() => [.. WorthTerms.All.Select(term => this[term])];

    public static Weights Of(IReadOnlyList<double> weights) =>
        new(weights[0], weights[1], weights[2], weights[3], weights[4], weights[5], weights[6], weights[7], weights[8]);

    /// <exception cref="BadInputException">One is not from 0 to 5, or all are 0.</exception>
    public Weights Checked()
    {
        foreach (var term in WorthTerms.All)
            if (!(this[term] is >= 0 and <= Most))
                throw new BadInputException(
                    $"weights.{term.ToString().ToLowerInvariant()}",
                    $"{term} weighs from 0, not at all, to {Most:0}."
                );
        if (ToList().All(weight => weight == 0))
            throw new BadInputException("weights", "Something has to count: with every weight at 0 there is no order.");
        return Of([.. ToList().Select(weight => Math.Round(weight, 1))]);
    }
}

/// <summary>Weights under a name.</summary>
/// <param name="Key">Its name in files and addresses.</param>
/// <param name="Name">As it stands behind “weighed”.</param>
/// <param name="About">Whom it suits, in a sentence.</param>
public sealed record Weighing(string Key, string Name, string About, Weights Weights)
{
    /// <summary>The key of weights the writer has set.</summary>
    public const string OwnKey = "own";

    public static readonly Weighing Evenly = new(
        "evenly",
        "evenly",
        "Everything counts, what draws you and what lies ready a little more; waiting only tips the scales.",
        new Weights(4, 2, 4, 3, 3, 3, 3, 2, 1)
    );

    public static readonly Weighing ByPull = new(
        "pull",
        "by what draws me",
        "For one who writes for the thing’s own sake: pull first, and what has not been said before.",
        new Weights(5, 1, 2, 1, 1, 1, 4, 2, 1)
    );

    public static readonly Weighing ForReaders = new(
        "readers",
        "for those who wait",
        "For one who has promised: readers’ wishes, the calendar and the mix first, and what can be done soon.",
        new Weights(2, 4, 3, 5, 5, 4, 2, 2, 1)
    );

    /// <summary>The ready ones, in the order in which they are offered. The first is what papers begin with.</summary>
    public static readonly IReadOnlyList<Weighing> Ready = [Evenly, ByPull, ForReaders];

    /// <summary>The writer's own.</summary>
    public static Weighing Own(Weights weights) => new(OwnKey, "as I like it", "Set by hand, or learnt from what you chose.", weights);

    /// <exception cref="BadInputException">There are no ready weights of that name.</exception>
    public static Weighing Named(string key) =>
        Ready.FirstOrDefault(w => w.Key == key)
        ?? throw new BadInputException(
            "weighing",
            $"There are no weights “{key}”. There are: {string.Join(", ", Ready.Select(w => w.Key))}."
        );
}
