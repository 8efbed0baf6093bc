using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Choosing;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Capture;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Text;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Bench;

/// <summary>What a piece is to be begun from; nothing when all are null.</summary>
/// <param name="Slips">Slips, the first being the idea: an idea, a claim, an ask.</param>
/// <param name="Topic">What has gathered on a topic.</param>
/// <param name="Usable">A marked paragraph.</param>
/// <param name="Piece">A piece, for a sequel or for the same in another format.</param>
/// <param name="Digest">Whether what comes along of the topic is the lines of its digest.</param>
/// <param name="Format">The format that is meant already, as in a cell of the map.</param>
public sealed record Beginning(
    IReadOnlyList<SlipNumber>? Slips = null,
    TopicNumber? Topic = null,
    UsableNumber? Usable = null,
    PieceNumber? Piece = null,
    string? Format = null,
    bool Digest = false
);

/// <summary>Something that could come along as material.</summary>
/// <param name="Why">Why it is offered, in a few words.</param>
/// <param name="Ticked">Whether it is taken unless the writer says no.</param>
public sealed record MaterialOffer(Reference Thing, string Title, string Why, bool Ticked);

/// <summary>A title that an idea offers for itself, and how it looks beside others.</summary>
public sealed record TitleOffered(string Title, string Shape, TitleLook Look);

/// <summary>All that a writer should see before a piece is begun.</summary>
/// <param name="Said">Releases and drafts in which it has been said already, the fullest first, each with the passage.</param>
/// <param name="Format">Key of the format it would have.</param>
/// <param name="Numbers">For each format that numbers its pieces, the number the next one gets.</param>
public sealed record StartOffer(
    string About,
    IReadOnlyList<SaidAlready> Said,
    IReadOnlyList<TitleOffered> Titles,
    string Format,
    IReadOnlyList<string> Topics,
    IReadOnlyList<MaterialOffer> Material,
    IReadOnlyDictionary<string, int> Numbers
);

/// <summary>Looks ahead of a piece that is to be begun. Nothing is changed.</summary>
public sealed class StartStore(PapersFile papers, FindStore find, WorthStore worth, Nearby nearby)
{
    private const int MostOffered = 24,
        MostNear = 8;

    /// <summary>The least share of an idea in a passage that is told before a piece is begun.</summary>
    private const double SaidFloor = 0.4;

    /// <exception cref="NotThereException">What it is to be begun from is not there.</exception>
    public StartOffer Offer(Beginning from)
    {
        var line = from.Slips is [var first, ..] ? worth.Of(first) : null;
        return papers.Read(db =>
        {
            var formats = FormatRows.All(db);
            var (about, text, claim, topics, format, material) = Read(db, from, line);
            var named = formats.Find(from.Format ?? format) is { IsPutAway: false } known ? known : formats.First;
            var earlier = TitleStore.Earlier(db, null);
            return new StartOffer(
                about,
                text.Trim().Length == 0 ? [] : find.Said(db, text, onlyOut: false, SaidFloor).Where(s => s.Piece != from.Piece).ToList(),
                [
                    .. TitleOffers
                        .Of(text, claim, topics)
                        .Select(t => new TitleOffered(t.Title, t.Shape, TitleLook.Of(t.Title, named.TitlePlaces, earlier))),
                ],
                named.Key,
                topics,
                [.. material.DistinctBy(m => m.Thing).Take(MostOffered)],
                formats
                    .Offered.Where(f => f.TitlePattern.Contains("number", StringComparison.Ordinal))
                    .ToDictionary(f => f.Key, f => PieceRows.NextRunning(db, f))
            );
        });
    }

    private (string About, string Text, string? Claim, IReadOnlyList<string> Topics, string? Format, List<MaterialOffer> Material) Read(
        SqliteConnection db,
        Beginning from,
        WorthLine? line
    )
    {
        if (from.Slips is { Count: > 0 } numbers)
            return FromSlips(db, numbers, line);
        if (from.Topic is { } topic)
            return FromTopic(db, topic, from.Digest);
        if (from.Usable is { } usable)
        {
            var (paragraph, asFormat) =
                db.QuerySingleOrDefault<(string, string)?>(
                    "SELECT paragraph, as_format FROM usable WHERE number = @Value AND used_at IS NULL",
                    new { usable.Value }
                ) ?? throw new NotThereException($"marked paragraph {usable}");
            return ("a marked paragraph", paragraph, null, [], asFormat, Near(db, paragraph, []));
        }
        if (from.Piece is { } piece)
            return FromPiece(db, piece);
        return ("", "", null, [], null, []);
    }

    private (string, string, string?, IReadOnlyList<string>, string?, List<MaterialOffer>) FromSlips(
        SqliteConnection db,
        IReadOnlyList<SlipNumber> numbers,
        WorthLine? line
    )
    {
        var slips = numbers.Distinct().Select(n => SlipRows.Get(db, n)).ToList();
        var idea = slips[0];
        var claim = db.ExecuteScalar<string?>("SELECT nullif(title, '') FROM claim WHERE slip = @Number", new { idea.Number });
        var material = slips
            .Select(s => new MaterialOffer(Reference.To(s.Number), s.Title, s == idea ? "the idea itself" : "chosen with it", true))
            .ToList();
        var sides = db.Query<(string Kind, int Number, string Side, string Note)>(
            "SELECT thing_kind, thing_number, side, note FROM evidence WHERE claim = @Number ORDER BY side DESC, id",
            new { idea.Number }
        );
        foreach (var (kind, number, side, note) in sides)
        {
            var thing = new Reference(Enum.Parse<ThingKind>(kind, true), number);
            material.Add(
                new MaterialOffer(
                    thing,
                    Links.TitleOf(db, thing) ?? "",
                    (side == "for" ? "speaks for it" : "speaks against it") + (note.Length > 0 ? $": {note}" : ""),
                    true
                )
            );
        }
        foreach (
            var (thing, title) in line?.Terms.FirstOrDefault(t => t.Term == WorthTerm.Material)?.Things.Select(t => (t.Thing, t.Title))
                ?? []
        )
            material.Add(new MaterialOffer(thing, title, "near it or tied to it", !Links.IsInAPiece(db, thing)));
        foreach (
            var (thing, title) in line?.Terms.FirstOrDefault(t => t.Term == WorthTerm.Asks)?.Things.Select(t => (t.Thing, t.Title)) ?? []
        )
            material.Add(new MaterialOffer(thing, title, "a reader asks for it", false));
        var text = string.Join("\n\n", slips.Select(s => s.Text));
        material.AddRange(Near(db, text, material.Select(m => m.Thing)));
        return (
            slips.Count == 1 ? $"slip {idea.Number}" : $"{slips.Count} slips",
            text,
            claim,
            [.. slips.SelectMany(s => s.Topics).Select(t => t.Name).Distinct()],
            idea.FirstFormat,
            material
        );
    }

    private static (string, string, string?, IReadOnlyList<string>, string?, List<MaterialOffer>) FromTopic(
        SqliteConnection db,
        TopicNumber topic,
        bool digest
    )
    {
        var name = Links.TitleOf(db, Reference.To(topic)) ?? throw new NotThereException($"topic {topic}");
        if (digest)
        {
            var compiled = DigestStore.Compile(db, topic);
            var lines = compiled
                .Themes.SelectMany(theme =>
                    theme.Lines.Select(line => new MaterialOffer(
                        Reference.To(line.Slip),
                        PlainText.Headline(line.Words ?? line.Text),
                        $"in the digest, under {theme.Name}",
                        true
                    ))
                )
                .ToList();
            return ($"the digest of {name}", string.Join('\n', lines.Select(l => l.Title).Prepend(name)), null, [name], null, lines);
        }
        var material = db.Query<(int Number, string Text, string Kind, int? Pull)>(
                $"""
                SELECT s.number, substr(s.text, 1, 400), s.kind, s.pull FROM slip s
                WHERE s.state = 'kept' AND s.number IN (SELECT slip FROM slip_topic
                        WHERE topic IN (SELECT under FROM topic_under WHERE topic = @topic))
                    AND NOT {Links.StandsInAPiece(ThingKind.Slip)}
                ORDER BY s.pull IS NULL, s.pull DESC, s.caught_at DESC LIMIT {MostOffered}
                """,
                new { topic }
            )
            .Select(s => new MaterialOffer(
                new Reference(ThingKind.Slip, s.Number),
                PlainText.Headline(s.Text),
                s.Pull is { } pull ? $"{Kind(s.Kind)} that draws you {pull} of 5" : $"{Kind(s.Kind)}, kept and unused",
                s.Pull >= 4
            ))
            .ToList();
        material.AddRange(
            db.Query<(int Number, string Title)>(
                    "SELECT number, title FROM source WHERE trashed_at IS NULL AND number IN (SELECT source FROM source_topic "
                        + "WHERE topic IN (SELECT under FROM topic_under WHERE topic = @topic)) ORDER BY caught_at DESC LIMIT 6",
                    new { topic }
                )
                .Select(s => new MaterialOffer(new Reference(ThingKind.Source, s.Number), s.Title, "a source on it", false))
        );
        // What has gathered says what it would be about; the bare name would meet every piece that names it.
        var text = string.Join('\n', material.Where(m => m.Ticked).Take(6).Select(m => m.Title).Prepend(name));
        return ($"the topic {name}", text, null, [name], null, material);

        static string Kind(string kind) => kind is "idea" or "ask" ? $"an {kind}" : $"a {kind}";
    }

    private (string, string, string?, IReadOnlyList<string>, string?, List<MaterialOffer>) FromPiece(
        SqliteConnection db,
        PieceNumber number
    )
    {
        var piece = PieceRows.Get(db, number);
        var draft = db.ExecuteScalar<string>("SELECT text FROM draft WHERE piece = @number", new { number }) ?? "";
        var referred = References.In(draft).Select(r => r.Thing).OfType<Reference>().ToHashSet();
        var material = db.Query<(int? Slip, int? Source)>(
                "SELECT slip, source FROM material WHERE piece = @number ORDER BY position",
                new { number }
            )
            .Select(m => m.Slip is { } slip ? new Reference(ThingKind.Slip, slip) : new Reference(ThingKind.Source, m.Source!.Value))
            .Select(thing => new MaterialOffer(
                thing,
                Links.TitleOf(db, thing) ?? "",
                referred.Contains(thing) ? $"stands in P {number}" : $"was left over from P {number}",
                !referred.Contains(thing)
            ))
            .OrderByDescending(m => m.Ticked)
            .ToList();
        material.AddRange(Near(db, piece.Title + "\n" + draft, material.Select(m => m.Thing)));
        return ($"P {number}", piece.Title, null, [.. piece.Topics.Select(t => t.Name)], piece.Format, material);
    }

    /// <summary>What reads like it, with the words that carry that; never ticked beforehand.</summary>
    private List<MaterialOffer> Near(SqliteConnection db, string text, IEnumerable<Reference> besides)
    {
        var there = besides.ToHashSet();
        return
        [
            .. nearby
                .Nearest(
                    text,
                    MostNear,
                    Core.Sift.ReadsLike.Floor,
                    thing => thing.Kind is ThingKind.Slip or ThingKind.Source && !there.Contains(thing)
                )
                .Where(n => Links.IsInSight(db, n.Thing))
                .Select(n => new MaterialOffer(
                    n.Thing,
                    Links.TitleOf(db, n.Thing) ?? "",
                    "reads like it: " + string.Join(", ", n.Words),
                    false
                )),
        ];
    }
}
