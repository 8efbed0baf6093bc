using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Text;

namespace Nachlass.Store.Papers;

/// <summary>Decisions about slips and topics, out of the file and into it.</summary>
internal static class SiftingRows
{
    public static SiftingImage Take(SqliteConnection db) => new()
    {
        Views = ViewStore.All(db),
        Rules = RuleStore.All(db),
        GoneThrough = [.. db.Query<(string Kind, int Number, int Slip, DateTimeOffset At)>("SELECT kind, number, slip, at FROM gone_through ORDER BY kind, number, slip")
            .Select(g => new GoneThrough(new Reference(Enum.Parse<ThingKind>(g.Kind, true), g.Number), SlipNumber.Of(g.Slip), g.At))],
        Refusals = [.. db.Query<(int Slip, int Topic)>("SELECT slip, topic FROM topic_refusal ORDER BY slip, topic").Select(r => (SlipNumber.Of(r.Slip), TopicNumber.Of(r.Topic)))],
        Apart = [.. db.Query<(int First, int Second)>("SELECT first, second FROM topic_apart ORDER BY first, second").Select(a => (TopicNumber.Of(a.First), TopicNumber.Of(a.Second)))],
        Digests = [.. db.Query<int>("SELECT topic FROM digest UNION SELECT topic FROM digest_line UNION SELECT topic FROM digest_theme ORDER BY 1").ToList().Select(topic => new DigestImage(TopicNumber.Of(topic),
            db.QuerySingleOrDefault<string>("SELECT intro FROM digest WHERE topic = @topic", new { topic }) ?? "",
            [.. db.Query<(int Slip, string? Words, string BasedOn, bool Hidden, int? Beside)>("SELECT slip, words, based_on, hidden, beside FROM digest_line WHERE topic = @topic ORDER BY slip", new { topic })
                .Select(l => new DigestLineImage(SlipNumber.Of(l.Slip), l.Words, l.BasedOn, l.Hidden, l.Beside is { } b ? SlipNumber.Of(b) : null))],
            [.. db.Query<(int Slip, string Name)>("SELECT slip, name FROM digest_theme WHERE topic = @topic ORDER BY slip", new { topic }).Select(t => (SlipNumber.Of(t.Slip), t.Name))]))],
    };

    public static void Put(SqliteConnection db, SiftingImage image)
    {
        if (image.Views is { } views)
        {
            db.Execute("DELETE FROM saved_view");
            foreach (var view in views) ViewStore.Put(db, view);
        }
        foreach (var rule in image.Rules) RuleStore.Put(db, rule);
        foreach (var g in image.GoneThrough)
            db.Execute("INSERT INTO gone_through (kind, number, slip, at) VALUES (@kind, @Number, @Slip, @At)", new { kind = g.For.Kind.Kept(), g.For.Number, g.Slip, g.At });
        foreach (var (slip, topic) in image.Refusals) db.Execute("INSERT INTO topic_refusal (slip, topic) VALUES (@slip, @topic)", new { slip, topic });
        foreach (var (first, second) in image.Apart) db.Execute("INSERT INTO topic_apart (first, second) VALUES (@first, @second)", new { first, second });
        foreach (var d in image.Digests)
        {
            if (d.Intro.Length > 0) db.Execute("INSERT INTO digest (topic, intro) VALUES (@Topic, @Intro)", new { d.Topic, d.Intro });
            foreach (var l in d.Lines)
                db.Execute("INSERT INTO digest_line (topic, slip, words, based_on, hidden, beside) VALUES (@Topic, @Slip, @Words, @BasedOn, @Hidden, @Beside)", new { d.Topic, l.Slip, l.Words, l.BasedOn, l.Hidden, l.Beside });
            foreach (var (slip, name) in d.Themes) db.Execute("INSERT INTO digest_theme (topic, slip, name) VALUES (@Topic, @slip, @name)", new { d.Topic, slip, name });
        }
    }
}
