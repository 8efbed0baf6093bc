using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Topics;

/// <summary>Counts what stands under every topic, the narrower ones for the wider too, each thing once.</summary>
internal static class TopicFigures
{
    private sealed class Tally
    {
        public int Waiting,
            Kept,
            Held,
            Used;
    }

    /// <summary>The topics with their figures.</summary>
    public static List<Topic> Of(SqliteConnection db, List<Topic> topics, Columns columns, DateOnly today)
    {
        var under = Under(columns, topics);
        var sources = db.Query<(int Topic, int Count)>(
                "SELECT u.topic, count(DISTINCT x.source) "
                    + "FROM source_topic x JOIN topic_under u ON u.under = x.topic JOIN source o ON o.number = x.source "
                    + "WHERE o.trashed_at IS NULL GROUP BY u.topic"
            )
            .ToDictionary(c => c.Topic, c => c.Count);
        var pieces = db.Query<(int Topic, int Count, string? LastOut)>(
                "SELECT u.topic, count(DISTINCT x.piece), max(p.out_on) "
                    + "FROM piece_topic x JOIN topic_under u ON u.under = x.topic JOIN piece p ON p.number = x.piece "
                    + "WHERE p.trashed_at IS NULL GROUP BY u.topic"
            )
            .ToDictionary(p => p.Topic);
        return
        [
            .. topics.Select(t =>
            {
                var (tally, piece) = (Count(under(t.Number)), pieces.GetValueOrDefault(t.Number.Value));
                return t with
                {
                    Waiting = tally.Waiting,
                    Kept = tally.Kept,
                    Held = tally.Held,
                    Used = tally.Used,
                    Sources = sources.GetValueOrDefault(t.Number.Value),
                    Pieces = piece.Count,
                    LastOut = Mapping.Day(piece.LastOut),
                };
            }),
        ];

        Tally Count(IEnumerable<int> slips)
        {
            var tally = new Tally();
            foreach (var slip in slips)
                switch (columns.StateOf(slip, today))
                {
                    case SlipState.Waiting:
                        tally.Waiting++;
                        break;
                    case SlipState.Held:
                        tally.Held++;
                        break;
                    case SlipState.Kept:
                        tally.Kept++;
                        if (columns.IsUsed(slip))
                            tally.Used++;
                        break;
                }
            return tally;
        }
    }

    /// <summary>The slips under a topic and under what stands under it, each once.</summary>
    public static Func<TopicNumber, IEnumerable<int>> Under(Columns columns, IEnumerable<Topic> topics)
    {
        var narrower = topics.Where(t => t.Wider is not null).ToLookup(t => t.Wider!.Value, t => t.Number);
        return topic =>
            narrower.Contains(topic)
                ? Family(topic).Distinct().SelectMany(t => columns.OnTopic[t.Value]).Distinct()
                : columns.OnTopic[topic.Value];

        IEnumerable<TopicNumber> Family(TopicNumber topic) => narrower[topic].SelectMany(Family).Prepend(topic);
    }
}
