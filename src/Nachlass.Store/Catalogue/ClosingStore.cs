using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Text;

namespace Nachlass.Store.Catalogue;

/// <summary>A passage that was kept.</summary>
/// <param name="IsClaim">Whether its slip is a claim.</param>
public sealed record PassageKept(SlipNumber Slip, string Text, bool IsClaim);

/// <summary>A piece that went out, as it is closed.</summary>
/// <param name="Release">The release whose text is looked through: its last.</param>
/// <param name="Topics">Where what is kept goes.</param>
/// <param name="Offered">Passages worth keeping, in the order of the text.</param>
/// <param name="Kept">Those that were kept.</param>
public sealed record ClosingShown(
    Closing Closing,
    ReleaseNumber Release,
    string Title,
    DateOnly OutOn,
    IReadOnlyList<TopicMark> Topics,
    IReadOnlyList<PassageOffered> Offered,
    IReadOnlyList<PassageKept> Kept
);

/// <summary>A piece that went out, in a list of what was learned.</summary>
/// <param name="Kept">How many of its passages were kept.</param>
/// <param name="IsDue">Whether it went out lately and is not closed.</param>
public sealed record ClosingLine(
    PieceNumber Piece,
    ReleaseNumber Release,
    string Title,
    string FormatName,
    DateOnly OutOn,
    string Learned,
    SlipNumber? Slip,
    string Otherwise,
    DateTimeOffset? ClosedAt,
    int Kept,
    bool IsDue
);

/// <summary>What was learned; what is not set stays.</summary>
/// <param name="Version">As it was read; 0 where nothing was said yet.</param>
public sealed record ClosingChange(int? Version, string? Learned = null, string? Otherwise = null);

/// <summary>A passage to be kept.</summary>
/// <param name="Text">Its words.</param>
/// <param name="AsClaim">Whether it becomes a claim; else it is a slip.</param>
public sealed record PassageToKeep(string? Text, bool AsClaim = false);

/// <summary>Closes pieces that went out, so that what was learned goes back into the notes.</summary>
public sealed class ClosingStore(PapersFile papers, Nearby nearby)
{
    private const int LongestPassage = 20_000,
        MostRemembered = 5;

    /// <summary>All pieces that are out, the latest first.</summary>
    public IReadOnlyList<ClosingLine> List() => papers.Read(db => LinesOf(db, "", null));

    /// <summary>What was to be done otherwise, as the latest pieces of a format said when they were closed.</summary>
    /// <param name="format">Its key.</param>
    public IReadOnlyList<ClosingLine> Learned(string format) =>
        papers.Read(db =>
            LinesOf(db, "AND p.format = @Key AND c.otherwise <> ''", new { FormatRows.Named(db, format).Key }, MostRemembered)
        );

    private IReadOnlyList<ClosingLine> LinesOf(SqliteConnection db, string and, object? arguments, int most = int.MaxValue)
    {
        var formats = FormatRows.All(db);
        return
        [
            .. db.Query<Row>($"{Lines} {and} ORDER BY p.out_on DESC, p.number DESC LIMIT {most}", arguments)
                .Select(r => new ClosingLine(
                    r.Piece,
                    r.Release,
                    r.Title,
                    formats.Named(r.Format).Name,
                    r.OutOn,
                    r.Learned,
                    r.Slip,
                    r.Otherwise,
                    r.ClosedAt,
                    r.Kept,
                    r.ClosedAt is null && Closing.IsDue(r.OutOn, papers.Today)
                )),
        ];
    }

    private const string Lines = """
        SELECT p.number AS piece, p.title, p.format, p.out_on, coalesce(c.learned, '') AS learned, c.slip,
            coalesce(c.otherwise, '') AS otherwise, c.closed_at,
            (SELECT count(*) FROM closing_kept k WHERE k.piece = p.number) AS kept,
            (SELECT max(r.number) FROM release r WHERE r.piece = p.number) AS release
        FROM piece p LEFT JOIN closing c ON c.piece = p.number
        WHERE p.out_on IS NOT NULL AND p.trashed_at IS NULL AND EXISTS (SELECT 1 FROM release r WHERE r.piece = p.number)
        """;

    /// <summary>A piece with what of it is worth keeping.</summary>
    /// <exception cref="NotThereException">There is no such piece.</exception>
    /// <exception cref="ClashException">It has not gone out.</exception>
    public ClosingShown Get(PieceNumber number) =>
        papers.Read(db =>
        {
            var piece = Out(db, number);
            var release = ReleaseRows.Get(db, ReleaseRows.Of(db, number)[0].Number);
            var text = release.Corrections is [.., var last] ? last.Text : release.Text;
            var closing = ClosingRows.Of(db, number);
            var kept = Kept(db, number);
            // What was kept of it changes nothing about the rest of it.
            var own = kept.Select(k => k.Slip).Append(closing.Slip ?? default).Select(Reference.To).ToHashSet();
            return new ClosingShown(
                closing,
                release.Number,
                piece.Title,
                piece.OutOn ?? release.OutOn,
                piece.Topics,
                WorthKeeping.Of(
                    text,
                    [.. DraftRows.Gone(db, number).Select(g => (g.Image.Title, g.Image.Body))],
                    db.Query<string>(
                            "SELECT paragraph FROM usable WHERE used_at IS NULL AND in_kind = 'piece' AND in_number = @number",
                            new { number }
                        )
                        .ToHashSet(),
                    [.. ClosingRows.KeptOf(db, number).Select(k => k.Passage)],
                    passage => nearby.Nearest(passage, 1, Core.Sift.ReadsLike.Floor, IsOtherNote) is [var note, ..] ? note : null
                ),
                kept
            );

            bool IsOtherNote(Reference thing) => thing.Kind is ThingKind.Slip or ThingKind.Source && !own.Contains(thing);
        });

    private static Piece Out(SqliteConnection db, PieceNumber number)
    {
        var piece = PieceRows.Get(db, number);
        return piece.OutOn is not null && ReleaseRows.Of(db, number).Count > 0
            ? piece
            : throw new ClashException($"P {number} has not gone out; it is closed when it has.");
    }

    private static IReadOnlyList<PassageKept> Kept(SqliteConnection db, PieceNumber piece) =>
        [
            .. ClosingRows
                .KeptOf(db, piece)
                .Select(k => new PassageKept(
                    k.Slip,
                    k.Passage,
                    db.ExecuteScalar<bool>("SELECT EXISTS (SELECT 1 FROM claim WHERE slip = @Slip)", new { k.Slip })
                )),
        ];

    /// <summary>Says what was learned.</summary>
    public Done<Closing> Write(PieceNumber number, ClosingChange edit, Once once)
    {
        var based = edit.Version ?? throw new BadInputException("version", "Say which version was changed; 0 where there was none.");
        var learned = edit.Learned is null ? null : Check.Length("learned", edit.Learned.Trim(), Closing.LongestLine);
        var otherwise = edit.Otherwise is null ? null : Check.Length("otherwise", edit.Otherwise.Trim(), Closing.LongestLine);
        return papers.Run(
            $"said what was learned from P {number}",
            once,
            change =>
            {
                Out(change.Db, number);
                var before = ClosingRows.Of(change.Db, number);
                if (before.Version != based)
                    throw new StaleException($"what was learned from P {number}", before);
                var now = before with { Learned = learned ?? before.Learned, Otherwise = otherwise ?? before.Otherwise };
                // While it is closed its claim says what stands here.
                if (now.ClosedAt is not null)
                    Claim(change, before, now);
                else
                    ClosingRows.Put(change.Db, now);
                return ClosingRows.Of(change.Db, number);
            }
        );
    }

    /// <summary>Keeps a passage on the topics of its piece.</summary>
    /// <exception cref="ClashException">It was kept already.</exception>
    public Done<PassageKept> Keep(PieceNumber number, PassageToKeep passage, Once once)
    {
        var text = Check.Text("text", passage.Text, LongestPassage);
        return papers.Run(
            $"kept a passage of P {number}",
            once,
            change =>
            {
                if (ClosingRows.KeptOf(change.Db, number).FirstOrDefault(k => k.Passage == text) is { } there)
                    throw new ClashException($"It is kept as slip {there.Slip} already.", thing: Reference.To(there.Slip));
                var slip = NewSlip(change, Out(change.Db, number), text, passage.AsClaim ? SlipKind.Takeaway : SlipKind.Note);
                if (passage.AsClaim)
                    Refine(change, slip, text);
                ClosingRows.Put(change.Db, new KeptImage(number, slip, text));
                change.What = $"kept a passage of P {number} as {(passage.AsClaim ? "a claim, " : "")}slip {slip}";
                return new PassageKept(slip, text, passage.AsClaim);
            }
        );
    }

    /// <summary>Closes a piece: what was learned becomes a claim on its topics.</summary>
    public Done<Closing> Close(PieceNumber number, Once once) =>
        papers.Run(
            $"closed P {number}",
            once,
            change =>
            {
                Out(change.Db, number);
                var closing = ClosingRows.Of(change.Db, number);
                if (closing.ClosedAt is not null)
                    return closing;
                Claim(change, closing, closing with { ClosedAt = change.Now });
                return ClosingRows.Of(change.Db, number);
            }
        );

    /// <summary>Opens it again; what was kept stays.</summary>
    public Done<Closing> Reopen(PieceNumber number, Once once) =>
        papers.Run(
            $"opened P {number} again",
            once,
            change =>
            {
                var closing = ClosingRows.Of(change.Db, Out(change.Db, number).Number);
                if (closing.ClosedAt is not null)
                    ClosingRows.Put(change.Db, closing with { ClosedAt = null });
                return ClosingRows.Of(change.Db, number);
            }
        );

    /// <summary>Writes a closing, with a claim that says what was learned. A claim that its writer took further in the notes is left
    /// as it is there.</summary>
    private static void Claim(Change change, Closing before, Closing closing)
    {
        var piece = PieceRows.Get(change.Db, closing.Piece);
        if (closing.Learned.Length > 0)
            if (closing.Slip is not { } kept)
            {
                closing = closing with { Slip = NewSlip(change, piece, closing.Learned, SlipKind.Takeaway) };
                Refine(change, closing.Slip.Value, closing.Learned);
            }
            else if (SlipRows.Find(change.Db, kept) is { } slip && slip.Text == before.Learned)
            {
                change.Db.Execute(
                    "UPDATE slip SET text = @Learned, version = version + 1 WHERE number = @Slip; "
                        + "UPDATE claim SET title = @title, version = version + 1 WHERE slip = @Slip AND title = @old",
                    new
                    {
                        closing.Learned,
                        closing.Slip,
                        title = TitleOf(closing.Learned),
                        old = TitleOf(before.Learned),
                    }
                );
                Links.Write(change.Db, Reference.To(slip.Number), closing.Learned);
            }
        ClosingRows.Put(change.Db, closing);
    }

    private static SlipNumber NewSlip(Change change, Piece piece, string text, SlipKind kind) =>
        SlipRows
            .Add(
                change,
                new NewSlip(text)
                {
                    Kind = kind,
                    // What is on no topic has a decision before it still.
                    State = piece.Topics.Count > 0 ? SlipState.Kept : SlipState.Waiting,
                    Origin = Origin.Sheet,
                    OriginNote = Reference.To(piece.Number).ToString(),
                    Topics = [.. piece.Topics.Select(t => t.Number)],
                }
            )
            .Number;

    private static void Refine(Change change, SlipNumber slip, string text) =>
        change.Db.Execute("INSERT INTO claim (slip, title) VALUES (@slip, @title)", new { slip, title = TitleOf(text) });

    private static string TitleOf(string claim) => PlainText.Headline(claim, ClaimStore.LongestTitle);

    private sealed record Row
    {
        public PieceNumber Piece { get; init; }
        public ReleaseNumber Release { get; init; }
        public string Title { get; init; } = "";
        public string Format { get; init; } = "";
        public DateOnly OutOn { get; init; }
        public string Learned { get; init; } = "";
        public SlipNumber? Slip { get; init; }
        public string Otherwise { get; init; } = "";
        public DateTimeOffset? ClosedAt { get; init; }
        public int Kept { get; init; }
    }
}
