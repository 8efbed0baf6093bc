using Nachlass.Core.Ideas.Order;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;
using Nachlass.Store.Capture;
using Nachlass.Store.Catalogue.Asks;
using Nachlass.Store.Papers;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Ideas.Order;

/// <summary>Which topics are put in an order, and when for.</summary>
/// <param name="Topics">Numbers of topics; with no words either, all that have material.</param>
/// <param name="Words">Topics as they are typed; what names no topic is counted by its words.</param>
/// <param name="From">The first day; today when it is left out.</param>
/// <param name="Weeks">How many weeks, 1 to 26; four when it is left out.</param>
/// <param name="Weights">How much each term counts; as they are kept when left out.</param>
public sealed record TopicOrderAsked(
    IReadOnlyList<TopicNumber>? Topics = null,
    IReadOnlyList<string>? Words = null,
    DateOnly? From = null,
    int? Weeks = null,
    OrderWeights? Weights = null
);

/// <summary>How many texts on a topic there were in a month.</summary>
/// <param name="Month">Its first day.</param>
public sealed record MonthCount(DateOnly Month, int Slips, int Sources, int Messages, int Releases);

/// <summary>A topic in its place.</summary>
/// <param name="Topic">Null where it is only words.</param>
/// <param name="Name">As the topic is called, or as it was typed.</param>
/// <param name="Score">0 to 100; null where nothing is known.</param>
/// <param name="Because">The weightiest reasons, as sentences made from the figures.</param>
/// <param name="Months">The last two years, the oldest first.</param>
public sealed record TopicOrdered(
    TopicMark? Topic,
    string Name,
    double? Score,
    IReadOnlyList<TermRead> Terms,
    string Because,
    IReadOnlyList<MonthCount> Months
);

/// <summary>Puts topics in an order, each with its reasons.</summary>
public sealed class TopicOrderStore(
    PapersFile papers,
    TopicStore topics,
    AskStore asks,
    OccasionStore occasions,
    CoverageStore coverage,
    SlipColumns columns
)
{
    public const int Most = 100,
        LongestWords = 80,
        MostWeeks = 26,
        UsualWeeks = 4;

    /// <summary>Topics that are ordered when none is named.</summary>
    public const int Usual = 24;

    /// <exception cref="BadInputException">What is asked makes no sense.</exception>
    public IReadOnlyList<TopicOrdered> Order(TopicOrderAsked asked)
    {
        var first = asked.From ?? papers.Today;
        if (!Check.IsDay(first))
            throw new BadInputException("from", "The day is in the years 1000 to 8999.");
        if (asked.Weeks is < 1 or > MostWeeks)
            throw new BadInputException("weeks", $"It is for 1 to {MostWeeks} weeks.");
        var last = first.AddDays(7 * (asked.Weeks ?? UsualWeeks) - 1);
        var all = topics.List();
        var rows = Rows(asked, all);
        var weights = (asked.Weights ?? papers.Read(TopicWeighingStore.Own) ?? new OrderWeights()).Checked();
        var wishes = asks.List().Where(a => a is { IsPutAway: false, AnsweredBy.Count: 0, Piece: null }).ToList();
        var coming = occasions.Coming(papers.Today, Math.Max(0, last.DayNumber - papers.Today.DayNumber) + Timely);
        var map = coverage.Map(null).Cells.ToLookup(c => c.Topic);
        var slips = columns.Now();
        return papers.Read<IReadOnlyList<TopicOrdered>>(db =>
        {
            var reader = new TopicReader(db, slips, papers.Today, first, last, rows.Count, wishes, coming);
            return
            [
                .. rows.Select(row => reader.Read(row, weights, row.Topic is { } topic ? [.. map[topic.Number]] : []))
                    .OrderByDescending(t => t.Score ?? -1)
                    .ThenBy(t => t.Name, StringComparer.OrdinalIgnoreCase),
            ];
        });
    }

    /// <summary>Days before an occasion from which on it speaks for a topic.</summary>
    internal const int Timely = 42;

    private static List<TopicRow> Rows(TopicOrderAsked asked, IReadOnlyList<Topic> all)
    {
        var numbered = all.ToDictionary(t => t.Number);
        var rows = new List<TopicRow>();
        foreach (var number in (asked.Topics ?? []).Distinct())
            rows.Add(
                numbered.TryGetValue(number, out var topic)
                    ? new TopicRow(topic, topic.Name)
                    : throw new BadInputException("topics", $"There is no topic {number}.")
            );
        foreach (var said in asked.Words ?? [])
        {
            var word = Check.Text("words", said, LongestWords);
            var named = all.FirstOrDefault(t =>
                t.Name.Equals(word, StringComparison.OrdinalIgnoreCase) || t.Aliases.Contains(word, StringComparer.OrdinalIgnoreCase)
            );
            var row = new TopicRow(named, named?.Name ?? word);
            if (!rows.Exists(r => r.Topic == row.Topic && r.Name.Equals(row.Name, StringComparison.OrdinalIgnoreCase)))
                rows.Add(row);
        }
        if (rows.Count > Most)
            throw new BadInputException("topics", $"At most {Most} are put in an order at once.");
        return rows.Count > 0
            ? rows
            :
            [
                .. all.Where(t => t.Kept + t.Sources + t.Pieces > 0)
                    .OrderByDescending(t => t.Kept + t.Sources)
                    .Take(Usual)
                    .Select(t => new TopicRow(t, t.Name)),
            ];
    }
}

/// <summary>A topic, or words that name none.</summary>
internal sealed record TopicRow(Topic? Topic, string Name);
