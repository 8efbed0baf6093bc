using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Sift;

/// <summary>Something that reads like a text.</summary>
/// <param name="Thing">What it is.</param>
/// <param name="Title">What it is called.</param>
/// <param name="Note">Where it stands: a slip's state, a source's type, a piece's stage.</param>
/// <param name="Likeness">Cosine, 0 to 1.</param>
/// <param name="Words">The words that carry it.</param>
/// <param name="OutOn">For a piece: the day it went out.</param>
/// <param name="Differences">For a slip that says nearly the same: the two texts laid over each other, the asked one first; else
/// null.</param>
/// <param name="Section">For a piece: the section it would stand in.</param>
public sealed record Alike(
    Reference Thing,
    string Title,
    string Note,
    double Likeness,
    IReadOnlyList<string> Words,
    DateOnly? OutOn,
    IReadOnlyList<TopicMark> Topics,
    IReadOnlyList<Stretch>? Differences = null,
    FittingSection? Section = null
);

/// <summary>A section that what is asked about would stand in.</summary>
/// <param name="Share">How much of it stands there already in words, 0 to 1.</param>
public sealed record FittingSection(SectionNumber Number, string Title, double Share);

/// <summary>What can be said about a slip from what is already there.</summary>
/// <param name="WouldFit">Pieces in hand that it could belong to.</param>
/// <param name="Said">Releases that say it already, with the passage.</param>
/// <param name="Dropped">Slips that were dropped and read like it: perhaps they are worth another look now.</param>
/// <param name="Kind">The kind it seems to be, when that is another than it has.</param>
/// <param name="Effort">How much work it would be, from finished pieces that read like it.</param>
public sealed record Advice(
    SlipNumber Slip,
    IReadOnlyList<LikelyTopic> Topics,
    IReadOnlyList<Alike> ReadsLike,
    IReadOnlyList<Alike> WouldFit,
    IReadOnlyList<SaidAlready> Said,
    IReadOnlyList<Alike> Dropped,
    LikelyKind? Kind,
    LikelyEffort? Effort
);

/// <summary>A dropped slip that something new makes interesting.</summary>
/// <param name="New">The new source or ask.</param>
public sealed record WorthAnotherLook(Alike Slip, Reference New, string NewTitle);

/// <summary>Computes advice.</summary>
public sealed class AdviceStore(PapersFile papers, Nearby nearby, TopicLearning learning, FindStore find)
{
    private const int MostDropped = 2;
    private const double SectionFloor = 0.2;

    /// <summary>How many of the newest sources and asks are held against what was dropped, and for how many days they are new.</summary>
    private const int NewLookedAt = 12,
        NewFor = 30;

    /// <summary>Advice on one slip; empty lists where nothing is near.</summary>
    public Advice For(SlipNumber number) =>
        papers.Read(db =>
        {
            var slip = SlipRows.Get(db, number);
            var self = Reference.To(number);
            // Some to spare, since what has been dropped or trashed is no advice.
            var near = nearby.Nearest(slip.Text, LikelyTopics.Neighbours + ReadsLike.Most, LikelyTopics.Chance, thing => thing != self);
            var described = Describe(db, [.. near.Where(n => n.Likeness >= ReadsLike.Floor)]);
            var already = slip
                .Topics.Select(t => t.Number)
                .Concat(db.Query<int>("SELECT topic FROM topic_refusal WHERE slip = @number", new { number }).Select(TopicNumber.Of))
                .ToHashSet();
            return new Advice(
                number,
                learning.Guess(db, slip.Text, near, already),
                Compared(db, slip.Text, [.. described.Where(a => a.Note != "dropped").Take(ReadsLike.Most)]),
                Fitting(db, slip.Text),
                find.Said(db, slip.Text, onlyOut: true, ReadsLike.SaidFloor),
                [
                    .. described
                        .Where(a => a.Note == "dropped" && a.Likeness >= ReadsLike.AgainFloor && slip.State != SlipState.Dropped)
                        .Take(MostDropped),
                ],
                KindOf(db, slip, near),
                slip.Effort is null ? EffortOf(db, slip.Text) : null
            );
        });

    /// <summary>What reads like any text, for material and for questions.</summary>
    public IReadOnlyList<Alike> Like(string text, int most, Func<Reference, bool> among) =>
        papers.Read(db => Describe(db, nearby.Nearest(text, most, ReadsLike.Floor, among)));

    /// <summary>Topics that any text seems to belong to.</summary>
    public IReadOnlyList<LikelyTopic> Likely(string text) =>
        papers.Read(db =>
            learning.Guess(db, text, nearby.Nearest(text, LikelyTopics.Neighbours, LikelyTopics.Chance), new HashSet<TopicNumber>())
        );

    /// <summary>Dropped slips that one of the newest sources or asks reads like, the likest first; what was left dropped for it is not
    /// offered again.</summary>
    public IReadOnlyList<WorthAnotherLook> Again() =>
        papers.Read(db =>
        {
            var since = papers.Time.GetUtcNow().AddDays(-NewFor);
            var fresh = db.Query<(string Kind, int Number, string Text)>(
                    """
                    SELECT * FROM (SELECT 'source' AS kind, number, title || char(10) || summary || char(10) || comments AS text,
                        caught_at FROM source WHERE trashed_at IS NULL AND caught_at >= @since ORDER BY caught_at DESC LIMIT @NewLookedAt)
                    UNION ALL SELECT * FROM (SELECT 'slip', number, text, caught_at FROM slip
                        WHERE kind = 'ask' AND state <> 'dropped' AND caught_at >= @since ORDER BY caught_at DESC LIMIT @NewLookedAt)
                    ORDER BY caught_at DESC LIMIT @NewLookedAt
                    """,
                    new { since, NewLookedAt }
                )
                .Select(f => (Thing: new Reference(Enum.Parse<ThingKind>(f.Kind, true), f.Number), f.Text))
                .ToList();
            var left = db.Query<(string Kind, int Number, int Slip)>(
                    "SELECT kind, number, slip FROM gone_through WHERE kind IN ('source', 'slip')"
                )
                .Select(g => (new Reference(Enum.Parse<ThingKind>(g.Kind, true), g.Number), g.Slip))
                .ToHashSet();
            // With the source each points into: that it reads like its own says nothing new.
            var dropped = db.Query<(int Number, int? Source)>(
                    "SELECT number, source FROM slip WHERE state = 'dropped' AND merged_into IS NULL"
                )
                .ToDictionary(d => d.Number, d => d.Source);
            if (dropped.Count == 0)
                return [];
            return (IReadOnlyList<WorthAnotherLook>)
                [
                    .. fresh
                        .SelectMany(f =>
                            Describe(
                                    db,
                                    nearby.Nearest(
                                        f.Text,
                                        3,
                                        ReadsLike.AgainFloor,
                                        thing =>
                                            thing.Kind == ThingKind.Slip
                                            && dropped.TryGetValue(thing.Number, out var own)
                                            && !(f.Thing.Kind == ThingKind.Source && f.Thing.Number == own)
                                    )
                                )
                                .Where(a => !left.Contains((f.Thing, a.Thing.Number)))
                                .Select(a => new WorthAnotherLook(a, f.Thing, Links.TitleOf(db, f.Thing) ?? ""))
                        )
                        .OrderByDescending(w => w.Slip.Likeness)
                        .DistinctBy(w => w.Slip.Thing)
                        .Take(5),
                ];
        });

    private static List<Alike> Compared(SqliteConnection db, string text, List<Alike> near)
    {
        var texts = SlipRows.All(db, [.. near.Where(a => a.Thing.Kind == ThingKind.Slip && a.Likeness > 0.3).Select(a => a.Thing.Number)]);
        return
        [
            .. near.Select(a =>
                a.Thing.Kind == ThingKind.Slip
                && texts.TryGetValue(a.Thing.Number, out var other)
                && Sameness.IsNearlySame(text, other.Text)
                    ? a with
                    {
                        Differences = Sameness.Differences(text, other.Text),
                    }
                    : a
            ),
        ];
    }

    private List<Alike> Fitting(SqliteConnection db, string text)
    {
        var inHand = db.Query<int>("SELECT number FROM piece WHERE out_on IS NULL AND trashed_at IS NULL")
            .Select(number => new Reference(ThingKind.Piece, number));
        return
        [
            .. Describe(db, nearby.NearestOf(text, inHand, 4, ReadsLike.PieceFloor))
                .Select(fit => fit with { Section = SectionFor(db, PieceNumber.Of(fit.Thing.Number), text) }),
        ];
    }

    /// <summary>The section of a piece in whose words most of a text stands; null when it is none.</summary>
    private FittingSection? SectionFor(SqliteConnection db, PieceNumber piece, string text)
    {
        var (outline, _, _) = Bench.DraftRows.Read(db, piece);
        return outline
            .Sections.Where(s => s.Number is not null)
            .Select(s => (Section: s, Covering.Best(text, s.Part.Title + "\n\n" + s.Part.Body, nearby.Rarity, SectionFloor)?.Share))
            .Where(s => s.Share is not null)
            .OrderByDescending(s => s.Share)
            .Select(s => new FittingSection(s.Section.Number!.Value, s.Section.Part.Title, s.Share!.Value))
            .FirstOrDefault();
    }

    private static LikelyKind? KindOf(SqliteConnection db, Slip slip, IReadOnlyList<Nearness> near)
    {
        var kinds = db.Query<(int Number, string Kind)>(
                "SELECT number, kind FROM slip WHERE state = 'kept' AND number IN (SELECT value FROM json_each(@slips))",
                new { slips = Mapping.List(near.Where(n => n.Thing.Kind == ThingKind.Slip).Select(n => n.Thing.Number)) }
            )
            .ToDictionary(k => k.Number, k => Enum.Parse<SlipKind>(k.Kind, true));
        return LikelyKind.Of(
            slip.Text,
            slip.Kind,
            [
                .. near.Where(n => n.Thing.Kind == ThingKind.Slip && kinds.ContainsKey(n.Thing.Number))
                    .Take(10)
                    .Select(n => (n.Thing, kinds[n.Thing.Number], n.Likeness)),
            ]
        );
    }

    private LikelyEffort? EffortOf(SqliteConnection db, string text)
    {
        var finished = db.Query<(int Number, string Title, int Words, DateTimeOffset StartedAt, DateOnly OutOn)>(
                "SELECT p.number, p.title, d.words, p.started_at, p.out_on FROM piece p JOIN draft d ON d.piece = p.number "
                    + "WHERE p.out_on IS NOT NULL AND p.trashed_at IS NULL AND d.words > 0"
            )
            .ToDictionary(p => p.Number);
        return LikelyEffort.Of([
            .. nearby
                .NearestOf(text, finished.Keys.Select(number => new Reference(ThingKind.Piece, number)), 3, ReadsLike.PieceFloor)
                .Select(near =>
                {
                    var piece = finished[near.Thing.Number];
                    return new FinishedPiece(
                        PieceNumber.Of(piece.Number),
                        piece.Title,
                        piece.Words,
                        Math.Max(0, piece.OutOn.DayNumber - DateOnly.FromDateTime(piece.StartedAt.UtcDateTime).DayNumber),
                        near.Likeness
                    );
                }),
        ]);
    }

    private static List<Alike> Describe(SqliteConnection db, IReadOnlyList<Nearness> near)
    {
        var rows = db.Query<Row>(
                """
                SELECT 'slip' AS kind, number, substr(text, 1, 400) AS title, state AS note, NULL AS out_on FROM slip
                    WHERE number IN (SELECT value FROM json_each(@slips)) AND merged_into IS NULL
                UNION ALL SELECT 'source', number, title, type, NULL FROM source
                    WHERE number IN (SELECT value FROM json_each(@sources)) AND trashed_at IS NULL
                UNION ALL SELECT 'piece', number, title, stage, out_on FROM piece
                    WHERE number IN (SELECT value FROM json_each(@pieces)) AND trashed_at IS NULL
                """,
                new
                {
                    slips = Of(ThingKind.Slip),
                    sources = Of(ThingKind.Source),
                    pieces = Of(ThingKind.Piece),
                }
            )
            .ToDictionary(r => new Reference(r.Kind, r.Number));
        var topics = TopicRows.Of(db, [.. near.Select(n => n.Thing)]);
        var marks = db.Query<TopicMark>("SELECT number, name, colour FROM topic").ToDictionary(t => t.Number);
        return
        [
            .. near.Where(n => rows.ContainsKey(n.Thing))
                .Select(n => new Alike(
                    n.Thing,
                    n.Thing.Kind == ThingKind.Slip ? PlainText.Headline(rows[n.Thing].Title) : rows[n.Thing].Title,
                    rows[n.Thing].Note,
                    n.Likeness,
                    n.Words,
                    rows[n.Thing].OutOn,
                    [.. topics[n.Thing].Select(t => marks[t])]
                )),
        ];

        string Of(ThingKind kind) => Mapping.List(near.Where(n => n.Thing.Kind == kind).Select(n => n.Thing.Number));
    }

    private sealed record Row
    {
        public ThingKind Kind { get; init; }
        public int Number { get; init; }
        public string Title { get; init; } = "";
        public string Note { get; init; } = "";
        public DateOnly? OutOn { get; init; }
    }
}
