using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Topics;

/// <summary>Two topics that share material.</summary>
/// <param name="Shared">How many slips, sources and pieces stand under both.</param>
/// <param name="Strength">How much more that is than chance would give, as a log-likelihood ratio; 0 or less is no more than
/// chance.</param>
/// <param name="Times">How many times as many as chance would give.</param>
public sealed record Together(TopicNumber First, TopicNumber Second, int Shared, double Strength, double Times)
{
    /// <summary>
    /// What goes together, the strongest first (<see cref="LogLikelihood"/>). Only what stands together more
    /// often than by chance.
    /// </summary>
    /// <param name="shared">Pairs with how many things stand under both.</param>
    /// <param name="counts">How many things stand under each topic.</param>
    /// <param name="all">How many things there are in all.</param>
    public static IReadOnlyList<Together> Of(
        IEnumerable<(TopicNumber First, TopicNumber Second, int Shared)> shared,
        IReadOnlyDictionary<TopicNumber, int> counts,
        int all
    ) =>
        [
            .. shared
                .Select(pair =>
                {
                    var (a, b) = (counts[pair.First], counts[pair.Second]);
                    return new Together(
                        pair.First,
                        pair.Second,
                        pair.Shared,
                        LogLikelihood.Ratio(pair.Shared, a, b - pair.Shared, all - a),
                        (double)pair.Shared * all / ((double)a * b)
                    );
                })
                .Where(t => t.Strength > 0)
                .OrderByDescending(t => t.Strength)
                .ThenBy(t => t.First.Value)
                .ThenBy(t => t.Second.Value),
        ];
}
