using Nachlass.Core.Plan.Filling;

namespace Nachlass.Core.Ideas.Month;

/// <summary>A topic that could have dates.</summary>
/// <param name="Key">By which the caller knows it; unique.</param>
/// <param name="Score">How much speaks for it, 0 to 100.</param>
/// <param name="Occasions">Days it is timed to.</param>
public sealed record TopicForDates(int Key, double Score, IReadOnlyList<DateOnly> Occasions);

/// <summary>Puts topics onto open dates: the worthiest most often, none too near to itself, those with an occasion before it.</summary>
public static class TopicsOnDates
{
    /// <summary>Each further date of a topic is worth so much of the one before it, so that others come to have theirs. Ours.</summary>
    public const double Again = 0.7;

    /// <summary>The case that is filled; the candidates of a topic have its key as theirs, the first is worth most.</summary>
    /// <param name="places">In the order of dates.</param>
    /// <param name="hours">Hours that a piece of each format takes, by key.</param>
    /// <param name="free">Free hours up to each of some days; none where hours don't count.</param>
    /// <param name="taken">Days on which topics go out or are planned already, by key.</param>
    /// <param name="spacing">Days between two dates of one topic, at least.</param>
    public static FillingCase Case(
        IReadOnlyList<TopicForDates> topics,
        IReadOnlyList<Place> places,
        IReadOnlyDictionary<string, double> hours,
        IReadOnlyList<(DateOnly Day, double Hours)> free,
        IReadOnlyDictionary<int, IReadOnlyList<DateOnly>> taken,
        int spacing
    )
    {
        // No more of one than twice its even share, nor than lie far enough apart.
        var span = places.Count == 0 ? 0 : places[^1].Date.DayNumber - places[0].Date.DayNumber;
        var most = topics.Count == 0 ? 0 : Math.Max(1, (2 * places.Count + topics.Count - 1) / topics.Count);
        var times = Math.Min(Math.Min(most, places.Count), spacing > 0 ? span / spacing + 1 : places.Count);
        return new FillingCase
        {
            Places = places,
            Candidates =
            [
                .. topics.SelectMany(
                    (topic, at) =>
                        Enumerable
                            .Range(0, times)
                            .Select(time => new Candidate
                            {
                                Key = at * (times + 1) + time,
                                Worth = topic.Score * Math.Pow(Again, time),
                                Hours = hours,
                                Topic = topic.Key,
                                Occasions = topic.Occasions,
                            })
                ),
            ],
            Free = free,
            Taken = taken,
            Spacing = spacing,
            // Dates of one topic are alike, so that more rounds better little.
            Rounds = 1,
        };
    }
}
