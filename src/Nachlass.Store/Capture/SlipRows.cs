using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Capture;

/// <summary>A slip that is to be made.</summary>
public sealed record NewSlip(string Text)
{
    public SlipKind Kind { get; init; } = SlipKind.Idea;
    public SlipState State { get; init; } = SlipState.Waiting;
    public Origin Origin { get; init; } = Origin.Strip;
    public string OriginNote { get; init; } = "";
    public SourceNumber? Source { get; init; }
    public string Locator { get; init; } = "";
    public IReadOnlyList<TopicNumber> Topics { get; init; } = [];
}

/// <summary>Slips as rows: the one place that knows their columns.</summary>
internal static class SlipRows
{
    public const string Used =
        """
        (EXISTS (SELECT 1 FROM material m WHERE m.slip = s.number AND m.section IS NOT NULL)
         OR EXISTS (SELECT 1 FROM link l WHERE l.to_kind = 'slip' AND l.to_number = s.number AND l.from_kind = 'piece'))
        """;

    public const string Columns =
        $"""
        s.number, s.text, s.kind, s.state, s.origin, s.origin_note, s.caught_at, s.day, s.held_until, s.pull, s.effort, s.format,
        s.source, s.locator, s.merged_into, s.settled_at, s.version, {Used} AS used,
        (SELECT json_group_array(json_object('number', number, 'name', name, 'colour', colour)) FROM
            (SELECT t.number, t.name, t.colour FROM slip_topic st JOIN topic t ON t.number = st.topic WHERE st.slip = s.number ORDER BY st.id)) AS topics
        """;

    /// <exception cref="NotThereException">There is no such slip.</exception>
    public static Slip Get(SqliteConnection db, SlipNumber number) =>
        Find(db, number) ?? throw new NotThereException($"slip {number}");

    public static Slip? Find(SqliteConnection db, SlipNumber number) =>
        db.QuerySingleOrDefault<Slip>($"SELECT {Columns} FROM slip s WHERE s.number = @number", new { number });

    public static SlipNumber Add(Change change, NewSlip slip)
    {
        var number = SlipNumber.Of(change.Db.ExecuteScalar<int>(
            """
            INSERT INTO slip (text, kind, state, origin, origin_note, caught_at, day, source, locator, settled_at)
            VALUES (@Text, @kind, @state, @origin, @OriginNote, @Now, @Today, @Source, @Locator, @settled) RETURNING number
            """, new
            {
                slip.Text,
                kind = slip.Kind.Kept(),
                state = slip.State.Kept(),
                origin = slip.Origin.Kept(),
                slip.OriginNote,
                change.Now,
                change.Today,
                slip.Source,
                slip.Locator,
                settled = slip.State == SlipState.Waiting ? (DateTimeOffset?)null : change.Now,
            }));
        SetTopics(change.Db, number, slip.Topics, isNew: true);
        Links.Write(change.Db, Reference.To(number), slip.Text, isNew: true);
        return number;
    }

    public static void SetTopics(SqliteConnection db, SlipNumber slip, IReadOnlyList<TopicNumber> topics, bool isNew = false)
    {
        if (!isNew)
            db.Execute("DELETE FROM slip_topic WHERE slip = @slip AND topic NOT IN @topics", new { slip, topics = topics.Select(t => t.Value) });
        foreach (var topic in topics)
            db.Execute("INSERT OR IGNORE INTO slip_topic (slip, topic) VALUES (@slip, @topic)", new { slip, topic });
    }
}
