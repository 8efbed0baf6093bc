using System.Globalization;
using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Topics;

/// <summary>What words are counted in.</summary>
public enum WordsIn
{
    Sources,
    Messages,
}

/// <summary>What keeps coming up.</summary>
/// <param name="From">The first month, as its first day.</param>
/// <param name="Texts">How many texts were counted in.</param>
public sealed record WordsCounted(DateOnly From, int Months, int Texts, IReadOnlyList<Phrase> Phrases);

/// <summary>Looks at all topics at once: what is covered, and what keeps coming up.</summary>
public sealed class CoverageStore(PapersFile papers, TopicStore topics, SlipColumns columns)
{
    /// <summary>The map of coverage.</summary>
    /// <param name="axis">The wider topic whose narrower ones are the columns; formats when null.</param>
    public CoverageMap Map(TopicNumber? axis) =>
        papers.Read(db =>
        {
            var all = topics.List();
            var across = axis is null
                ? (List<CoverageColumn>)[.. FormatRows.All(db).Offered.Select(f => new CoverageColumn(f.Key, f.Name))]
                :
                [
                    .. all.Where(t => t.Wider == axis)
                        .OrderBy(t => t.Place ?? int.MaxValue)
                        .Select(t => new CoverageColumn(t.Number.ToString(), t.Name)),
                ];
            if (axis is { } wider && all.All(t => t.Number != wider))
                throw new NotThereException($"topic {wider}");
            // The axis is no subject of its own, so it is no row.
            var rows = all.Where(t => axis is null || (t.Number != axis && t.Wider != axis)).ToList();
            var arguments = new { axis };
            var slips = InHand(columns.Now(), all, axis);
            var pieceColumn = axis is null ? "p.format" : "CAST(c.topic AS TEXT)";
            var pieces = db.Query<(int Topic, string Column, int InWork, int Out, string? LastOut)>(
                    $"""
                    SELECT u.topic, {pieceColumn}, count(DISTINCT p.number) FILTER (WHERE p.out_on IS NULL),
                        count(DISTINCT p.number) FILTER (WHERE p.out_on IS NOT NULL), max(p.out_on)
                    FROM piece p JOIN piece_topic x ON x.piece = p.number JOIN topic_under u ON u.under = x.topic
                    {(
                        axis is null
                            ? ""
                            : "JOIN piece_topic c ON c.piece = p.number AND c.topic IN (SELECT number FROM topic WHERE wider = @axis)"
                    )}
                    WHERE p.trashed_at IS NULL GROUP BY 1, 2
                    """,
                    arguments
                )
                .ToDictionary(p => (p.Topic, p.Column));
            var cells =
                from row in rows
                from column in across
                let key = (row.Number.Value, column.Key)
                let piece = pieces.GetValueOrDefault(key)
                let cell = new CoverageCell(
                    row.Number,
                    column.Key,
                    slips.GetValueOrDefault(key),
                    piece.InWork,
                    piece.Out,
                    Mapping.Day(piece.LastOut)
                )
                where !cell.IsEmpty
                select cell;
            return new CoverageMap(axis, across, rows, [.. cells]);
        });

    /// <summary>Kept slips that stand in no piece yet, by topic and column.</summary>
    private static Dictionary<(int Topic, string Column), int> InHand(Columns slips, IReadOnlyList<Topic> topics, TopicNumber? axis)
    {
        var across = axis is null ? null : topics.Where(t => t.Wider == axis).Select(t => t.Number.Value).ToHashSet();
        var own = across is null ? null : slips.TopicsOf(_ => true);
        var inHand = new Dictionary<(int, string), int>();
        var under = TopicFigures.Under(slips, topics);
        foreach (var topic in topics.Select(t => t.Number))
        foreach (var slip in under(topic).Where(slip => slips.Slips[slip].State == SlipState.Kept && !slips.IsUsed(slip)))
        {
            if (across is not null)
                foreach (var column in own![slip].Where(across.Contains))
                    Count(topic.Value, column.ToString(CultureInfo.InvariantCulture));
            else if (slips.Slips[slip].Format is > 0 and var format)
                foreach (var key in slips.Formats[format].Split(' '))
                    Count(topic.Value, key);
        }
        return inHand;

        void Count(int topic, string column) => inHand[(topic, column)] = inHand.GetValueOrDefault((topic, column)) + 1;
    }

    /// <summary>What keeps coming up in sources or in readers' messages, over the last months.</summary>
    /// <param name="topic">Only on this topic; all when null.</param>
    public WordsCounted Words(WordsIn where, TopicNumber? topic, int months = 18) =>
        papers.Read(db =>
        {
            var last = Month(papers.Today);
            var first = last - Math.Clamp(months, 1, 120) + 1;
            const string on = "IN (SELECT under FROM topic_under WHERE topic = @topic)";
            var sql =
                where == WordsIn.Sources
                    ? $"""
                        SELECT substr(caught_at, 1, 10), title || char(10) || summary || char(10) || comments || char(10)
                            || coalesce((SELECT group_concat(p.text, char(10)) FROM slip p
                                WHERE p.source = s.number AND p.state <> 'dropped'), '')
                        FROM source s WHERE trashed_at IS NULL {(
                            topic is null ? "" : $"AND number IN (SELECT source FROM source_topic WHERE topic {on})"
                        )}
                        """
                    : $"""
                        SELECT day, text FROM slip s WHERE kind = 'ask' AND state <> 'dropped' {(
                            topic is null ? "" : $"AND number IN (SELECT slip FROM slip_topic WHERE topic {on})"
                        )}
                        """;
            var texts = db.Query<(string Day, string Text)>(sql, new { topic })
                .Select(t => (Month(DateOnly.ParseExact(t.Day, "yyyy-MM-dd", CultureInfo.InvariantCulture)), t.Text))
                .ToList();
            var own = topic is { } of
                ? Text.Links.NamesOf(db, Reference.To(of)).SelectMany(Stems.Of).Select(s => s.Root).ToHashSet()
                : null;
            return new WordsCounted(
                new DateOnly(first / 12, first % 12 + 1, 1),
                last - first + 1,
                texts.Count(t => t.Item1 >= first),
                Phrases.Of(texts, first, last, own)
            );
        });

    private static int Month(DateOnly day) => day.Year * 12 + day.Month - 1;
}
