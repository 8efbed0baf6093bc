using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Bench;

internal static class DraftRows
{
    /// <summary>A piece's outline: the draft taken apart, with each section's number, aim and beat.</summary>
    public static (Outline Outline, int Version, DateTimeOffset ChangedAt) Read(SqliteConnection db, PieceNumber piece)
    {
        var draft =
            db.QuerySingleOrDefault<DraftRow>("SELECT text, version, changed_at FROM draft WHERE piece = @piece", new { piece })
            ?? throw new NotThereException($"P {piece}");
        var (lead, parts) = DraftText.Split(draft.Text);
        var rows = db.Query<SectionRow>("SELECT number, aim, beat FROM section WHERE piece = @piece ORDER BY position", new { piece })
            .ToList();
        return (
            new Outline(lead, [.. parts.Zip(rows, (part, row) => new Section(row.Number, part, row.Aim, row.Beat))]),
            draft.Version,
            draft.ChangedAt
        );
    }

    /// <summary>Keeps an outline: the draft's text, one row a section, and the links. Material of a section that is gone becomes
    /// loose.</summary>
    public static void Write(Change change, PieceNumber piece, Outline outline)
    {
        var db = change.Db;
        var text = Check.Length("text", outline.Text, DraftText.Longest);
        // What was put together is read once more as it will be read: a code fence left open can swallow the heading after it.
        var kept = outline.Rewrite(text);
        var before = Read(db, piece).Outline;
        var words = (
            Counts.Of(kept.Lead) + kept.Sections.Select(s => Counts.Of(s.Part.Body)).Aggregate(Counts.None, (a, b) => a + b)
        ).Words;
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
        var stay = kept.Sections.Where(s => s.Number is not null).Select(s => s.Number!.Value.Value).ToList();
        db.Execute(
            """
            UPDATE material SET section = NULL WHERE piece = @piece AND section IS NOT NULL AND section NOT IN @stay;
            DELETE FROM section WHERE piece = @piece AND number NOT IN @stay;
            """,
            new { piece, stay }
        );
        for (var position = 0; position < kept.Sections.Count; position++)
        {
            var section = kept.Sections[position];
            db.Execute(
                section.Number is null
                    ? "INSERT INTO section (piece, position, aim, beat) VALUES (@piece, @position, @Aim, @Beat)"
                    : "UPDATE section SET position = @position, aim = @Aim, beat = @Beat WHERE number = @Number",
                new
                {
                    piece,
                    position,
                    section.Aim,
                    section.Beat,
                    section.Number,
                }
            );
        }
        Links.Write(db, Reference.To(piece), text);
        Renaming.Reheaded(change, Reference.To(piece), before.HeadingsChangedIn(kept));
    }

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
    }
}
