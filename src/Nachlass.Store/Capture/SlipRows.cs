using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
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
    public int? Pull { get; init; }
    public int? Effort { get; init; }

    /// <summary>Keys of the formats it would become.</summary>
    public IReadOnlyList<string> Formats { get; init; } = [];

    /// <summary>When it was caught; now when null. It stands on the sheet of that day.</summary>
    public DateTimeOffset? CaughtAt { get; init; }

    /// <summary>The day on whose sheet it stands, when that is another.</summary>
    public DateOnly? Day { get; init; }

    /// <summary>The block of that sheet on whose line it was written.</summary>
    public int? Block { get; init; }

    public IReadOnlyList<TopicNumber> Topics { get; init; } = [];
}

/// <summary>Slips as rows: the one place that knows their columns.</summary>
internal static class SlipRows
{
    public static readonly string Used = Links.StandsInAPiece(ThingKind.Slip);

    public static readonly string Columns = $"""
        s.number, s.text, s.kind, s.state, s.origin, s.origin_note, s.caught_at, s.day, s.held_until, s.held_occasion, s.held_sources,
            s.held_look_up, (SELECT name FROM occasion WHERE number = s.held_occasion) AS held_occasion_name, s.pull, s.effort,
        CASE WHEN s.format IS NULL THEN '[]' ELSE '["' || replace(s.format, ' ', '","') || '"]' END AS formats,
        s.source, s.locator, s.block, s.merged_into, s.settled_at, s.version, {Used} AS used,
        (SELECT json_group_array(json_object('number', t.number, 'name', t.name, 'colour', t.colour) ORDER BY st.id)
            FROM slip_topic st JOIN topic t ON t.number = st.topic WHERE st.slip = s.number) AS topics
        """;

    /// <summary>Keys of formats as they stand in the file: in one word each, and none as NULL.</summary>
    public static string? Kept(IReadOnlyList<string> formats) => formats.Count == 0 ? null : string.Join(' ', formats);

    /// <exception cref="NotThereException">There is no such slip.</exception>
    public static Slip Get(SqliteConnection db, SlipNumber number) => Find(db, number) ?? throw new NotThereException($"slip {number}");

    public static Slip? Find(SqliteConnection db, SlipNumber number) =>
        db.QuerySingleOrDefault<Slip>($"SELECT {Columns} FROM slip s WHERE s.number = @number", new { number });

    /// <summary>The slips with these numbers, by number. The numbers go as one list, so that the query is the same for any count of
    /// them.</summary>
    public static Dictionary<int, Slip> All(SqliteConnection db, IReadOnlyCollection<int> numbers) =>
        numbers.Count == 0
            ? []
            : db.Query<Slip>(
                    $"SELECT {Columns} FROM slip s WHERE s.number IN (SELECT value FROM json_each(@numbers))",
                    new { numbers = Mapping.List(numbers) }
                )
                .ToDictionary(slip => slip.Number.Value);

    /// <summary>Makes a slip. What comes back is put together from what was written, since a text that is caught often is read back for
    /// nothing.</summary>
    public static Slip Add(Change change, NewSlip made)
    {
        var slip = Insert(change, made);
        return slip with { Topics = TopicRows.Marks(change.Db, made.Topics) };
    }

    /// <summary>Makes one of many slips: the same, without its topics read back.</summary>
    public static Slip Insert(Change change, NewSlip made)
    {
        var caught = made.CaughtAt ?? change.Now;
        var slip = new Slip
        {
            Number = default,
            Text = made.Text,
            Kind = made.Kind,
            State = made.State,
            Origin = made.Origin,
            OriginNote = made.OriginNote,
            CaughtAt = caught,
            Day = made.Day ?? (caught == change.Now ? change.Today : change.DayOf(caught)),
            Pull = made.Pull,
            Effort = made.Effort,
            Formats = made.Formats.Count == 0 ? [] : Bench.FormatRows.All(change.Db).Keys(made.Formats),
            Block = made.Block,
            Source = made.Source,
            Locator = made.Locator,
            SettledAt = made.State == SlipState.Waiting ? null : caught,
            Version = 1,
        };
        var number = SlipNumber.Of(
            change.Hot.Number(
                """
                INSERT INTO slip (text, kind, state, origin, origin_note, caught_at, day, pull, effort, format, source, locator, block,
                    settled_at)
                VALUES (@text, @kind, @state, @origin, @note, @caught, @day, @pull, @effort, @format, @source, @locator, @block,
                    @settled) RETURNING number
                """,
                ("@text", slip.Text),
                ("@kind", slip.Kind.Kept()),
                ("@state", slip.State.Kept()),
                ("@origin", slip.Origin.Kept()),
                ("@note", slip.OriginNote),
                ("@caught", caught.Kept()),
                ("@day", slip.Day.Kept()),
                ("@pull", slip.Pull),
                ("@effort", slip.Effort),
                ("@format", Kept(slip.Formats)),
                ("@source", slip.Source?.Value),
                ("@locator", slip.Locator),
                ("@block", slip.Block),
                ("@settled", slip.SettledAt?.Kept())
            )
        );
        foreach (var topic in made.Topics)
            change.Hot.Run(
                "INSERT OR IGNORE INTO slip_topic (slip, topic) VALUES (@slip, @topic)",
                ("@slip", number.Value),
                ("@topic", topic.Value)
            );
        Links.Write(change.Db, Reference.To(number), made.Text, isNew: true);
        return slip with { Number = number };
    }

    public static void Refuse(SqliteConnection db, SlipNumber slip, TopicNumber topic) =>
        db.Execute("INSERT OR IGNORE INTO topic_refusal (slip, topic) VALUES (@slip, @topic)", new { slip, topic });

    public static void SetTopics(SqliteConnection db, SlipNumber slip, IReadOnlyList<TopicNumber> topics, bool isNew = false)
    {
        if (!isNew)
            db.Execute(
                "DELETE FROM slip_topic WHERE slip = @slip AND topic NOT IN @topics",
                new { slip, topics = topics.Select(t => t.Value) }
            );
        foreach (var topic in topics)
            db.Execute("INSERT OR IGNORE INTO slip_topic (slip, topic) VALUES (@slip, @topic)", new { slip, topic });
    }
}
