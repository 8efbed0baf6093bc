using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Sift;

/// <summary>A slip as a claim.</summary>
/// <param name="Offers">Things that read like it and are not weighed yet.</param>
public sealed record ClaimOpened(
    SlipNumber Slip,
    string Title,
    int Version,
    IReadOnlyList<Evidence> Evidence,
    Readiness Readiness,
    IReadOnlyList<EvidenceOffer> Offers
);

/// <summary>Something that may speak for a claim or against it.</summary>
/// <param name="Side">Against, when it denies what the claim says; for otherwise. The writer decides.</param>
public sealed record EvidenceOffer(Reference Thing, string Title, Side Side, string? Because);

/// <summary>A claim in a list.</summary>
public sealed record ClaimLine(SlipNumber Slip, string Title, int For, int Against, double Ready);

/// <summary>Refines slips into claims and gathers what speaks for and against them.</summary>
public sealed class ClaimStore(PapersFile papers, Nearby nearby)
{
    public const int LongestTitle = 300;

    private const int MostOffered = 6,
        LongestNote = 2_000;

    /// <summary>The slip as a claim; null while it is none.</summary>
    /// <exception cref="NotThereException">There is no such slip.</exception>
    public ClaimOpened? Get(SlipNumber slip) =>
        papers.Read(db =>
        {
            SlipRows.Get(db, slip);
            return Find(db, slip);
        });

    /// <summary>What was put on either side of a claim, those that speak for it first; none when the slip is no claim.</summary>
    internal static IReadOnlyList<Reference> EvidenceOf(SqliteConnection db, SlipNumber slip) =>
        [
            .. db.Query<(string Kind, int Number)>(
                    "SELECT thing_kind, thing_number FROM evidence WHERE claim = @slip ORDER BY side DESC, id",
                    new { slip }
                )
                .Select(row => new Reference(Enum.Parse<ThingKind>(row.Kind, true), row.Number)),
        ];

    /// <summary>Makes a slip a claim, or gives it another title.</summary>
    public Done<ClaimOpened> Refine(SlipNumber slip, string? title, Once once) =>
        papers.Run(
            $"refined slip {slip} into a claim",
            once,
            change =>
            {
                SlipRows.Get(change.Db, slip);
                change.Db.Execute(
                    "INSERT INTO claim (slip, title) VALUES (@slip, @title) ON CONFLICT (slip) DO UPDATE SET title = @title, "
                        + "version = version + 1",
                    new { slip, title = Check.Length("title", title, LongestTitle).Trim() }
                );
                return Find(change.Db, slip)!;
            }
        );

    /// <summary>Puts something on a side, or changes why.</summary>
    public Done<ClaimOpened> Weigh(SlipNumber slip, Reference thing, Side side, string? note, Once once) =>
        papers.Run(
            $"weighed {thing} for slip {slip}",
            once,
            change =>
            {
                Must(change.Db, slip);
                if (thing.Kind is not (ThingKind.Slip or ThingKind.Source))
                    throw new BadInputException("thing", "A slip or a source speaks for a claim.");
                if (thing == Reference.To(slip))
                    throw new BadInputException("thing", "A claim can't speak for itself.");
                if (Links.TitleOf(change.Db, thing) is null)
                    throw new BadInputException("thing", $"There is no {thing}.");
                change.Db.Execute(
                    """
                    INSERT INTO evidence (claim, thing_kind, thing_number, side, note, added_at)
                        VALUES (@slip, @kind, @Number, @side, @note, @Now)
                    ON CONFLICT (claim, thing_kind, thing_number) DO UPDATE SET side = @side, note = @note
                    """,
                    new
                    {
                        slip,
                        kind = thing.Kind.Kept(),
                        thing.Number,
                        side = side.Kept(),
                        note = Check.Length("note", note, LongestNote).Trim(),
                        change.Now,
                    }
                );
                change.What = $"put {thing} {(side == Side.For ? "for" : "against")} the claim of slip {slip}";
                return Find(change.Db, slip)!;
            }
        );

    public Done<ClaimOpened> TakeAway(SlipNumber slip, Reference thing, Once once) =>
        papers.Run(
            $"took {thing} from the claim of slip {slip}",
            once,
            change =>
            {
                Must(change.Db, slip);
                change.Db.Execute(
                    "DELETE FROM evidence WHERE claim = @slip AND thing_kind = @kind AND thing_number = @Number",
                    new
                    {
                        slip,
                        kind = thing.Kind.Kept(),
                        thing.Number,
                    }
                );
                return Find(change.Db, slip)!;
            }
        );

    /// <summary>The claims on a topic and under it, the readiest first.</summary>
    internal static IReadOnlyList<ClaimLine> On(SqliteConnection db, TopicNumber topic) =>
        [
            .. db.Query<int>(
                    "SELECT slip FROM claim WHERE slip IN (SELECT slip FROM slip_topic "
                        + "WHERE topic IN (SELECT under FROM topic_under "
                        + "WHERE topic = @topic)) AND slip IN (SELECT number FROM slip WHERE state <> 'dropped')",
                    new { topic }
                )
                .Select(number => SlipNumber.Of(number))
                .Select(slip =>
                {
                    var (title, text, evidence) = Read(db, slip);
                    return new ClaimLine(
                        slip,
                        title.Length > 0 ? title : PlainText.Headline(text),
                        evidence.Count(e => e.Side == Side.For),
                        evidence.Count(e => e.Side == Side.Against),
                        Readiness.Of(title, Counts.Of(text).Words, evidence).Figure
                    );
                })
                .OrderByDescending(c => c.Ready),
        ];

    private static void Must(SqliteConnection db, SlipNumber slip)
    {
        if (db.ExecuteScalar<int>("SELECT count(*) FROM claim WHERE slip = @slip", new { slip }) == 0)
            throw new BadInputException("slip", $"Slip {slip} is no claim yet.");
    }

    private ClaimOpened? Find(SqliteConnection db, SlipNumber slip)
    {
        if (db.QuerySingleOrDefault<int?>("SELECT version FROM claim WHERE slip = @slip", new { slip }) is not { } version)
            return null;
        var (title, text, evidence) = Read(db, slip);
        var weighed = evidence.Select(e => e.Thing).Append(Reference.To(slip)).ToHashSet();
        var asked = title + "\n" + text;
        var offers = nearby
            .Nearest(
                asked,
                MostOffered * 2,
                ReadsLike.Floor,
                thing => thing.Kind is ThingKind.Slip or ThingKind.Source && !weighed.Contains(thing)
            )
            .Select(n => n.Thing)
            .Select(thing => (thing, Text: TextOf(db, thing)))
            .Where(o => o.Text is not null)
            .Select(o => (o.thing, Because: Opposing.Of(asked, o.Text!)))
            .Select(o => new EvidenceOffer(
                o.thing,
                Links.TitleOf(db, o.thing) ?? "",
                o.Because is null ? Side.For : Side.Against,
                o.Because
            ));
        return new ClaimOpened(
            slip,
            title,
            version,
            evidence,
            Readiness.Of(title, Counts.Of(text).Words, evidence),
            [.. offers.Take(MostOffered)]
        );
    }

    private static string? TextOf(SqliteConnection db, Reference thing) =>
        thing.Kind == ThingKind.Slip
            ? db.QuerySingleOrDefault<string>("SELECT text FROM slip WHERE number = @Number AND state <> 'dropped'", new { thing.Number })
            : db.QuerySingleOrDefault<string>(
                "SELECT title || char(10) || summary FROM source WHERE number = @Number AND trashed_at IS NULL",
                new { thing.Number }
            );

    private static (string Title, string Text, IReadOnlyList<Evidence> Evidence) Read(SqliteConnection db, SlipNumber slip)
    {
        var (title, text) = db.QuerySingle<(string, string)>(
            "SELECT c.title, s.text FROM claim c JOIN slip s ON s.number = c.slip WHERE c.slip = @slip",
            new { slip }
        );
        var evidence = db.Query<(string Kind, int Number, string Side, string Note, DateTimeOffset AddedAt)>(
                "SELECT thing_kind, thing_number, side, note, added_at FROM evidence WHERE claim = @slip ORDER BY added_at, id",
                new { slip }
            )
            .Select(e =>
            {
                var thing = new Reference(Enum.Parse<ThingKind>(e.Kind, true), e.Number);
                var source =
                    thing.Kind == ThingKind.Source
                        ? e.Number
                        : db.QuerySingleOrDefault<int?>("SELECT source FROM slip WHERE number = @Number", new { e.Number });
                return new Evidence(
                    thing,
                    Links.TitleOf(db, thing) ?? "",
                    Enum.Parse<Side>(e.Side, true),
                    e.Note,
                    source is { } of ? SourceNumber.Of(of) : null,
                    e.AddedAt
                );
            });
        return (title, text, [.. evidence]);
    }
}
