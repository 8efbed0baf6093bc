using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
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
    public string? Note { get; init; }
    public bool? Settled { get; init; }
}

/// <summary>What becomes of several sections at once.</summary>
public enum SeveralAct
{
    Up,
    Down,
    In,
    Out,
    Settle,
    Unsettle,
    Remove,
}

/// <summary>Something done to several sections, as one step.</summary>
public sealed record SeveralSections(int? Version, IReadOnlyList<SectionNumber>? Sections, SeveralAct? Act);

/// <summary>What was changed in a draft since a version of it.</summary>
/// <param name="Changes">In order, none over another.</param>
/// <param name="Hash">Of the text they lead to (<see cref="TextChanges.Hash"/>).</param>
/// <param name="Anchors">Where its sections begin then, as an editor followed them; null when nobody did.</param>
/// <param name="Pasted">Words of it that came by pasting or dropping.</param>
public sealed record DraftChange(
    int? Version,
    IReadOnlyList<TextChange>? Changes,
    int? Hash = null,
    IReadOnlyList<Anchor>? Anchors = null,
    int Pasted = 0
);

/// <summary>A place in the draft where a section is split, in UTF-16 units, and what the part behind it is called.</summary>
public sealed record SectionSplit(int? Version, int At, string? Title = null);

/// <summary>Where a section goes: before another one, or to the end; and how deep.</summary>
/// <param name="With">Other sections that go with it, in the order of the outline.</param>
public sealed record SectionMove(int? Version, SectionNumber? Before, int Depth, IReadOnlyList<SectionNumber>? With = null);

/// <summary>A slip that is to stand in the draft.</summary>
/// <param name="Slip">The slip.</param>
/// <param name="As">As a quotation or as running text.</param>
/// <param name="Version">The version of the draft it goes into.</param>
/// <param name="At">Where the cursor stands, in UTF-16 units; null when it was never in the draft.</param>
/// <param name="Section">The section in which the cursor stands where there is no text yet; it goes there then.</param>
public sealed record InsertionRequest(SlipNumber? Slip, InsertAs? As, int? Version, int? At = null, SectionNumber? Section = null);

/// <summary>The draft with a slip in it.</summary>
/// <param name="Draft">The draft.</param>
/// <param name="Start">Where what was put in begins, in UTF-16 units.</param>
/// <param name="End">Where it ends.</param>
/// <param name="Section">The section it stands in; null before the first heading.</param>
public sealed record Inserted(Draft Draft, int Start, int End, SectionNumber? Section);

/// <summary>What a step back or forward did.</summary>
/// <param name="What">In words.</param>
/// <param name="Draft">The draft as it is now.</param>
public sealed record Stepped(string What, Draft Draft);

/// <summary>Reads and writes a piece's draft and outline, which share one version. Each save is a step of its own.</summary>
public sealed class DraftStore(PapersFile papers, HistoryStore history)
{
    /// <summary>As many sections as one step takes.</summary>
    private const int MostSections = 2_000;

    public Draft Get(PieceNumber piece) => papers.Read(db => Of(db, piece));

    internal static Draft Of(SqliteConnection db, PieceNumber piece)
    {
        var (outline, version, changedAt) = DraftRows.Read(db, piece);
        var limits = FormatRows
            .Named(db, db.ExecuteScalar<string>("SELECT format FROM piece WHERE number = @piece", new { piece })!)
            .Limits;
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
                    section.Material,
                    at,
                    section.Note,
                    section.IsSettled,
                    limits.Part is { } part ? Measure.Of(section.Part.Body, part, limits) : null
                )
            );
            at += section.Part.Raw.Length;
        }
        var gone = outline.Gone.Select(s => new GoneSection(
            s.Number!.Value,
            s.Title,
            Counts.Of(s.Part.Body).Words,
            PlainText.Headline(s.Part.Body)
        ));
        return new Draft(piece, version, outline.Text, counts, sections, changedAt)
        {
            Gone = [.. gone],
            Measured = limits.Whole is { } whole
                ? Measure.Of(string.Join("\n\n", outline.Sections.Select(s => s.Part.Body).Prepend(outline.Lead)), whole, limits)
                : null,
        };
    }

    /// <summary>Saves the draft's text.</summary>
    /// <param name="piece">The piece.</param>
    /// <param name="text">The text.</param>
    /// <param name="version">The version it is based on.</param>
    /// <param name="anchors">Where the editor, which followed them, says the sections begin; null when nobody did.</param>
    /// <param name="once">The request.</param>
    /// <exception cref="StaleException">It was saved elsewhere since; holds that draft.</exception>
    public Done<Draft> Save(PieceNumber piece, string? text, int? version, Once once, IReadOnlyList<Anchor>? anchors = null)
    {
        var next = Check.Length("text", text ?? throw new BadInputException("text", "The text is missing."), DraftText.Longest);
        return Written(piece, Check.Version(version), once, anchors, (outline, _) => next);
    }

    /// <summary>Saves the draft as what was changed in it since a version.</summary>
    /// <returns>The draft without its text, which the sender has.</returns>
    /// <exception cref="StaleException">It was saved elsewhere since; holds that draft.</exception>
    /// <exception cref="BadInputException">The changes do not lead to the text they should; it has to be sent whole.</exception>
    public Done<Draft> Change(PieceNumber piece, DraftChange changed, Once once)
    {
        var based = Check.Version(changed.Version);
        var changes = changed.Changes ?? throw new BadInputException("changes", "The changes are missing.");
        var done = Written(
            piece,
            based,
            once,
            changed.Anchors,
            (draft, current) =>
            {
                // After a lost answer the same changes come again; they have been made then.
                if (current != based)
                    return changed.Hash is { } same && TextChanges.Hash(draft) == same ? draft : null;
                var next = Check.Length("text", TextChanges.Apply(draft, changes), DraftText.Longest);
                if (changed.Hash is { } hash && TextChanges.Hash(next) != hash)
                    throw new BadInputException("hash", "The changes do not lead to the text that was meant; send it whole.");
                return next;
            },
            withText: false,
            pasted: changed.Pasted
        );
        return done;
    }

    /// <param name="write">The next text from the one there is and its version; null when it does not go on from there.</param>
    private Done<Draft> Written(
        PieceNumber piece,
        int based,
        Once once,
        IReadOnlyList<Anchor>? anchors,
        Func<string, int, string?> write,
        bool withText = true,
        int pasted = 0
    ) =>
        papers.Run(
            $"wrote in P {piece}",
            once,
            change =>
            {
                var (outline, current, _) = DraftRows.Read(change.Db, piece);
                var next = write(outline.Text, current);
                // The same text again, as after a lost answer, is no quarrel.
                if (outline.Text != next)
                {
                    if (next is null || current != based)
                        throw new StaleException($"The draft of P {piece}", Of(change.Db, piece));
                    change.OnPiece = piece;
                    var before = DraftRows.Words(change.Db, piece);
                    DraftRows.Write(change, piece, outline.Rewrite(next, anchors));
                    SittingStore.Wrote(change, piece, before, DraftRows.Words(change.Db, piece), pasted);
                }
                var draft = Of(change.Db, piece);
                return withText ? draft : draft with { Text = "" };
            }
        );

    /// <summary>Takes back the latest step on the piece's page.</summary>
    public Done<Stepped> Back(PieceNumber piece, Once once) => After(piece, history.StepBack(piece, once));

    /// <summary>Does again the step that was taken back last.</summary>
    public Done<Stepped> Forward(PieceNumber piece, Once once) => After(piece, history.StepForward(piece, once));

    /// <summary>Takes back, step by step, everything on the piece's page from a command on.</summary>
    public Done<Stepped> BackTo(PieceNumber piece, CommandNumber command, Once once)
    {
        var done = history.StepBackTo(piece, command, once);
        var what = done.Answer == 1 ? "went back one step" : $"went back {done.Answer} steps";
        return new Done<Stepped>(done.Command, new Stepped(what, Get(piece)));
    }

    private Done<Stepped> After(PieceNumber piece, Done<HistoryLine> step) => new(step.Command, new Stepped(step.Answer.What, Get(piece)));

    /// <summary>
    /// Puts a slip into the draft: at the end of the section where it is placed, else at the cursor, else at the end; and places it where
    /// it then stands, unless it is placed already.
    /// </summary>
    public Done<Inserted> Insert(PieceNumber piece, InsertionRequest asked, Once once)
    {
        var slip = asked.Slip ?? throw new BadInputException("slip", "Name the slip that goes in.");
        var how = asked.As ?? throw new BadInputException("as", "A slip goes in as a quotation or as text.");
        var based = Check.Version(asked.Version);
        return papers.Run(
            $"put slip {slip} into P {piece}",
            once,
            change =>
            {
                var db = change.Db;
                var (outline, current, _) = DraftRows.Read(db, piece);
                if (current != based)
                    throw new StaleException($"The draft of P {piece}", Of(db, piece));
                var found = SlipRows.All(db, [slip.Value]).GetValueOrDefault(slip.Value) ?? throw new NotThereException($"slip {slip}");
                var source = found.Source is { } from ? SourceRows.All(db, [from.Value])[from.Value] : null;
                var placed = db.QuerySingleOrDefault<int?>(
                    "SELECT section FROM material WHERE piece = @piece AND slip = @slip",
                    new { piece, slip }
                );
                var (next, start, end) = outline.Insert(
                    Insertion.Of(found, source, how),
                    placed is { } section ? SectionNumber.Of(section) : asked.Section,
                    asked.At
                );
                change.OnPiece = piece;
                DraftRows.Write(change, piece, next);
                var draft = Of(db, piece);
                var into = draft.Sections.LastOrDefault(s => s.Start <= start)?.Number;
                if (placed is null)
                {
                    MaterialRows.Add(change, piece, Reference.To(slip), into);
                    MaterialRows.Settle(change, slip);
                    draft = Of(db, piece);
                }
                return new Inserted(draft, start, end, into);
            }
        );
    }

    /// <summary>Makes slips and moves of what is marked in the draft, when its writer has left it or asks for one stretch.</summary>
    /// <exception cref="BadInputException">The idea doesn't stand in the draft.</exception>
    public Done<Lifted> Lift(PieceNumber piece, bool left, string? idea, Once once) =>
        papers.Run(
            $"looked through P {piece} for ideas and moves",
            once,
            change =>
            {
                var text = DraftRows.Read(change.Db, piece).Outline.Text;
                if (idea is not null && (idea.Trim().Length == 0 || !text.Contains(idea.Trim(), StringComparison.Ordinal)))
                    throw new BadInputException("idea", "What is lifted out has to stand in the draft.");
                var lifted = Lifting.Run(change, Reference.To(piece), text, left, idea?.Trim());
                if (!lifted.IsNothing)
                    change.What = $"lifted {lifted} out of P {piece}";
                return lifted;
            }
        );

    /// <summary>Puts a section that is gone back at the end, with the text it had unless that still stands in the draft.</summary>
    public Done<Draft> BringBack(PieceNumber piece, SectionNumber number, int? version, Once once) =>
        Changed(piece, version, $"brought back a section of P {piece}", once, outline => outline.BringBack(number));

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
        var note = edit.Note is null ? null : Check.Length("note", edit.Note, Section.LongestNote).Trim();
        return Changed(
            piece,
            edit.Version,
            $"changed a section of P {piece}",
            once,
            outline =>
            {
                var section = outline.Family(number)[0];
                var changed = outline.Change(
                    number,
                    title ?? section.Title,
                    edit.Aim.Or(section.Aim),
                    edit.Beat?.Trim() ?? section.Beat,
                    note,
                    edit.Settled
                );
                // Links to it from within the draft follow too.
                return outline
                    .HeadingsChangedIn(changed)
                    .Aggregate(
                        changed,
                        (next, heading) => next.Each(text => Mentions.PartRenamed(text, Reference.To(piece), [], heading.Old, heading.New))
                    );
            }
        );
    }

    /// <summary>Moves a section with its children and all their text, and others with it.</summary>
    public Done<Draft> MoveSection(PieceNumber piece, SectionNumber number, SectionMove move, Once once)
    {
        SectionNumber[] moved = [.. (move.With ?? []).Prepend(number).Distinct()];
        CheckCount("with", moved);
        return Changed(
            piece,
            move.Version,
            $"moved {Sections(moved.Length)} of P {piece}",
            once,
            outline => outline.Move(moved, move.Before, move.Depth)
        );
    }

    private static string Sections(int count) => count == 1 ? "a section" : $"{count} sections";

    private static void CheckCount(string field, IReadOnlyCollection<SectionNumber>? sections)
    {
        if (sections is not { Count: > 0 and <= MostSections })
            throw new BadInputException(field, $"Name the sections, {MostSections:N0} at most.");
    }

    /// <summary>Does something to several sections at once.</summary>
    public Done<Draft> Several(PieceNumber piece, SeveralSections asked, Once once)
    {
        var act = asked.Act ?? throw new BadInputException("act", "Say what is to be done with them.");
        CheckCount("sections", asked.Sections);
        var chosen = asked.Sections!;
        var what = act switch
        {
            SeveralAct.Settle => "settled",
            SeveralAct.Unsettle => "opened again",
            SeveralAct.Remove => "deleted",
            _ => "moved",
        };
        return Changed(
            piece,
            asked.Version,
            $"{what} {Sections(chosen.Count)} of P {piece}",
            once,
            outline =>
                act switch
                {
                    SeveralAct.Settle or SeveralAct.Unsettle => chosen.Aggregate(
                        outline,
                        (next, number) =>
                            next.Family(number)[0] is var s
                                ? next.Change(number, s.Title, s.Aim, s.Beat, null, act == SeveralAct.Settle)
                                : next
                    ),
                    SeveralAct.Remove => chosen.Aggregate(
                        outline,
                        (next, number) => next.Sections.Any(s => s.Number == number) ? next.Remove(number) : next
                    ),
                    SeveralAct.Up => outline.Step([.. chosen], OutlineWay.Up),
                    SeveralAct.Down => outline.Step([.. chosen], OutlineWay.Down),
                    SeveralAct.In => outline.Step([.. chosen], OutlineWay.In),
                    _ => outline.Step([.. chosen], OutlineWay.Out),
                }
        );
    }

    /// <summary>Splits a section at a place in the draft.</summary>
    public Done<Draft> Split(PieceNumber piece, SectionSplit asked, Once once)
    {
        var title = string.IsNullOrWhiteSpace(asked.Title) ? "New section" : SectionTitle(asked.Title);
        IReadOnlyList<MarkRow> marks = [];
        return Changed(
            piece,
            asked.Version,
            $"split a section of P {piece}",
            once,
            outline => outline.Split(asked.At, title),
            (change, _) => marks = MarkRows.Of(change.Db, piece),
            (change, before) => MarkRows.Split(change.Db, marks, before, DraftRows.Read(change.Db, piece).Outline, asked.At)
        );
    }

    /// <summary>Joins a section to the one before it, with its text and material.</summary>
    public Done<Draft> Join(PieceNumber piece, SectionNumber number, int? version, Once once)
    {
        static (Section Into, Section Joined) Pair(Outline outline, SectionNumber number)
        {
            var at = outline.Sections.ToList().FindIndex(s => s.Number == number);
            return (outline.Sections[at - 1], outline.Sections[at]);
        }
        return Changed(
            piece,
            version,
            $"joined two sections of P {piece}",
            once,
            outline => outline.Join(number),
            (change, before) =>
            {
                foreach (var table in new[] { "material", "piece_reference" })
                    change.Db.Execute(
                        $"UPDATE {table} SET section = @into WHERE section = @number",
                        new { into = Pair(before, number).Into.Number, number }
                    );
            },
            (change, before) =>
            {
                var (into, joined) = Pair(before, number);
                MarkRows.Join(change.Db, into, joined);
            }
        );
    }

    /// <summary>Deletes a section with its children and all their text; their material becomes loose.</summary>
    public Done<Draft> RemoveSection(PieceNumber piece, SectionNumber number, int? version, Once once) =>
        Changed(piece, version, $"deleted a section of P {piece}", once, outline => outline.Remove(number));

    /// <param name="first">What is done before the new outline is kept, with the one there was.</param>
    /// <param name="then">What is done after it.</param>
    private Done<Draft> Changed(
        PieceNumber piece,
        int? version,
        string what,
        Once once,
        Func<Outline, Outline> act,
        Action<Change, Outline>? first = null,
        Action<Change, Outline>? then = null
    )
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
                change.OnPiece = piece;
                var next = act(outline);
                first?.Invoke(change, outline);
                DraftRows.Write(change, piece, next);
                then?.Invoke(change, outline);
                return Of(change.Db, piece);
            }
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
