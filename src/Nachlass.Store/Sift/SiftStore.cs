using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Core.Text.Queries;
using Nachlass.Core.Topics;
using Nachlass.Store.Capture;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Sift;

/// <summary>A slip in the queue.</summary>
/// <param name="Worth">How much speaks for it, 0 to 100, when the pile is in that order.</param>
public sealed record QueuedSlip(SlipNumber Number, string Title, SlipKind Kind, double? Worth = null);

/// <summary>Slips that stand together in the queue.</summary>
/// <param name="Origin">The door they came in by, in that order.</param>
/// <param name="Day">The day they were caught on.</param>
/// <param name="Topic">The topic they share, in that order.</param>
public sealed record QueueGroup(
    Origin? Origin,
    string Note,
    bool BackFromHold,
    DateOnly? Day,
    TopicMark? Topic,
    IReadOnlyList<QueuedSlip> Slips
);

/// <summary>Which slips are gone through: all that wait, those of a query, or what is new for a topic or a piece.</summary>
/// <param name="Order">The order they come in.</param>
/// <param name="View">Only what waits and meets a view.</param>
/// <param name="Topic">What a topic's drawer has got since it was last gone through.</param>
/// <param name="Piece">What could belong to a piece and has not been looked at for it.</param>
/// <param name="On">Only what waits on a topic or one under it.</param>
/// <param name="LookUp">What is held to look something up, for a reading hour.</param>
/// <param name="From">Only what waits and came from the file, feed or pile of this name.</param>
public sealed record Pile(
    PileOrder Order = PileOrder.Origin,
    ViewNumber? View = null,
    TopicNumber? Topic = null,
    PieceNumber? Piece = null,
    string? From = null,
    bool LookUp = false,
    TopicNumber? On = null
)
{
    /// <summary>What the slips are gone through again for; null for what simply waits.</summary>
    internal Reference? For =>
        Topic is { } topic ? Reference.To(topic)
        : Piece is { } piece ? Reference.To(piece)
        : null;
}

/// <summary>The sitting: what is on the pile, and how far the writer has come today.</summary>
/// <param name="Name">What the pile is of, when it is not all that waits.</param>
/// <param name="Waiting">How many are on it; the groups show the first <see cref="SiftStore.MostQueued"/>.</param>
/// <param name="Settled">How many were settled today, or gone through for the topic or piece today.</param>
/// <param name="Before">When the topic or piece was last gone through before today.</param>
public sealed record Sitting(string? Name, int Waiting, int Settled, DateTimeOffset? Before, IReadOnlyList<QueueGroup> Groups);

/// <summary>The piles, and what stands on them.</summary>
public sealed class SiftStore(PapersFile papers, Nearby nearby, WorthStore worth)
{
    public const int MostQueued = 500;

    /// <summary>How many of the slips nearest to a piece are laid on its pile.</summary>
    private const int NearPiece = 60;

    private const double PieceFloor = 0.08;

    /// <summary>What is waiting on a day, as an SQL condition that an index answers.</summary>
    internal const string Waiting =
        "s.number IN (SELECT number FROM slip WHERE state = 'waiting' UNION ALL SELECT number FROM slip "
        + "WHERE state = 'held' AND held_until <= @today)";

    public Sitting Sitting(Pile? asked = null) =>
        papers.Read(db =>
        {
            var pile = asked ?? new Pile();
            var on = OnPile(db, pile);
            var name = NameOf(db, pile);
            var shown = pile.Order == PileOrder.Worth ? Worthiest(db, on) : null;
            var order = pile.Order == PileOrder.Oldest ? "ASC" : "DESC";
            // Only titles are shown, so only the beginning of each text is read.
            var rows = db.Query<Row>(
                    $"""
                    SELECT s.number, substr(s.text, 1, 200) AS text, s.kind, s.origin, s.origin_note AS note, s.state, s.day,
                        (SELECT topic FROM slip_topic t WHERE t.slip = s.number ORDER BY t.id LIMIT 1) AS topic
                    FROM slip s WHERE {(shown is null ? on.Where : "s.number IN (SELECT value FROM json_each(@shown))")}
                    ORDER BY s.caught_at {order}, s.number {order} LIMIT {MostQueued}
                    """,
                    With(on.Arguments, shown)
                )
                .AsList();
            var isAll = pile is { For: null, View: null, From: null or "", LookUp: false, On: null };
            var waiting =
                isAll ? CountWaiting(db, papers.Today)
                : rows.Count < MostQueued ? rows.Count
                : db.ExecuteScalar<int>($"SELECT count(*) FROM slip s WHERE {on.Where}", on.Arguments);
            return new Sitting(
                name,
                waiting,
                pile.For is { } of ? GoneThroughToday(db, of) : SettledOn(db),
                pile.For is { } again ? LastBefore(db, again) : null,
                Groups(db, pile, rows, shown)
            );
        });

    /// <summary>A pile as a condition on slips.</summary>
    private (string Where, DynamicParameters Arguments) OnPile(SqliteConnection db, Pile pile)
    {
        var arguments = new DynamicParameters(new { today = papers.Today });
        if (pile.Topic is { } topic)
        {
            arguments.AddDynamicParams(new { topic });
            return (
                "s.state = 'kept' AND s.number IN (SELECT slip FROM slip_topic WHERE topic IN (SELECT under FROM topic_under "
                    + "WHERE topic = @topic)) AND s.number NOT IN (SELECT slip FROM gone_through "
                    + "WHERE kind = 'topic' AND number = @topic)",
                arguments
            );
        }
        if (pile.Piece is { } piece)
        {
            var text =
                db.QuerySingleOrDefault<string>(
                    "SELECT p.title || char(10) || p.brief || char(10) || coalesce((SELECT d.text FROM draft d "
                        + "WHERE d.piece = p.number), '') FROM piece p WHERE p.number = @piece",
                    new { piece }
                ) ?? throw new NotThereException($"P {piece}");
            var near = nearby.Nearest(text, NearPiece, PieceFloor, thing => thing.Kind == ThingKind.Slip).Select(n => n.Thing.Number);
            arguments.AddDynamicParams(new { piece, near = Mapping.List(near) });
            return (
                """
                s.state IN ('kept', 'waiting') AND (s.number IN (SELECT value FROM json_each(@near))
                    OR s.number IN (SELECT slip FROM slip_topic
                        WHERE topic IN (SELECT u.under FROM piece_topic t JOIN topic_under u ON u.topic = t.topic WHERE t.piece = @piece)))
                AND s.number NOT IN (SELECT slip FROM material
                    WHERE piece = @piece AND slip IS NOT NULL) AND s.number NOT IN (SELECT slip FROM gone_through
                    WHERE kind = 'piece' AND number = @piece)
                """,
                arguments
            );
        }
        if (pile.LookUp)
            return ("s.held_look_up IS NOT NULL AND s.state = 'held'", arguments);
        if (pile.On is { } on)
        {
            arguments.AddDynamicParams(new { on });
            return (
                $"{Waiting} AND s.number IN (SELECT slip FROM slip_topic WHERE topic IN (SELECT under FROM topic_under WHERE topic = @on))",
                arguments
            );
        }
        if (pile.From is { Length: > 0 } from)
        {
            arguments.AddDynamicParams(new { from });
            return ($"{Waiting} AND s.origin_note = @from", arguments);
        }
        if (pile.View is not { } view)
            return (Waiting, arguments);
        var query =
            db.QuerySingleOrDefault<string>("SELECT query FROM saved_view WHERE number = @view", new { view })
            ?? throw new NotThereException($"view {view}");
        var asked = new Asked(db, papers, Asked.Understand(query));
        return ($"{Waiting} AND {asked.Whole(ThingKind.Slip)}", asked.Arguments);
    }

    private static DynamicParameters With(DynamicParameters arguments, Dictionary<int, double>? shown)
    {
        if (shown is not null)
            arguments.AddDynamicParams(new { shown = Mapping.List(shown.Keys) });
        return arguments;
    }

    private static string? NameOf(SqliteConnection db, Pile pile) =>
        pile.Topic is { } topic ? Links.TitleOf(db, Reference.To(topic)) ?? throw new NotThereException($"topic {topic}")
        : pile.Piece is { } piece ? $"P {piece} {Links.TitleOf(db, Reference.To(piece))}"
        : pile.View is { } view ? db.QuerySingleOrDefault<string>("SELECT name FROM saved_view WHERE number = @view", new { view })
        : pile.On is { } on ? Links.TitleOf(db, Reference.To(on)) ?? throw new NotThereException($"topic {on}")
        : pile.LookUp ? "To look up"
        : pile.From is { Length: > 0 } from ? from
        : null;

    /// <summary>The worthiest of a pile.</summary>
    private Dictionary<int, double> Worthiest(SqliteConnection db, (string Where, DynamicParameters Arguments) on)
    {
        var worths = worth.Worths();
        return db.Query<int>($"SELECT s.number FROM slip s WHERE {on.Where}", on.Arguments)
            .Select(number => (Number: number, Worth: worths(number) ?? 0))
            .OrderByDescending(r => r.Worth)
            .ThenByDescending(r => r.Number)
            .Take(MostQueued)
            .ToDictionary(r => r.Number, r => r.Worth);
    }

    private static List<QueueGroup> Groups(SqliteConnection db, Pile pile, List<Row> rows, Dictionary<int, double>? worths)
    {
        if (worths is not null)
            return rows.Count == 0
                ? []
                :
                [
                    new QueueGroup(
                        null,
                        "",
                        false,
                        null,
                        null,
                        [
                            .. rows.OrderByDescending(r => worths[r.Number])
                                .ThenByDescending(r => r.Number)
                                .Select(r => r.Queued(worths[r.Number])),
                        ]
                    ),
                ];
        switch (pile.Order)
        {
            case PileOrder.Newest or PileOrder.Oldest:
                return
                [
                    .. rows.GroupBy(r => r.Day)
                        .Select(g => new QueueGroup(null, "", false, Mapping.Day(g.Key), null, [.. g.Select(r => r.Queued())])),
                ];
            case PileOrder.Topic:
                var marks = db.Query<TopicMark>("SELECT number, name, colour FROM topic").ToDictionary(t => t.Number.Value);
                return
                [
                    .. rows.GroupBy(r => r.Topic)
                        .OrderBy(g => g.Key is null)
                        .ThenBy(g => g.Key is { } t ? marks[t].Name : "", StringComparer.OrdinalIgnoreCase)
                        .Select(g => new QueueGroup(
                            null,
                            "",
                            false,
                            null,
                            g.Key is { } t ? marks[t] : null,
                            [.. g.Select(r => r.Queued())]
                        )),
                ];
            default:
                // A group is one door on one day, newest door first; inside it the slips stand in the order they were caught.
                return
                [
                    .. rows.GroupBy(r =>
                            r.State == "held" && !pile.LookUp
                                ? (Origin: "", Note: "", Day: "")
                                : (r.Origin, r.Note, Day: r.Origin is "strip" or "sheet" ? r.Day : "")
                        )
                        .Select(g => new QueueGroup(
                            Enum.Parse<Origin>(g.First().Origin, true),
                            g.First().Note,
                            g.Key.Origin.Length == 0,
                            g.Key.Day.Length == 0 ? null : Mapping.Day(g.Key.Day),
                            null,
                            [.. g.Reverse().Select(r => r.Queued())]
                        )),
                ];
        }
    }

    internal static int CountWaiting(SqliteConnection db, DateOnly today) =>
        db.ExecuteScalar<int>(
            "SELECT (SELECT count(*) FROM slip WHERE state = 'waiting') + (SELECT count(*) FROM slip "
                + "WHERE state = 'held' AND held_until <= @today)",
            new { today }
        );

    private int SettledOn(SqliteConnection db) =>
        db.ExecuteScalar<int>(
            "SELECT count(*) FROM slip WHERE settled_at >= @midnight AND origin <> 'reading'",
            new { midnight = Midnight }
        );

    private int GoneThroughToday(SqliteConnection db, Reference of) =>
        db.ExecuteScalar<int>(
            "SELECT count(*) FROM gone_through WHERE kind = @kind AND number = @Number AND at >= @midnight",
            new
            {
                kind = of.Kind.Kept(),
                of.Number,
                midnight = Midnight,
            }
        );

    private DateTimeOffset? LastBefore(SqliteConnection db, Reference of) =>
        db.QuerySingleOrDefault<DateTimeOffset?>(
            "SELECT max(at) FROM gone_through WHERE kind = @kind AND number = @Number AND at < @midnight HAVING max(at) IS NOT NULL",
            new
            {
                kind = of.Kind.Kept(),
                of.Number,
                midnight = Midnight,
            }
        );

    private DateTimeOffset Midnight
    {
        get
        {
            var midnight = papers.Time.GetLocalNow().Date;
            return new DateTimeOffset(midnight, papers.Time.LocalTimeZone.GetUtcOffset(midnight));
        }
    }

    private sealed record Row
    {
        public int Number { get; init; }
        public string Text { get; init; } = "";
        public SlipKind Kind { get; init; }
        public string Origin { get; init; } = "";
        public string Note { get; init; } = "";
        public string State { get; init; } = "";
        public string Day { get; init; } = "";
        public int? Topic { get; init; }

        public QueuedSlip Queued(double? worth = null) => new(SlipNumber.Of(Number), PlainText.Headline(Text, 90), Kind, worth);
    }
}
