using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Papers;
using Nachlass.Store.Text;

namespace Nachlass.Store.Bench;

/// <summary>A section to be added.</summary>
public sealed record NewSection(
    string? Title,
    int? Version = null,
    SectionNumber? After = null,
    int Depth = 1,
    int? Aim = null,
    string? Beat = null
);

/// <summary>A change to a section; what is not set stays.</summary>
public sealed record SectionChange
{
    public int? Version { get; init; }
    public string? Title { get; init; }
    public Maybe<int?> Aim { get; init; }
    public string? Beat { get; init; }
}

/// <summary>Where a section goes: before another one, or to the end; and how deep.</summary>
public sealed record SectionMove(int? Version, SectionNumber? Before, int Depth);

/// <summary>Reads and writes a piece's draft and outline, which share one version.</summary>
public sealed class DraftStore(PapersFile papers)
{
    /// <summary>Saves that follow each other within this time are one step in the history.</summary>
    private static readonly TimeSpan OneStretch = TimeSpan.FromMinutes(5);

    /// <summary>A text as it goes out, with the slips it stands for written out.</summary>
    public string WrittenOut(string text) => papers.Read(db => Links.WrittenOut(db, text));

    public Draft Get(PieceNumber piece) => papers.Read(db => Of(db, piece));

    private static Draft Of(SqliteConnection db, PieceNumber piece)
    {
        var (outline, version, changedAt) = DraftRows.Read(db, piece);
        var material = db.Query<(int Section, int Count)>(
                "SELECT section, count(*) FROM material WHERE piece = @piece AND section IS NOT NULL GROUP BY section",
                new { piece }
            )
            .ToDictionary(r => r.Section, r => r.Count);
        var counts = Counts.Of(outline.Lead);
        var at = outline.Lead.Length;
        var sections = new List<SectionFigures>();
        foreach (var section in outline.Sections)
        {
            var own = Counts.Of(section.Part.Body);
            counts += own;
            sections.Add(
                new SectionFigures(
                    section.Number!.Value,
                    section.Title,
                    section.Depth,
                    section.Aim,
                    section.Beat,
                    own,
                    material.GetValueOrDefault(section.Number!.Value.Value),
                    at
                )
            );
            at += section.Part.Raw.Length;
        }
        return new Draft(piece, version, outline.Text, counts, sections, changedAt);
    }

    /// <summary>Saves the draft's text.</summary>
    /// <exception cref="StaleException">It was saved elsewhere since; holds that draft.</exception>
    public Done<Draft> Save(PieceNumber piece, string? text, int? version, Once once)
    {
        var next = Check.Length("text", text ?? throw new BadInputException("text", "The text is missing."), DraftText.Longest);
        var based = Check.Version(version);
        return papers.Run(
            $"wrote in P {piece}",
            once,
            change =>
            {
                var (outline, current, _) = DraftRows.Read(change.Db, piece);
                // The same text again, as after a lost answer, is no quarrel.
                if (outline.Text == next)
                    return Of(change.Db, piece);
                if (current != based)
                    throw new StaleException($"The draft of P {piece}", Of(change.Db, piece));
                var kept = outline.Rewrite(next);
                // What follows into other texts is a step of its own, so that it can be taken back.
                if (Renaming.Leading(change.Db, Reference.To(piece), outline.HeadingsChangedIn(kept)).Count == 0)
                    JoinStretch(change, piece);
                DraftRows.Write(change, piece, kept);
                ForgetBetween(change, piece);
                return Of(change.Db, piece);
            }
        );
    }

    /// <summary>Adds a section at the end, or after one and its children.</summary>
    public Done<Draft> AddSection(PieceNumber piece, NewSection made, Once once)
    {
        var title = SectionTitle(made.Title);
        CheckAim(made.Aim);
        var beat = Check.Length("beat", made.Beat?.Trim(), 80);
        return Changed(
            piece,
            made.Version,
            $"added a section to P {piece}",
            once,
            outline =>
                outline.Add(
                    new Section(null, DraftPart.Empty(title, Math.Clamp(made.Depth, 1, DraftText.Deepest)), made.Aim, beat),
                    made.After
                )
        );
    }

    /// <summary>Renames a section, or sets its aim or beat.</summary>
    public Done<Draft> EditSection(PieceNumber piece, SectionNumber number, SectionChange edit, Once once)
    {
        var title = edit.Title is null ? null : SectionTitle(edit.Title);
        CheckAim(edit.Aim.Value);
        Check.Length("beat", edit.Beat, 80);
        return Changed(
            piece,
            edit.Version,
            $"changed a section of P {piece}",
            once,
            outline =>
            {
                var section = outline.Family(number)[0];
                var changed = outline.Change(number, title ?? section.Title, edit.Aim.Or(section.Aim), edit.Beat?.Trim() ?? section.Beat);
                // Links to it from within the draft follow too.
                return outline
                    .HeadingsChangedIn(changed)
                    .Aggregate(
                        changed,
                        (next, heading) => next.Rewrite(Mentions.PartRenamed(next.Text, Reference.To(piece), [], heading.Old, heading.New))
                    );
            }
        );
    }

    /// <summary>Moves a section with its children and all their text.</summary>
    public Done<Draft> MoveSection(PieceNumber piece, SectionNumber number, SectionMove move, Once once) =>
        Changed(piece, move.Version, $"moved a section of P {piece}", once, outline => outline.Move(number, move.Before, move.Depth));

    /// <summary>Deletes a section with its children and all their text; their material becomes loose.</summary>
    public Done<Draft> RemoveSection(PieceNumber piece, SectionNumber number, int? version, Once once) =>
        Changed(piece, version, $"deleted a section of P {piece}", once, outline => outline.Remove(number));

    private Done<Draft> Changed(PieceNumber piece, int? version, string what, Once once, Func<Outline, Outline> act)
    {
        var based = Check.Version(version);
        return papers.Run(
            what,
            once,
            change =>
            {
                var (outline, current, _) = DraftRows.Read(change.Db, piece);
                if (current != based)
                    throw new StaleException($"The draft of P {piece}", Of(change.Db, piece));
                DraftRows.Write(change, piece, act(outline));
                return Of(change.Db, piece);
            }
        );
    }

    /// <summary>Goes on under the command of the save just before, so that an afternoon of writing is not a thousand steps.</summary>
    private static void JoinStretch(Change change, PieceNumber piece)
    {
        var last = change.Db.QueryFirstOrDefault<(int Number, DateTimeOffset At, string What)?>(
            """
            SELECT number, at, what FROM command WHERE undone_by IS NULL AND number =
                (SELECT max(command) FROM undo_log WHERE tbl = 'draft' AND row = @piece)
            """,
            new { piece }
        );
        if (last is not { } stretch || stretch.What != change.What || change.Now - stretch.At > OneStretch)
            return;
        change.Db.Execute("UPDATE undo_now SET command = @Number", new { stretch.Number });
        change.JoinedTo = CommandNumber.Of(stretch.Number);
    }

    /// <summary>Within a stretch only the text before its first save is kept to go back to.</summary>
    private static void ForgetBetween(Change change, PieceNumber piece)
    {
        if (change.JoinedTo is not { } stretch)
            return;
        change.Db.Execute(
            """
            DELETE FROM undo_log WHERE command = @stretch AND tbl = 'draft' AND row = @piece
                AND id > (SELECT min(id) FROM undo_log WHERE command = @stretch AND tbl = 'draft' AND row = @piece)
            """,
            new { stretch, piece }
        );
    }

    private static string SectionTitle(string? title)
    {
        var clean = Check.Text("title", title, Section.LongestTitle);
        return clean.Contains('\n', StringComparison.Ordinal)
            ? throw new BadInputException("title", "A section's title is one line.")
            : clean;
    }

    private static void CheckAim(int? aim)
    {
        if (aim is < 0 or > Section.MostAim)
            throw new BadInputException("aim", $"An aim is between 0 and {Section.MostAim:N0} words.");
    }
}
