using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Formats;
using Nachlass.Exchange.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Bench;

public sealed class FormatStoreTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private static readonly Format Walk = new()
    {
        Name = "Walk",
        Stages = ["Scout", "Walk it", "Sent"],
        Hours = [2, 3, 0],
        Skeleton = [new("The gate", "opening", 100), new("The far end", "landing", 50)],
        Fields = [new("", "Miles", FieldKind.Number, OnRow: true)],
        Steps = [new("Scout", "Ask the farmer"), new("Walk it", "Take water", "Two litres")],
        SideTexts = [new("", "How to get there", new Limit(20))],
        TitlePattern = "Walk {{ number }}: {{ title }}",
        Template = "For {{ weekday }}.",
        Folders = ["raw", "final"],
    };

    private Format Made() => desk.Formats.Add(Walk, Once.Unkeyed).Answer;

    private PieceNumber Started(string title = "Along the weir") =>
        desk.Pieces.Start(new NewPiece(title, "walk"), Once.Unkeyed).Answer.Number;

    private Piece Edit(PieceNumber piece, PieceChange edit) =>
        desk.Pieces.Edit(piece, edit with { Version = desk.Pieces.Get(piece).Version }, Once.Unkeyed).Answer;

    private static FormatEdit Changed(Format format) => new(new Format(format)) { Version = format.Version };

    [Fact]
    public void Papers_begin_with_the_ready_formats_and_get_their_own()
    {
        desk.Formats.List().Select(f => f.Key).ShouldBe(ReadyFormats.All.Select(f => f.Key));
        var made = desk.Formats.Add(Walk, Once.Unkeyed);
        made.Answer.Key.ShouldBe("walk");
        desk.Formats.List()[^1].Key.ShouldBe("walk");
        Should.Throw<BadInputException>(() => desk.Formats.Add(Walk, Once.Unkeyed)).Field.ShouldBe("name");
        desk.Undo(made.Command);
        desk.Formats.List().Count.ShouldBe(ReadyFormats.All.Count);
    }

    [Fact]
    public void A_piece_is_laid_out_once_and_taken_back_as_one_step()
    {
        Made();
        var started = desk.Pieces.Start(new NewPiece("Along the weir", "walk"), Once.Unkeyed);
        started.Answer.ShouldSatisfyAllConditions(
            p => p.Title.ShouldBe("Walk 1: Along the weir"),
            p => p.Running.ShouldBe(1),
            p => p.Stage.ShouldBe("Scout"),
            p => p.OpenSteps.ShouldBe(1)
        );
        var draft = desk.Drafts.Get(started.Answer.Number);
        draft.Text.ShouldStartWith("For Tuesday.\n\n## The gate");
        draft.Sections.Select(s => (s.Title, s.Beat, s.Aim)).ShouldBe([("The gate", "opening", 100), ("The far end", "landing", 50)]);
        desk.Steps.Of(started.Answer.Number)
            .ShouldSatisfyAllConditions(
                c => c.Steps.Select(s => s.Text).ShouldBe(["Ask the farmer", "Take water"]),
                c => c.Steps[1].Html.ShouldContain("Two litres"),
                c => c.Offered.ShouldBeEmpty(),
                c => c.OfferedSections.ShouldBeEmpty()
            );
        Started("Back").ShouldNotBe(started.Answer.Number);
        desk.Pieces.List().Select(p => p.Title).ShouldContain("Walk 2: Back");
        desk.Undo(started.Command);
        desk.Pieces.List().Count.ShouldBe(1);
    }

    [Fact]
    public void The_running_number_goes_on_from_titles_that_were_there_before()
    {
        var piece = desk.Pieces.Start(new NewPiece("x", "essay"), Once.Unkeyed).Answer.Number;
        Edit(piece, new PieceChange { Title = "Letter 40: The bell", Format = "letter" });
        desk.Pieces.Start(new NewPiece("The rope", "letter"), Once.Unkeyed).Answer.Title.ShouldBe("Letter 41: The rope");
    }

    [Fact]
    public void A_piece_is_taken_to_its_final_stage_through_its_steps()
    {
        Made();
        var piece = Started();
        var steps = desk.Steps.Of(piece).Steps;
        desk.Steps.Edit(piece, steps[0].Number, new StepChange { Done = true }, Once.Unkeyed);
        desk.Pieces.Get(piece).OpenSteps.ShouldBe(0);
        Edit(piece, new PieceChange { Stage = "Walk it" }).OpenSteps.ShouldBe(1);
        // A step becomes a dated move; done there it is done here, and the other way round.
        var moved = desk.Steps.MakeMove(piece, steps[1].Number, desk.Today.AddDays(2), Once.Unkeyed).Answer.Steps[1];
        moved.Due.ShouldBe(desk.Today.AddDays(2));
        var move = desk.Papers.Read(db => Store.Capture.MoveRows.Get(db, moved.Move!.Value));
        var ticked = desk.Days.EditMove(move.Number, new MoveChange { Version = move.Version, Done = true }, Once.Unkeyed);
        desk.Steps.Of(piece).Steps[1].DoneAt.ShouldNotBeNull();
        desk.Undo(ticked.Command);
        desk.Steps.Of(piece).Steps[1].DoneAt.ShouldBeNull();
        desk.Steps.SetDone(piece, new StepsDone(new Dictionary<string, bool> { [steps[1].Number.ToString()] = true }), Once.Unkeyed);
        desk.Papers.Read(db => Store.Capture.MoveRows.Get(db, move.Number)).DoneAt.ShouldNotBeNull();
        Edit(piece, new PieceChange { Stage = "Sent" }).OutOn.ShouldBe(desk.Today);
    }

    [Fact]
    public void Changing_a_format_loses_no_piece_and_asks_where_they_go()
    {
        var format = Made();
        var (one, two) = (Started("One"), Started("Two"));
        Edit(two, new PieceChange { Stage = "Walk it" });
        var fewer = Changed(format) with { Stages = ["Scout", "Sent"], Hours = [2, 0], Steps = [] };
        Should
            .Throw<BadInputException>(() => desk.Formats.Edit("walk", fewer, Once.Unkeyed))
            .ShouldSatisfyAllConditions(
                e => e.Field.ShouldBe("moved"),
                e => e.Message.ShouldBe("A piece stands at “Walk it”; say where it goes.")
            );
        var edited = desk.Formats.Edit(
            "walk",
            fewer with
            {
                Moved = new Dictionary<string, string> { ["Walk it"] = "Sent" },
            },
            Once.Unkeyed
        );
        desk.Pieces.Get(two).ShouldSatisfyAllConditions(p => p.Stage.ShouldBe("Sent"), p => p.OutOn.ShouldBe(desk.Today));
        desk.Pieces.Get(one).Stage.ShouldBe("Scout");
        desk.Steps.Of(one).Steps.Count.ShouldBe(2, "the steps are the piece's own");
        desk.Steps.Of(one).Steps[1].Stage.ShouldBe("Sent");
        edited.Answer.Standing.ShouldBe(new Dictionary<string, int> { ["Scout"] = 1, ["Sent"] = 1 }, ignoreOrder: true);
        desk.Undo(edited.Command);
        desk.Pieces.Get(two).ShouldSatisfyAllConditions(p => p.Stage.ShouldBe("Walk it"), p => p.OutOn.ShouldBeNull());
        Should.Throw<StaleException>(() => desk.Formats.Edit("walk", Changed(format) with { Version = 0 }, Once.Unkeyed));
    }

    [Fact]
    public void New_steps_and_sections_are_offered_to_pieces_in_work_and_never_forced()
    {
        var format = Made();
        var piece = Started();
        desk.Formats.Edit(
            "walk",
            Changed(format) with
            {
                Steps = [.. format.Steps, new("Walk it", "Count the gates"), new("Walk it", "Shut them")],
                Skeleton = [.. format.Skeleton, new("The way home", "landing", 40)],
            },
            Once.Unkeyed
        );
        var offered = desk.Steps.Of(piece);
        offered.Steps.Count.ShouldBe(2);
        offered.Offered.Select(s => s.Text).ShouldBe(["Count the gates", "Shut them"]);
        offered.OfferedSections.Single().Title.ShouldBe("The way home");
        var some = desk.Steps.Lay(piece, new Laying([offered.Offered[0].Number, offered.OfferedSections[0].Number]), Once.Unkeyed);
        some.Answer.Steps.Select(s => s.Text).ShouldBe(["Ask the farmer", "Take water", "Count the gates"]);
        desk.Drafts.Get(piece).Sections.Select(s => s.Title).ShouldBe(["The gate", "The far end", "The way home"]);
        some.Answer.Offered.Single().Text.ShouldBe("Shut them");
        var refused = desk.Steps.Lay(piece, new Laying(Refuse: true), Once.Unkeyed);
        refused.Answer.Offered.ShouldBeEmpty();
        desk.Undo(refused.Command);
        desk.Undo(some.Command);
        desk.Steps.Of(piece).Offered.Count.ShouldBe(2);
        Started("Another").ShouldNotBe(piece);
    }

    [Fact]
    public void What_is_used_is_put_away_and_not_taken_out()
    {
        Made();
        var piece = Started();
        Should.Throw<BadInputException>(() => desk.Formats.Remove("walk", Once.Unkeyed)).Message.ShouldContain("put it away instead");
        var away = desk.Formats.PutAway("walk", true, Once.Unkeyed);
        away.Answer.IsPutAway.ShouldBeTrue();
        desk.Pieces.Get(piece).Format.ShouldBe("walk");
        desk.Coverage.Map(null).Columns.Select(c => c.Key).ShouldNotContain("walk");
        desk.Undo(away.Command);
        desk.Coverage.Map(null).Columns.Select(c => c.Key).ShouldContain("walk");
        desk.Formats.Remove("film", Once.Unkeyed).Answer.Select(f => f.Key).ShouldNotContain("film");
        desk.Catch("A slip");
        desk.Slips.Edit(SlipNumber.Of(1), new Store.Capture.SlipChange { Version = 1, Formats = ["talk"] }, Once.Unkeyed);
        Should.Throw<BadInputException>(() => desk.Formats.Remove("talk", Once.Unkeyed));
        Should.Throw<NotThereException>(() => desk.Formats.Get("sonnet"));
    }

    [Fact]
    public void A_format_is_tried_and_a_mistake_shows_its_place_and_breaks_nothing()
    {
        var format = Made();
        var piece = Started();
        var tried = desk.Formats.Try(format with { TitlePattern = "{{ title }} ({{ miles }})", Template = "one\n{{ milse }}" }, piece);
        tried.TextFault.ShouldNotBeNull().ShouldSatisfyAllConditions(f => f.Line.ShouldBe(2), f => f.Reason.ShouldContain("milse"));
        tried.Problem.ShouldNotBeNull();
        tried.FillIns.Select(f => f.Name).ShouldContain("miles");
        desk.Drafts.Save(piece, "## The gate\n\none two three four\n", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        desk.Formats.Try(format with { Limits = new FormatLimits(new Limit(3, MeasuredIn.Words)) }, piece)
            .Over.Single()
            .ShouldBe(new PartMeasured("The gate", new Measured(4, 3, MeasuredIn.Words)));
        desk.Pieces.Get(piece).Title.ShouldBe("Walk 1: Along the weir");
    }

    [Fact]
    public void Fields_and_side_texts_are_kept_and_taken_back()
    {
        Made();
        var piece = Started();
        var set = desk.Beside.SetFields(piece, new FieldsChange(new Dictionary<string, string> { ["miles"] = "4,5" }), Once.Unkeyed);
        set.Answer.Single().Value.ShouldBe("4.5");
        desk.Pieces.Get(piece).Fields["miles"].ShouldBe("4.5");
        Should
            .Throw<BadInputException>(() =>
                desk.Beside.SetFields(piece, new FieldsChange(new Dictionary<string, string> { ["miles"] = "far" }), Once.Unkeyed)
            )
            .Field.ShouldBe("fields.miles");
        desk.Beside.SideTexts(piece).Single().ShouldSatisfyAllConditions(t => t.Version.ShouldBe(0), t => t.Text.ShouldBe(""));
        var written = desk.Beside.WriteSideText(
            piece,
            "how_to_get_there",
            new SideTextChange("By the bus that goes at nine.", 0),
            Once.Unkeyed
        );
        written.Answer.Measured.ShouldNotBeNull().IsOver.ShouldBeTrue();
        Should.Throw<StaleException>(() => desk.Beside.WriteSideText(piece, "how_to_get_there", new SideTextChange("x", 0), Once.Unkeyed));
        Should.Throw<NotThereException>(() => desk.Beside.SideText(piece, "nothing"));
        desk.Undo(written.Command);
        desk.Beside.SideText(piece, "how_to_get_there").Version.ShouldBe(0);
        // A value whose field goes is not lost.
        desk.Formats.Edit("walk", Changed(desk.Formats.Get("walk")) with { Fields = [] }, Once.Unkeyed);
        desk.Beside.Fields(piece).Single().ShouldSatisfyAllConditions(f => f.Value.ShouldBe("4.5"), f => f.IsOfFormat.ShouldBeFalse());
    }

    [Fact]
    public void A_format_goes_out_as_a_file_and_comes_in_the_same()
    {
        foreach (var format in desk.Formats.List().Append(Made()))
        {
            var file = FormatFile.Write(new Format(format));
            var back = FormatFile.Read("x.json", file);
            FormatFile.Write(back).ShouldBe(file);
        }
        Should.Throw<UnreadableFileException>(() => FormatFile.Read("x.json", "{")).Message.ShouldContain("no format");
        Should
            .Throw<UnreadableFileException>(() => FormatFile.Read("x.json", """{"name":"x","stages":["a"]}"""))
            .Message.ShouldContain("stages");
        Should.Throw<UnreadableFileException>(() => FormatFile.Read("x.json", "null"));
        Should.Throw<UnreadableFileException>(() => FormatFile.Read("x.json", new string('[', 100_000)));
    }
}
