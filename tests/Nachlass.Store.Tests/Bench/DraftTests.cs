using Nachlass.Core.Bench;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Bench;

public sealed class DraftTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly PieceNumber piece;

    public DraftTests() => piece = desk.Pieces.Start(new NewPiece("The far bank"), Once.Unkeyed).Answer.Number;

    public void Dispose() => desk.Dispose();

    private Draft Save(string text) => desk.Drafts.Save(piece, text, desk.Drafts.Get(piece).Version, Once.Unkeyed).Answer;

    [Fact]
    public void Outline_and_draft_are_in_step_both_ways()
    {
        var draft = Save("## One\n\nfour words stand here\n\n## Two\n\nand two\n");
        draft.Sections.Select(s => (s.Title, s.Counts.Words)).ShouldBe([("One", 4), ("Two", 2)]);
        draft.Counts.Words.ShouldBe(6);
        desk.Pieces.Get(piece).Words.ShouldBe(6);
        var moved = desk
            .Drafts.MoveSection(piece, draft.Sections[1].Number, new SectionMove(draft.Version, draft.Sections[0].Number, 1), Once.Unkeyed)
            .Answer;
        moved.Text.ShouldBe("## Two\n\nand two\n\n## One\n\nfour words stand here\n\n");
        moved.Sections.Select(s => s.Start).ShouldBe([0, 17]);
    }

    [Fact]
    public void A_stale_save_is_refused_and_shows_the_other_text()
    {
        var version = desk.Drafts.Get(piece).Version;
        desk.Drafts.Save(piece, "mine", version, Once.Unkeyed);
        var stale = Should.Throw<StaleException>(() => desk.Drafts.Save(piece, "theirs", version, Once.Unkeyed));
        stale.Current.ShouldBeOfType<Draft>().Text.ShouldBe("mine");
        // The same text sent again, after an answer that was lost, is no quarrel.
        desk.Drafts.Save(piece, "mine", version, Once.Unkeyed).Answer.Text.ShouldBe("mine");
        Should.Throw<BadInputException>(() => desk.Drafts.Save(piece, "x", null, Once.Unkeyed)).Field.ShouldBe("version");
    }

    [Fact]
    public void Material_of_a_deleted_section_becomes_loose_and_comes_back_with_undo()
    {
        var slip = desk.Catch("paid in bread").Number;
        var draft = desk.Drafts.Get(piece);
        desk.Pieces.Place(piece, Reference.To(slip), draft.Sections[1].Number, Once.Unkeyed);
        desk.Slips.Get(slip).ShouldSatisfyAllConditions(s => s.State.ShouldBe(Core.Capture.SlipState.Kept), s => s.Used.ShouldBeTrue());
        var removed = desk.Drafts.RemoveSection(piece, draft.Sections[1].Number, draft.Version, Once.Unkeyed);
        desk.Pieces.Material(piece).Items.ShouldHaveSingleItem().Section.ShouldBeNull();
        desk.Undo(removed.Command);
        desk.Pieces.Material(piece).Items.ShouldHaveSingleItem().Section.ShouldBe(draft.Sections[1].Number);
        desk.Drafts.Get(piece).Text.ShouldBe(draft.Text);
    }

    [Fact]
    public void A_fence_left_open_swallows_headings_without_losing_text()
    {
        var draft = Save("## One\n\ntext\n\n## Two\n\n```\nopen\n");
        var moved = desk
            .Drafts.MoveSection(piece, draft.Sections[1].Number, new SectionMove(draft.Version, draft.Sections[0].Number, 1), Once.Unkeyed)
            .Answer;
        moved.Text.ShouldContain("## One\n\ntext");
        moved.Sections.ShouldHaveSingleItem().Title.ShouldBe("Two");
        Save(moved.Text.Replace("open\n", "open\n```\n", StringComparison.Ordinal)).Sections.Count.ShouldBe(2);
    }

    [Fact]
    public void Stages_are_those_of_the_format_and_the_last_one_is_out()
    {
        Should
            .Throw<BadInputException>(() => desk.Pieces.Edit(piece, new PieceChange { Version = 1, Stage = "Record" }, Once.Unkeyed))
            .Field.ShouldBe("stage");
        desk.Pieces.Edit(piece, new PieceChange { Version = 1, Stage = "Out" }, Once.Unkeyed).Answer.OutOn.ShouldBe(desk.Today);
        desk.Pieces.Edit(piece, new PieceChange { Version = 2, Stage = "Draft" }, Once.Unkeyed).Answer.OutOn.ShouldBeNull();
        desk.Pieces.Edit(piece, new PieceChange { Version = 3, Format = "thread" }, Once.Unkeyed).Answer.Stage.ShouldBe("Draft");
        desk.Pieces.Edit(piece, new PieceChange { Version = 4, Format = "audio" }, Once.Unkeyed).Answer.Stage.ShouldBe("Gather");
    }

    [Fact]
    public void More_material_is_offered_from_what_reads_like_the_piece()
    {
        desk.Catch("the far bank waits for the ferry");
        desk.Catch("eels at night");
        desk.Pieces.Material(piece).WouldFit.ShouldHaveSingleItem().Thing.Number.ShouldBe(1);
        desk.Pieces.Place(piece, Reference.To(SlipNumber.Of(1)), null, Once.Unkeyed);
        desk.Pieces.Material(piece).WouldFit.ShouldBeEmpty();
        Should
            .Throw<BadInputException>(() => desk.Pieces.Place(piece, Reference.To(SlipNumber.Of(99)), null, Once.Unkeyed))
            .Field.ShouldBe("slip");
        Should
            .Throw<BadInputException>(() => desk.Pieces.Place(piece, Reference.To(SlipNumber.Of(1)), SectionNumber.Of(99), Once.Unkeyed))
            .Field.ShouldBe("section");
    }

    [Fact]
    public void The_next_move_is_the_earliest_open_one()
    {
        desk.Days.AddMove("later on 20 Dec", null, piece, null, Once.Unkeyed);
        var soon = desk.Days.AddMove("soon, tomorrow", null, piece, null, Once.Unkeyed).Answer;
        desk.Pieces.Get(piece).NextMove!.Text.ShouldBe("soon, tomorrow");
        desk.Days.EditMove(soon.Number, new MoveChange { Version = soon.Version, Done = true }, Once.Unkeyed);
        desk.Pieces.Get(piece).NextMove!.Text.ShouldBe("later on 20 Dec");
    }

    [Fact]
    public void A_day_can_be_walked_to_and_back()
    {
        desk.Days.Write(desk.Today.AddDays(-3), "earlier", 0, Once.Unkeyed);
        var today = desk.Days.Day(desk.Today);
        today.Earlier.ShouldBe(desk.Today.AddDays(-3));
        today.Later.ShouldBeNull();
        var then = desk.Days.Day(today.Earlier!.Value);
        then.Sheet.Text.ShouldBe("earlier");
        then.Later.ShouldBe(desk.Today);
        Should.Throw<StaleException>(() => desk.Days.Write(desk.Today.AddDays(-3), "again", 0, Once.Unkeyed));
    }

    [Fact]
    public void Find_goes_to_numbers_first_and_finds_what_was_written_anywhere()
    {
        Save("## One\n\nthe geese of Quillan\n");
        desk.Days.Write(desk.Today, "dreamt of geese", 0, Once.Unkeyed);
        desk.Catch("geese, by the score #geese");
        desk.Find.Find("geese")
            .Hits.Select(h => h.Thing.Kind)
            .ShouldBe([ThingKind.Piece, ThingKind.Day, ThingKind.Slip, ThingKind.Topic], ignoreOrder: true);
        desk.Find.Find("P 1").Hits[0].Address.ShouldBe("/bench/1");
        desk.Find.Find("1").Hits.Select(h => h.Address).Take(2).ShouldBe(["/library/slip/1", "/bench/1"]);
        desk.Find.Find("99").Hits.ShouldBeEmpty();
    }

    [Fact]
    public void A_draft_is_saved_as_what_was_changed_in_it_and_only_when_both_come_to_the_same_text()
    {
        var piece = desk.Pieces.Start(new NewPiece("The far bank"), Once.Unkeyed).Answer.Number;
        var first = desk.Drafts.Save(piece, "## One\n\nsome words\n", desk.Drafts.Get(piece).Version, Once.Unkeyed).Answer;
        const string next = "## One\n\nsome more words\n";
        var change = new DraftChange(first.Version, [new TextChange(13, 13, "more ")], TextChanges.Hash(next));
        var saved = desk.Drafts.Change(piece, change, Once.Unkeyed).Answer;
        desk.Drafts.Get(piece).ShouldSatisfyAllConditions(d => d.Text.ShouldBe(next), d => d.Version.ShouldBe(saved.Version));
        saved.ShouldSatisfyAllConditions(
            d => d.Text.ShouldBeEmpty(),
            d => d.Counts.Words.ShouldBe(3),
            d => d.Sections.Select(s => s.Number).ShouldBe(first.Sections.Select(s => s.Number))
        );
        // The same again, as after a lost answer, is no quarrel; another on the same version is.
        desk.Drafts.Change(piece, change, Once.Unkeyed).Answer.Version.ShouldBe(saved.Version);
        Should
            .Throw<StaleException>(() =>
                desk.Drafts.Change(piece, change with { Changes = [new TextChange(0, 1, "")], Hash = 7 }, Once.Unkeyed)
            )
            .Current.ShouldBeOfType<Draft>()
            .Text.ShouldBe(next);
        Should
            .Throw<BadInputException>(() =>
                desk.Drafts.Change(piece, new DraftChange(saved.Version, [new TextChange(0, 1, "")], 7), Once.Unkeyed)
            )
            .Field.ShouldBe("hash");
        desk.Drafts.Get(piece).Text.ShouldBe(next);
    }
}
