using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Bench;

internal static class DraftRows
{
    /// <summary>A piece's outline: the draft taken apart, with what hangs on each section, and the sections that are gone.</summary>
    public static (Outline Outline, int Version, DateTimeOffset ChangedAt) Read(SqliteConnection db, PieceNumber piece)
    {
        var draft =
            db.QuerySingleOrDefault<DraftRow>("SELECT text, version, changed_at FROM draft WHERE piece = @piece", new { piece })
            ?? throw new NotThereException($"P {piece}");
        var (lead, parts) = DraftText.Split(draft.Text);
        var rows = db.Query<SectionRow>(
                """
                SELECT number, aim, beat, note, settled, gone_at, title, depth, body,
                    (SELECT count(*) FROM material m WHERE m.section = s.number OR (m.was_in = s.number AND m.section IS NULL)) AS material
                FROM section s WHERE piece = @piece ORDER BY gone_at IS NOT NULL, position, gone_at DESC
                """,
                new { piece }
            )
            .ToList();
        var sections = parts.Zip(rows.Where(r => r.GoneAt is null), (part, row) => row.Under(part));
        var gone = rows.Where(r => r.GoneAt is not null).OrderByDescending(r => r.GoneAt).Select(row => row.Under(row.Part));
        return (new Outline(lead, [.. sections]) { Gone = [.. gone] }, draft.Version, draft.ChangedAt);
    }

    /// <summary>Words of a draft as it was kept last.</summary>
    public static int Words(SqliteConnection db, PieceNumber piece) =>
        db.ExecuteScalar<int>("SELECT words FROM draft WHERE piece = @piece", new { piece });

    /// <summary>Keeps an outline: the draft's text, one row a section, and the links. Material of a section that is gone lies loose until
    /// the section comes back.</summary>
    public static void Write(Change change, PieceNumber piece, Outline outline)
    {
        var db = change.Db;
        var text = Check.Length("text", outline.Text, DraftText.Longest);
        var kept = outline.Reread();
        var (before, _, changedAt) = Read(db, piece);
        VersionRows.BeforeWriting(change, piece, before.Text, changedAt, text);
        var words = DraftText.Counted(text).Words;
        db.Execute(
            "UPDATE draft SET text = @text, words = @words, changed_at = @Now, version = version + 1 WHERE piece = @piece",
            new
            {
                text,
                words,
                change.Now,
                piece,
            }
        );
        for (var position = 0; position < kept.Sections.Count; position++)
        {
            var section = kept.Sections[position];
            db.Execute(
                section.Number is null
                    ? "INSERT INTO section (piece, position, aim, beat, note, settled) "
                        + "VALUES (@piece, @position, @Aim, @Beat, @Note, @IsSettled)"
                    : "UPDATE section SET position = @position, aim = @Aim, beat = @Beat, note = @Note, settled = @IsSettled, "
                        + "gone_at = NULL, title = '', depth = 1, body = '' WHERE number = @Number",
                new
                {
                    piece,
                    position,
                    section.Aim,
                    section.Beat,
                    section.Note,
                    section.IsSettled,
                    section.Number,
                }
            );
        }
        MarkRows.Follow(db, piece, before, kept);
        SetAside(change, piece, before, kept);
        Links.Write(db, Reference.To(piece), text);
        Renaming.Reheaded(change, Reference.To(piece), before.HeadingsChangedIn(kept));
    }

    /// <summary>Keeps what went with its heading and text, and brings back what hung on what came back.</summary>
    private static void SetAside(Change change, PieceNumber piece, Outline before, Outline kept)
    {
        var db = change.Db;
        var known = before.Sections.Concat(before.Gone).Select(s => s.Number!.Value).ToHashSet();
        var here = kept.Sections.Where(s => s.Number is not null).Select(s => s.Number!.Value).ToHashSet();
        var wasGone = before.Gone.Select(s => s.Number!.Value).ToHashSet();
        foreach (var section in kept.Gone.Where(s => !wasGone.Contains(s.Number!.Value)))
            db.Execute(
                """
                UPDATE section SET gone_at = @Now, title = @Title, depth = @Depth, body = @Body WHERE number = @Number;
                UPDATE material SET was_in = section, section = NULL WHERE piece = @piece AND section = @Number;
                """,
                new
                {
                    change.Now,
                    section.Title,
                    section.Depth,
                    section.Part.Body,
                    section.Number,
                    piece,
                }
            );
        foreach (var number in here.Where(wasGone.Contains))
            db.Execute(
                "UPDATE material SET section = was_in, was_in = NULL WHERE piece = @piece AND section IS NULL AND was_in = @number",
                new { piece, number }
            );
        var still = kept.Gone.Select(s => s.Number!.Value).ToHashSet();
        foreach (var number in known.Where(n => !here.Contains(n) && !still.Contains(n)))
            db.Execute(
                """
                UPDATE material SET section = NULL WHERE section = @number;
                UPDATE material SET was_in = NULL WHERE was_in = @number;
                UPDATE piece_reference SET section = NULL WHERE section = @number;
                DELETE FROM piece_mark WHERE section = @number;
                DELETE FROM section WHERE number = @number;
                """,
                new { number }
            );
    }

    /// <summary>The sections kept beside a piece, as they go out with its papers, the latest first.</summary>
    public static IReadOnlyList<(SectionNumber Number, GoneImage Image)> Gone(SqliteConnection db, PieceNumber piece) =>
        [
            .. db.Query<SectionRow>(
                    "SELECT number, aim, beat, note, settled, gone_at, title, depth, body FROM section "
                        + "WHERE piece = @piece AND gone_at IS NOT NULL ORDER BY gone_at DESC, position",
                    new { piece }
                )
                .Select(r => (r.Number, new GoneImage(r.Title, r.Depth, r.Body, r.Aim, r.Beat, r.GoneAt!.Value, r.Note, r.Settled))),
        ];

    /// <summary>Puts a section beside a piece; its number.</summary>
    public static int PutGone(SqliteConnection db, PieceNumber piece, GoneImage gone) =>
        db.ExecuteScalar<int>(
            """
            INSERT INTO section (piece, position, aim, beat, note, settled, gone_at, title, depth, body)
            VALUES (@piece, 0, @Aim, @Beat, @Note, @IsSettled, @At, @Title, @Depth, @Body) RETURNING number
            """,
            new
            {
                piece,
                gone.Aim,
                gone.Beat,
                gone.Note,
                gone.IsSettled,
                gone.At,
                gone.Title,
                gone.Depth,
                gone.Body,
            }
        );

    private sealed record DraftRow
    {
        public string Text { get; init; } = "";
        public int Version { get; init; }
        public DateTimeOffset ChangedAt { get; init; }
    }

    private sealed record SectionRow
    {
        public SectionNumber Number { get; init; }
        public int? Aim { get; init; }
        public string Beat { get; init; } = "";
        public string Note { get; init; } = "";
        public bool Settled { get; init; }
        public DateTimeOffset? GoneAt { get; init; }
        public string Title { get; init; } = "";
        public int Depth { get; init; }
        public string Body { get; init; } = "";
        public int Material { get; init; }

        /// <summary>The heading and text it had when it went.</summary>
        public DraftPart Part => DraftPart.Empty(Title, Depth).With(Body);

        public Section Under(DraftPart part) => new(Number, part, Aim, Beat, Material) { Note = Note, IsSettled = Settled };
    }
}
