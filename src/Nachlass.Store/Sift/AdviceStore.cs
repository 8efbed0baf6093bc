using Dapper;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
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
public sealed record Alike(Reference Thing, string Title, string Note, double Likeness, IReadOnlyList<string> Words, DateOnly? OutOn, IReadOnlyList<TopicMark> Topics);

/// <summary>What can be said about a slip from what is already there.</summary>
/// <param name="WouldFit">Pieces in hand that it could belong to.</param>
public sealed record Advice(SlipNumber Slip, IReadOnlyList<LikelyTopic> Topics, IReadOnlyList<Alike> ReadsLike, IReadOnlyList<Alike> WouldFit);

/// <summary>Computes advice.</summary>
public sealed class AdviceStore(PapersFile papers, Nearby nearby)
{
    /// <summary>Advice on one slip; empty lists where nothing is near.</summary>
    public Advice For(SlipNumber number) => papers.Read(db =>
    {
        var slip = SlipRows.Get(db, number);
        var self = Reference.To(number);
        // Some to spare, since what has been dropped or trashed is no advice.
        var near = nearby.Nearest(slip.Text, LikelyTopics.Neighbours + ReadsLike.Most, ReadsLike.Floor, thing => thing != self);
        var described = Describe(db, near);
        var sorted = TopicRows.Of(db, [.. near.Select(n => n.Thing)]);
        var topics = db.Query<Topic>(TopicStore.Names).ToList();
        return new Advice(number,
            LikelyTopics.Of(slip.Text, [.. near.Take(LikelyTopics.Neighbours).Select(n => (n, (IReadOnlyList<TopicNumber>)[.. sorted[n.Thing]]))],
                topics, slip.Topics.Select(t => t.Number).ToHashSet()),
            [.. described.Where(a => a.Note != "dropped").Take(ReadsLike.Most)],
            Fitting(db, slip.Text));
    });

    /// <summary>What reads like any text, for material and for questions.</summary>
    public IReadOnlyList<Alike> Like(string text, int most, Func<Reference, bool> among) =>
        papers.Read(db => Describe(db, nearby.Nearest(text, most, ReadsLike.Floor, among)));

    private List<Alike> Fitting(Microsoft.Data.Sqlite.SqliteConnection db, string text)
    {
        var inHand = db.Query<int>("SELECT number FROM piece WHERE out_on IS NULL AND trashed_at IS NULL").Select(number => new Reference(ThingKind.Piece, number));
        return Describe(db, nearby.NearestOf(text, inHand, 4, ReadsLike.PieceFloor));
    }

    private static List<Alike> Describe(Microsoft.Data.Sqlite.SqliteConnection db, IReadOnlyList<Core.Text.Nearness> near)
    {
        var rows = db.Query<Row>(
            """
            SELECT 'slip' AS kind, number, substr(text, 1, 400) AS title, state AS note, NULL AS out_on FROM slip WHERE number IN (SELECT value FROM json_each(@slips))
            UNION ALL SELECT 'source', number, title, type, NULL FROM source WHERE number IN (SELECT value FROM json_each(@sources)) AND trashed_at IS NULL
            UNION ALL SELECT 'piece', number, title, stage, out_on FROM piece WHERE number IN (SELECT value FROM json_each(@pieces)) AND trashed_at IS NULL
            """, new { slips = Of(ThingKind.Slip), sources = Of(ThingKind.Source), pieces = Of(ThingKind.Piece) })
            .ToDictionary(r => new Reference(r.Kind, r.Number));
        var topics = TopicRows.Of(db, [.. near.Select(n => n.Thing)]);
        var marks = db.Query<TopicMark>("SELECT number, name, colour FROM topic").ToDictionary(t => t.Number);
        return [.. near.Where(n => rows.ContainsKey(n.Thing)).Select(n => new Alike(n.Thing,
            n.Thing.Kind == ThingKind.Slip ? Core.Text.PlainText.Headline(rows[n.Thing].Title) : rows[n.Thing].Title,
            rows[n.Thing].Note, n.Likeness, n.Words, rows[n.Thing].OutOn, [.. topics[n.Thing].Select(t => marks[t])]))];

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
