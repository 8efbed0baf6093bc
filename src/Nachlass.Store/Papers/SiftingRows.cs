using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Sift;
using Nachlass.Store.Text;

namespace Nachlass.Store.Papers;

/// <summary>Decisions about slips and topics, out of the file and into it.</summary>
internal static class SiftingRows
{
    public static SiftingImage Take(SqliteConnection db) =>
        new()
        {
            Views = ViewStore.All(db),
            Rules = RuleStore.All(db),
            Claims =
            [
                .. db.Query<(int Slip, string Title)>("SELECT slip, title FROM claim ORDER BY slip")
                    .ToList()
                    .Select(c => new ClaimImage(
                        SlipNumber.Of(c.Slip),
                        c.Title,
                        [
                            .. db.Query<(string Kind, int Number, string Side, string Note, DateTimeOffset At)>(
                                    "SELECT thing_kind, thing_number, side, note, added_at FROM evidence WHERE claim = @Slip ORDER BY id",
                                    new { c.Slip }
                                )
                                .Select(e =>
                                    (
                                        new Reference(Enum.Parse<ThingKind>(e.Kind, true), e.Number),
                                        Enum.Parse<Side>(e.Side, true),
                                        e.Note,
                                        e.At
                                    )
                                ),
                        ]
                    )),
            ],
            Usable =
            [
                .. db.Query<(
                    string Kind,
                    int Number,
                    string Paragraph,
                    string Format,
                    DateTimeOffset MarkedAt,
                    string? UsedAt,
                    int? Piece
                )>("SELECT in_kind, in_number, paragraph, as_format, marked_at, used_at, piece FROM usable ORDER BY number")
                    .Select(u => new UsableImage(
                        new Reference(Enum.Parse<ThingKind>(u.Kind, true), u.Number),
                        u.Paragraph,
                        u.Format,
                        u.MarkedAt,
                        u.UsedAt is { } at ? DateTimeOffset.Parse(at, System.Globalization.CultureInfo.InvariantCulture) : null,
                        u.Piece is { } p ? PieceNumber.Of(p) : null
                    )),
            ],
            Lifted =
            [
                .. db.Query<(string Kind, int Number, string Paragraph, int? Slip, int? Move)>(
                        "SELECT in_kind, in_number, paragraph, slip, move FROM lifted ORDER BY id"
                    )
                    .Select(l => new LiftedImage(
                        new Reference(Enum.Parse<ThingKind>(l.Kind, true), l.Number),
                        l.Paragraph,
                        l.Slip is { } s ? SlipNumber.Of(s) : null,
                        l.Move is { } m ? MoveNumber.Of(m) : null
                    )),
            ],
            GoneThrough =
            [
                .. db.Query<(string Kind, int Number, int Slip, DateTimeOffset At)>(
                        "SELECT kind, number, slip, at FROM gone_through ORDER BY kind, number, slip"
                    )
                    .Select(g => new GoneThrough(
                        new Reference(Enum.Parse<ThingKind>(g.Kind, true), g.Number),
                        SlipNumber.Of(g.Slip),
                        g.At
                    )),
            ],
            Refusals =
            [
                .. db.Query<(int Slip, int Topic)>("SELECT slip, topic FROM topic_refusal ORDER BY slip, topic")
                    .Select(r => (SlipNumber.Of(r.Slip), TopicNumber.Of(r.Topic))),
            ],
            Apart =
            [
                .. db.Query<(int First, int Second)>("SELECT first, second FROM topic_apart ORDER BY first, second")
                    .Select(a => (TopicNumber.Of(a.First), TopicNumber.Of(a.Second))),
            ],
            Digests =
            [
                .. db.Query<int>(
                        "SELECT topic FROM digest WHERE intro <> '' UNION SELECT topic "
                            + "FROM digest_line UNION SELECT topic FROM digest_theme ORDER BY 1"
                    )
                    .ToList()
                    .Select(topic => new DigestImage(
                        TopicNumber.Of(topic),
                        db.QuerySingleOrDefault<string>("SELECT intro FROM digest WHERE topic = @topic", new { topic }) ?? "",
                        [
                            .. db.Query<(int Slip, string? Words, string BasedOn, bool Hidden, int? Beside)>(
                                    "SELECT slip, words, based_on, hidden, beside FROM digest_line WHERE topic = @topic ORDER BY slip",
                                    new { topic }
                                )
                                .Select(l => new DigestLineImage(
                                    SlipNumber.Of(l.Slip),
                                    l.Words,
                                    l.BasedOn,
                                    l.Hidden,
                                    l.Beside is { } b ? SlipNumber.Of(b) : null
                                )),
                        ],
                        [
                            .. db.Query<(int Slip, string Name)>(
                                    "SELECT slip, name FROM digest_theme WHERE topic = @topic ORDER BY slip",
                                    new { topic }
                                )
                                .Select(t => (SlipNumber.Of(t.Slip), t.Name)),
                        ]
                    )),
            ],
        };

    public static void Put(SqliteConnection db, SiftingImage image)
    {
        if (image.Views is { } views)
        {
            db.Execute("DELETE FROM saved_view");
            foreach (var view in views)
                ViewStore.Put(db, view);
        }
        foreach (var claim in image.Claims)
        {
            db.Execute("INSERT INTO claim (slip, title) VALUES (@Slip, @Title)", new { claim.Slip, claim.Title });
            foreach (var (thing, side, note, at) in claim.Evidence)
                db.Execute(
                    "INSERT INTO evidence (claim, thing_kind, thing_number, side, note, added_at) "
                        + "VALUES (@Slip, @kind, @Number, @side, @note, @at)",
                    new
                    {
                        claim.Slip,
                        kind = thing.Kind.Kept(),
                        thing.Number,
                        side = side.Kept(),
                        note,
                        at,
                    }
                );
        }
        foreach (var u in image.Usable)
            db.Execute(
                "INSERT INTO usable (in_kind, in_number, paragraph, as_format, marked_at, used_at, piece) "
                    + "VALUES (@kind, @Number, @Paragraph, @Format, @MarkedAt, @UsedAt, @Piece)",
                new
                {
                    kind = u.In.Kind.Kept(),
                    u.In.Number,
                    u.Paragraph,
                    u.Format,
                    u.MarkedAt,
                    u.UsedAt,
                    u.Piece,
                }
            );
        foreach (var l in image.Lifted)
            db.Execute(
                "INSERT INTO lifted (in_kind, in_number, paragraph, slip, move) VALUES (@kind, @Number, @Paragraph, @Slip, @Move)",
                new
                {
                    kind = l.In.Kind.Kept(),
                    l.In.Number,
                    l.Paragraph,
                    l.Slip,
                    l.Move,
                }
            );
        foreach (var rule in image.Rules)
            RuleStore.Put(db, rule);
        foreach (var g in image.GoneThrough)
            db.Execute(
                "INSERT INTO gone_through (kind, number, slip, at) VALUES (@kind, @Number, @Slip, @At)",
                new
                {
                    kind = g.For.Kind.Kept(),
                    g.For.Number,
                    g.Slip,
                    g.At,
                }
            );
        foreach (var (slip, topic) in image.Refusals)
            db.Execute("INSERT INTO topic_refusal (slip, topic) VALUES (@slip, @topic)", new { slip, topic });
        foreach (var (first, second) in image.Apart)
            db.Execute("INSERT INTO topic_apart (first, second) VALUES (@first, @second)", new { first, second });
        foreach (var d in image.Digests)
        {
            if (d.Intro.Length > 0)
                db.Execute("INSERT INTO digest (topic, intro) VALUES (@Topic, @Intro)", new { d.Topic, d.Intro });
            foreach (var l in d.Lines)
                db.Execute(
                    "INSERT INTO digest_line (topic, slip, words, based_on, hidden, beside) "
                        + "VALUES (@Topic, @Slip, @Words, @BasedOn, @Hidden, @Beside)",
                    new
                    {
                        d.Topic,
                        l.Slip,
                        l.Words,
                        l.BasedOn,
                        l.Hidden,
                        l.Beside,
                    }
                );
            foreach (var (slip, name) in d.Themes)
                db.Execute(
                    "INSERT INTO digest_theme (topic, slip, name) VALUES (@Topic, @slip, @name)",
                    new
                    {
                        d.Topic,
                        slip,
                        name,
                    }
                );
        }
    }
}
