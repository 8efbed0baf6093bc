using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Reuse;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Bench;
using Nachlass.Store.Papers;
using Nachlass.Store.Plan;

namespace Nachlass.Store.Catalogue.Reuse;

/// <summary>A piece that went out and is used again.</summary>
/// <param name="Marked">How many of its passages are chosen and not made into anything yet.</param>
/// <param name="Made">How many pieces came of it.</param>
/// <param name="Cuts">How many cuts there are of it.</param>
/// <param name="IsDue">Whether it went out lately and is not done.</param>
public sealed record ReuseLine(
    PieceNumber Piece,
    ReleaseNumber Release,
    string Title,
    string FormatName,
    DateOnly OutOn,
    int Marked,
    int Made,
    int Cuts,
    DateTimeOffset? DoneAt,
    bool IsDue
);

/// <summary>A paragraph of what went out.</summary>
/// <param name="Marked">The mark it was chosen by; null where it is not chosen.</param>
/// <param name="Format">Key of the format it is chosen as.</param>
/// <param name="FromMs">Where it begins when the text is spoken, in milliseconds.</param>
public sealed record ReuseParagraph(string Text, int Characters, UsableNumber? Marked, string? Format, int FromMs, int ToMs);

/// <summary>One of a family.</summary>
/// <param name="OutletNames">Where it went out; none while it is in hand.</param>
public sealed record RelativeShown(
    PieceNumber Piece,
    string Title,
    string FormatName,
    string Stage,
    DateOnly? OutOn,
    IReadOnlyList<string> OutletNames,
    int Depth,
    CameHow? How
);

/// <summary>A piece, as it is used again.</summary>
/// <param name="IsSpoken">Whether it is said aloud, so that cuts can be made of its recording.</param>
/// <param name="Gone">Passages that were chosen and do not stand in it any more.</param>
public sealed record ReuseShown(
    PieceNumber Piece,
    ReleaseNumber Release,
    string Title,
    string FormatName,
    DateOnly OutOn,
    bool IsSpoken,
    IReadOnlyList<ReuseParagraph> Paragraphs,
    int Gone,
    IReadOnlyList<Cut> Cuts,
    IReadOnlyList<RelativeShown> Family,
    DateTimeOffset? DoneAt
);

/// <summary>A cut to be made or changed; what is not set stays.</summary>
/// <param name="From">Where it begins, as typed.</param>
/// <param name="To">Where it ends, as typed.</param>
/// <param name="FromMs">The same in milliseconds, where it was not typed.</param>
public sealed record CutChange(
    string? Title = null,
    string? From = null,
    string? To = null,
    string? Passage = null,
    int? FromMs = null,
    int? ToMs = null,
    int? Version = null
);

/// <summary>As what a cut is made.</summary>
/// <param name="Format">Key of the format; the one of posts when left out.</param>
public sealed record CutMade(string? Format = null);

/// <summary>Uses again what went out: passages, short ones, clips and cuts, and what came of what.</summary>
public sealed class ReuseStore(PapersFile papers)
{
    /// <summary>A piece whose format is used again is asked about for so many days; <see cref="Closing.Fresh"/>.</summary>
    private const int Fresh = Closing.Fresh;

    private static readonly string[] Spoken = ["audio", "talk", "film", "interview"];

    /// <summary>All that entered the second flow, the latest first.</summary>
    public IReadOnlyList<ReuseLine> List() =>
        papers.Read(db =>
        {
            var formats = FormatRows.All(db);
            return (IReadOnlyList<ReuseLine>)
                [
                    .. db.Query<LineRow>(
                            """
                            SELECT p.number AS piece, p.title, p.format, p.out_on, u.done_at,
                                (SELECT max(r.number) FROM release r WHERE r.piece = p.number) AS release,
                                (SELECT count(*) FROM usable m WHERE m.used_at IS NULL AND m.in_kind = 'piece' AND m.in_number = p.number)
                                    AS marked,
                                (SELECT count(*) FROM came_of c JOIN piece k ON k.number = c.piece AND k.trashed_at IS NULL
                                    WHERE c.of_piece = p.number) AS made,
                                (SELECT count(*) FROM cut x WHERE x.piece = p.number) AS cuts
                            FROM piece p LEFT JOIN reused u ON u.piece = p.number
                            WHERE p.out_on IS NOT NULL AND p.trashed_at IS NULL
                                AND EXISTS (SELECT 1 FROM release r WHERE r.piece = p.number)
                            ORDER BY p.out_on DESC, p.number DESC
                            """
                        )
                        .Select(r => (Row: r, Format: formats.Named(r.Format)))
                        .Where(r => r.Format.IsReused || r.Row.Marked + r.Row.Made + r.Row.Cuts > 0 || r.Row.DoneAt is not null)
                        .Select(r => new ReuseLine(
                            r.Row.Piece,
                            r.Row.Release,
                            r.Row.Title,
                            r.Format.Name,
                            r.Row.OutOn,
                            r.Row.Marked,
                            r.Row.Made,
                            r.Row.Cuts,
                            r.Row.DoneAt,
                            r.Row.DoneAt is null && (r.Row.Marked > 0 || (r.Format.IsReused && r.Row.OutOn.AddDays(Fresh) >= papers.Today))
                        )),
                ];
        });

    /// <exception cref="NotThereException">There is no such piece.</exception>
    /// <exception cref="ClashException">It has not gone out.</exception>
    public ReuseShown Get(PieceNumber number) =>
        papers.Read(db =>
        {
            var (piece, release) = Out(db, number);
            var format = FormatRows.Named(db, piece.Format);
            var marked = db.Query<(int Number, string Paragraph, string Format)>(
                    "SELECT number, paragraph, as_format FROM usable WHERE used_at IS NULL AND in_kind = 'piece' AND in_number = @number",
                    new { number }
                )
                .ToList();
            var now = Paragraphs.Of(DraftRows.Read(db, number).Outline.Text).ToList();
            // A chosen passage is known by its wording of now.
            var found = marked
                .Select(m => (Mark: m, Text: Following.Of(m.Paragraph, now)))
                .Where(m => m.Text is not null)
                .GroupBy(m => m.Text!)
                .ToDictionary(g => g.Key, g => g.First().Mark);
            var before = 0;
            return new ReuseShown(
                number,
                release.Number,
                piece.Title,
                format.Name,
                piece.OutOn ?? release.OutOn,
                Spoken.Contains(piece.Format),
                [
                    .. now.Select(text =>
                    {
                        var counts = Counts.Of(text);
                        var from = before;
                        before += counts.Words;
                        return new ReuseParagraph(
                            text,
                            counts.Characters,
                            found.TryGetValue(text, out var mark) ? UsableNumber.Of(mark.Number) : null,
                            found.TryGetValue(text, out var as_) ? as_.Format : null,
                            ReadingPace.Seconds(from, ReadingPace.Aloud) * 1_000,
                            ReadingPace.Seconds(before, ReadingPace.Aloud) * 1_000
                        );
                    }),
                ],
                marked.Count - found.Count,
                ReuseRows.Cuts(db, "piece = @number", new { number }),
                FamilyOf(db, number),
                ReuseRows.DoneAt(db, number)
            );
        });

    /// <summary>What came of what around a piece; the piece alone where nothing did.</summary>
    public IReadOnlyList<RelativeShown> FamilyOf(PieceNumber number) =>
        papers.Read(db =>
        {
            PieceRows.Get(db, number);
            return FamilyOf(db, number);
        });

    private static IReadOnlyList<RelativeShown> FamilyOf(SqliteConnection db, PieceNumber number)
    {
        var family = Family.Of(number, ReuseRows.AllCame(db));
        var pieces = PieceRows
            .List(
                db,
                "p.trashed_at IS NULL AND p.number IN (SELECT value FROM json_each(@numbers))",
                new { numbers = Mapping.List(family.Select(f => f.Piece.Value)) }
            )
            .ToDictionary(p => p.Number);
        var formats = FormatRows.All(db);
        var outlets = OutletRows.All(db).ToDictionary(o => o.Number, o => o.Name);
        return
        [
            .. family
                .Where(f => pieces.ContainsKey(f.Piece))
                .Select(f =>
                {
                    var piece = pieces[f.Piece];
                    return new RelativeShown(
                        f.Piece,
                        piece.Title,
                        formats.Named(piece.Format).Name,
                        piece.Stage,
                        piece.OutOn,
                        [
                            .. ReleaseRows
                                .Of(db, f.Piece)
                                .Select(r => r.Outlet)
                                .OfType<Core.Plan.OutletNumber>()
                                .Distinct()
                                .Select(o => outlets[o]),
                        ],
                        f.Depth,
                        f.How
                    );
                }),
        ];
    }

    private static (Piece Piece, Release Release) Out(SqliteConnection db, PieceNumber number)
    {
        var piece = PieceRows.Get(db, number);
        return piece.OutOn is not null && ReleaseRows.Of(db, number) is [var release, ..]
            ? (piece, release)
            : throw new ClashException($"P {number} has not gone out; it is used again when it has.");
    }

    /// <summary>Says that all that was wanted has been made of a piece, or that there is more.</summary>
    public Done<bool> SetDone(PieceNumber number, bool done, Once once) =>
        papers.Run(
            done ? $"said that P {number} is used up" : $"took up P {number} again",
            once,
            change =>
            {
                Out(change.Db, number);
                ReuseRows.SetDone(change.Db, number, done ? change.Now : null);
                return done;
            }
        );

    /// <summary>Cuts a stretch out of a piece's recording.</summary>
    public Done<Cut> Add(PieceNumber number, CutChange made, Once once)
    {
        var title = Check.Text("title", made.Title, Cut.LongestTitle);
        var passage = Check.Length("passage", made.Passage?.Trim(), Cut.LongestPassage);
        var (from, to) = Times(made, null);
        return papers.Run(
            $"cut a stretch of P {number}",
            once,
            change =>
            {
                PieceRows.Get(change.Db, number);
                return ReuseRows.Get(change.Db, ReuseRows.Put(change.Db, new Cut(default, number, title, from, to, passage)));
            }
        );
    }

    public Done<Cut> Edit(CutNumber number, CutChange edit, Once once)
    {
        var based = Check.Version(edit.Version);
        var title = edit.Title is null ? null : Check.Text("title", edit.Title, Cut.LongestTitle);
        var passage = edit.Passage is null ? null : Check.Length("passage", edit.Passage.Trim(), Cut.LongestPassage);
        return papers.Run(
            $"changed cut {number}",
            once,
            change =>
            {
                var cut = ReuseRows.Get(change.Db, number);
                if (cut.Version != based)
                    throw new StaleException($"cut {number}", cut);
                var (from, to) = Times(edit, cut);
                change.Db.Execute(
                    "UPDATE cut SET title = @title, from_ms = @from, to_ms = @to, passage = @passage, version = version + 1 "
                        + "WHERE number = @number",
                    new
                    {
                        number,
                        title = title ?? cut.Title,
                        from,
                        to,
                        passage = passage ?? cut.Passage,
                    }
                );
                return ReuseRows.Get(change.Db, number);
            }
        );
    }

    private static (int From, int To) Times(CutChange typed, Cut? before)
    {
        var from = typed.From is not null ? CutTimes.Read("from", typed.From) : typed.FromMs ?? before?.FromMs ?? 0;
        var to = typed.To is not null
            ? CutTimes.Read("to", typed.To)
            : typed.ToMs ?? before?.ToMs ?? throw new BadInputException("to", "Say where it ends, such as 1:02.");
        if (from is < 0 or > Cut.LastMs)
            throw new BadInputException("from", "It begins in a recording of a day at most.");
        if (to <= from || to > Cut.LastMs)
            throw new BadInputException("to", $"It ends after {CutTimes.Said(from)}, where it begins.");
        return (from, to);
    }

    public Done<Cut> Remove(CutNumber number, Once once) =>
        papers.Run(
            $"took cut {number} away",
            once,
            change =>
            {
                var cut = ReuseRows.Get(change.Db, number);
                change.Db.Execute("DELETE FROM cut WHERE number = @number", new { number });
                return cut;
            }
        );

    /// <summary>Begins a piece for a cut, with what is said in it and its times.</summary>
    public Done<PieceNumber> Make(CutNumber number, CutMade made, Once once) =>
        papers.Run(
            $"made a piece of cut {number}",
            once,
            change =>
            {
                var cut = ReuseRows.Get(change.Db, number);
                var of = PieceRows.Get(change.Db, cut.Piece);
                var formats = FormatRows.All(change.Db);
                var format = made.Format is null ? formats.ForPosts : formats.Named(made.Format);
                var piece = PieceRows.Start(
                    change,
                    cut.Title,
                    format,
                    $"{cut.From} to {cut.To} of P {cut.Piece}",
                    [.. of.Topics.Select(t => t.Number)]
                );
                if (cut.Passage.Length > 0)
                {
                    var outline = DraftRows.Read(change.Db, piece).Outline;
                    DraftRows.Write(
                        change,
                        piece,
                        outline.Sections.Count == 0 ? outline with { Lead = cut.Passage + "\n" } : outline.BeginWith(cut.Passage)
                    );
                }
                ReuseRows.CameOf(change.Db, new CameOf(piece, cut.Piece, CameHow.Cut));
                change.What = $"made P {piece} of a cut of P {cut.Piece}";
                return piece;
            }
        );

    private sealed record LineRow
    {
        public PieceNumber Piece { get; init; }
        public ReleaseNumber Release { get; init; }
        public string Title { get; init; } = "";
        public string Format { get; init; } = "";
        public DateOnly OutOn { get; init; }
        public int Marked { get; init; }
        public int Made { get; init; }
        public int Cuts { get; init; }
        public DateTimeOffset? DoneAt { get; init; }
    }
}
