using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Bench;

/// <summary>The checklist of a piece.</summary>
/// <param name="Offered">Steps of its format that it has not had and not refused.</param>
/// <param name="OfferedSections">Sections that its format begins with, that it has not had and not refused.</param>
/// <param name="Later">Sections of its format that can be laid in at any time.</param>
public sealed record Checklist(
    PieceNumber Piece,
    string Stage,
    IReadOnlyList<string> Stages,
    IReadOnlyList<PieceStep> Steps,
    IReadOnlyList<FormatStep> Offered,
    IReadOnlyList<SkeletonSection> OfferedSections,
    IReadOnlyList<SkeletonSection> Later
);

/// <summary>A step of one piece only, or a change to one; what is not set stays.</summary>
public sealed record StepChange
{
    public string? Stage { get; init; }
    public string? Text { get; init; }
    public string? Instructions { get; init; }
    public string? Address { get; init; }
    public string? Who { get; init; }
    public bool? Done { get; init; }
}

/// <summary>Which steps are done.</summary>
public sealed record StepsDone(IReadOnlyDictionary<string, bool>? Done);

/// <summary>What is offered by a format is laid into a piece, or refused for it.</summary>
/// <param name="Numbers">Their numbers in the format; all that are offered when null.</param>
public sealed record Laying(IReadOnlyList<int>? Numbers = null, bool Refuse = false);

/// <summary>Works through the checklists of pieces.</summary>
public sealed class StepStore(PapersFile papers)
{
    public Checklist Of(PieceNumber piece) => papers.Read(db => Of(db, piece));

    private static Checklist Of(SqliteConnection db, PieceNumber number)
    {
        var piece = PieceRows.Get(db, number);
        var format = FormatRows.Named(db, piece.Format);
        var laid = PieceRows.Laid(db, number);
        bool IsNew(int of) => laid?.Contains(PieceRows.LaidName(format, of)) != true;
        return new Checklist(
            number,
            piece.Stage,
            format.Stages,
            StepRows.Of(db, number),
            piece.OutOn is null ? [.. format.Steps.Where(s => IsNew(s.Number))] : [],
            // What a piece that came from elsewhere was laid out by is not known; it has an outline of its own.
            piece.OutOn
                is null
            && laid is not null
                ? [.. format.Skeleton.Where(s => IsNew(s.Number))]
                : [],
            format.Later
        );
    }

    /// <summary>Adds a step to one piece.</summary>
    public Done<Checklist> Add(PieceNumber piece, StepChange made, Once once)
    {
        var text = Check.Text("text", made.Text, 500);
        return papers.Run(
            $"added a step to P {piece}",
            once,
            change =>
            {
                var own = PieceRows.Get(change.Db, piece);
                var stage = Stage(change.Db, own, made.Stage ?? own.Stage);
                StepRows.Add(
                    change.Db,
                    piece,
                    stage,
                    text,
                    Check.Length("instructions", made.Instructions, FormatRules.LongestText).Trim(),
                    Check.WebAddress("address", made.Address),
                    Check.Length("who", made.Who, 200).Trim(),
                    null,
                    null
                );
                change.What = $"added the step “{text}” to P {piece}";
                return Of(change.Db, piece);
            }
        );
    }

    private static string Stage(SqliteConnection db, Piece piece, string stage)
    {
        var stages = FormatRows.Named(db, piece.Format).Stages;
        return stages.Contains(stage) ? stage : throw new BadInputException("stage", $"The stages are {string.Join(", ", stages)}.");
    }

    /// <summary>Changes a step, or ticks it; the move it became is ticked with it.</summary>
    public Done<Checklist> Edit(PieceNumber piece, StepNumber step, StepChange edit, Once once) =>
        papers.Run(
            $"changed a step of P {piece}",
            once,
            change =>
            {
                var before = StepRows.Get(change.Db, piece, step);
                var text = edit.Text is null ? before.Text : Check.Text("text", edit.Text, 500);
                change.Db.Execute(
                    """
                    UPDATE piece_step SET stage = @stage, text = @text, instructions = @instructions, address = @address, who = @who
                    WHERE number = @step
                    """,
                    new
                    {
                        step,
                        stage = edit.Stage is null ? before.Stage : Stage(change.Db, PieceRows.Get(change.Db, piece), edit.Stage),
                        text,
                        instructions = edit.Instructions is null
                            ? before.Instructions
                            : Check.Length("instructions", edit.Instructions, FormatRules.LongestText).Trim(),
                        address = edit.Address is null ? before.Address : Check.WebAddress("address", edit.Address),
                        who = edit.Who is null ? before.Who : Check.Length("who", edit.Who, 200).Trim(),
                    }
                );
                if (edit.Done is { } done)
                    Tick(change, before, done);
                change.What = edit.Done switch
                {
                    true => $"ticked “{text}” of P {piece}",
                    false => $"unticked “{text}” of P {piece}",
                    _ => $"changed the step “{text}” of P {piece}",
                };
                return Of(change.Db, piece);
            }
        );

    private static void Tick(Change change, PieceStep step, bool done)
    {
        var doneAt = done ? step.DoneAt ?? change.Now : (DateTimeOffset?)null;
        change.Db.Execute("UPDATE piece_step SET done_at = @doneAt WHERE number = @Number", new { doneAt, step.Number });
        if (step.Move is { } move)
            change.Db.Execute(
                "UPDATE move SET done_at = @doneAt, version = version + 1 WHERE number = @move AND done_at IS NOT @doneAt",
                new { doneAt, move }
            );
    }

    /// <summary>Ticks several at once, as one step.</summary>
    public Done<Checklist> SetDone(PieceNumber piece, StepsDone ticked, Once once) =>
        papers.Run(
            $"ticked steps of P {piece}",
            once,
            change =>
            {
                PieceRows.Get(change.Db, piece);
                foreach (var (key, done) in ticked.Done ?? new Dictionary<string, bool>())
                    Tick(
                        change,
                        StepRows.Get(
                            change.Db,
                            piece,
                            StepNumber.TryParse(key, out var number)
                                ? number
                                : throw new BadInputException("done", $"“{key}” is no number of a step.")
                        ),
                        done
                    );
                return Of(change.Db, piece);
            }
        );

    public Done<Checklist> Remove(PieceNumber piece, StepNumber step, Once once) =>
        papers.Run(
            $"took a step from P {piece}",
            once,
            change =>
            {
                change.What = $"took the step “{StepRows.Get(change.Db, piece, step).Text}” from P {piece}";
                change.Db.Execute("DELETE FROM piece_step WHERE number = @step", new { step });
                return Of(change.Db, piece);
            }
        );

    /// <summary>Makes a dated move of a step; it is ticked with it.</summary>
    public Done<Checklist> MakeMove(PieceNumber piece, StepNumber step, DateOnly? due, Once once) =>
        papers.Run(
            $"made a move of a step of P {piece}",
            once,
            change =>
            {
                var own = StepRows.Get(change.Db, piece, step);
                if (own.Move is not null)
                    throw new BadInputException("step", "It is a move already.");
                if (own.DoneAt is not null)
                    throw new BadInputException("step", "It is done already.");
                var move = MoveRows.Add(change, own.Text, due, piece, change.Today);
                change.Db.Execute("UPDATE piece_step SET move = @Number WHERE number = @step", new { move.Number, step });
                change.What = $"made a move of “{own.Text}”";
                return Of(change.Db, piece);
            }
        );

    /// <summary>Lays in what the format offers, or refuses it for this piece.</summary>
    public Done<Checklist> Lay(PieceNumber number, Laying laying, Once once) =>
        papers.Run(
            laying.Refuse ? $"refused what the format offers for P {number}" : $"laid in what the format offers for P {number}",
            once,
            change =>
            {
                var piece = PieceRows.Get(change.Db, number);
                var format = FormatRows.Named(change.Db, piece.Format);
                var offered = Of(change.Db, number);
                var laid = PieceRows.Laid(change.Db, number) ?? [.. format.Skeleton.Select(s => PieceRows.LaidName(format, s.Number))];
                bool IsMeant(int of) => laying.Numbers is null || laying.Numbers.Contains(of);
                var steps = offered.Offered.Where(s => IsMeant(s.Number)).ToList();
                var sections = offered.OfferedSections.Where(s => IsMeant(s.Number)).ToList();
                if (!laying.Refuse)
                {
                    StepRows.Lay(change.Db, number, steps);
                    if (sections.Count > 0)
                    {
                        change.OnPiece = number;
                        var (outline, _, _) = DraftRows.Read(change.Db, number);
                        foreach (var section in sections)
                            outline = outline.Add(
                                new Section(null, DraftPart.Empty(section.Title, section.Depth), section.Aim, section.Beat)
                            );
                        DraftRows.Write(change, number, outline);
                    }
                }
                laid.UnionWith(
                    steps.Select(s => s.Number).Concat(sections.Select(s => s.Number)).Select(n => PieceRows.LaidName(format, n))
                );
                change.Db.Execute(
                    "UPDATE piece SET laid = @laid WHERE number = @number",
                    new { number, laid = PieceRows.LaidWritten(laid) }
                );
                return Of(change.Db, number);
            }
        );
}
