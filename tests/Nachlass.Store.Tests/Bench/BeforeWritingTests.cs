using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Bench;

public sealed class BeforeWritingTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly PieceNumber piece;

    public BeforeWritingTests() => piece = desk.Pieces.Start(new NewPiece("The far bank", Topics: ["ferries"]), Once.Unkeyed).Answer.Number;

    public void Dispose() => desk.Dispose();

    [Fact]
    public void Each_field_is_settled_by_itself_and_the_call_is_found_in_the_draft()
    {
        desk.Briefs.Edit(piece, new BriefChange { ForWhom = "people who think crossings are free" }, Once.Unkeyed);
        desk.Briefs.Edit(piece, new BriefChange { CallToAction = "Ask what your river cost." }, Once.Unkeyed);
        var shown = desk.Briefs.Of(piece);
        shown.Brief.ForWhom.ShouldBe("people who think crossings are free");
        shown.Held.ShouldBeNull();
        desk.Drafts.Save(piece, "## End\n\nSo ask what your river cost.", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        desk.Briefs.Of(piece).Held!.Sentence.ShouldBe("So ask what your river cost.");
    }

    [Fact]
    public void A_title_that_is_taken_leaves_the_old_one_beside_it_and_links_follow()
    {
        var slip = desk.Catch("See [[The far bank]].").Number;
        desk.Titles.Add(piece, new TitleChange("What a crossing cost", "plainer"), Once.Unkeyed);
        var shown = desk.Titles.Add(piece, new TitleChange("Bread, not coin"), Once.Unkeyed).Answer;
        var before = desk.Everything();
        var took = desk.Titles.Take(piece, shown.Others[1].Number!.Value, Once.Unkeyed);
        took.Answer.Chosen.Text.ShouldBe("Bread, not coin");
        took.Answer.Others.Select(t => t.Text).ShouldBe(["What a crossing cost", "The far bank"]);
        desk.Slips.Get(slip).Text.ShouldBe("See [[Bread, not coin]].");
        desk.Undo(took.Command);
        desk.Everything().ShouldBe(before);
    }

    [Fact]
    public void Titles_can_be_set_whole_and_keep_their_numbers()
    {
        var first = desk.Titles.Set(piece, new TitlesChange([new("One"), new("Two", "n")]), Once.Unkeyed).Answer.Others;
        var then = desk.Titles.Set(piece, new TitlesChange([new("Three"), new("One!", null, first[0].Number)]), Once.Unkeyed).Answer.Others;
        then.Select(t => t.Text).ShouldBe(["Three", "One!"]);
        then[1].Number.ShouldBe(first[0].Number);
        Should.Throw<BadInputException>(() => desk.Titles.Set(piece, new TitlesChange([new(" ")]), Once.Unkeyed)).Field.ShouldBe("text");
    }

    [Fact]
    public void A_question_is_answered_by_placing_a_passage()
    {
        var item = desk.Finding.Add(piece, new NewToFind("Who paid in coin?"), Once.Unkeyed).Answer.Single();
        item.Slip!.ShouldSatisfyAllConditions(
            s => s.Kind.ShouldBe(SlipKind.Question),
            s => s.State.ShouldBe(SlipState.Kept),
            s => s.Topics.Single().Name.ShouldBe("ferries")
        );
        var passage = desk.Catch("“Only the miller paid in coin.”").Number;
        var answered = desk.Finding.Answer(piece, item.Number, new ToFindAnswer(passage), Once.Unkeyed).Answer.Single();
        answered.ShouldSatisfyAllConditions(a => a.IsSettled.ShouldBeTrue(), a => a.Answer!.Number.ShouldBe(passage));
        desk.Pieces.Material(piece).Items.ShouldContain(m => m.Slip!.Number == passage);
        desk.Slips.Get(passage).State.ShouldBe(SlipState.Kept);
        desk.Finding.Answer(piece, item.Number, new ToFindAnswer(null), Once.Unkeyed).Answer.Single().IsSettled.ShouldBeFalse();
        Should
            .Throw<BadInputException>(() => desk.Finding.Answer(piece, item.Number, new ToFindAnswer(item.Slip!.Number), Once.Unkeyed))
            .Field.ShouldBe("slip");
    }

    [Fact]
    public void A_thing_to_get_is_a_move_and_done_with_it()
    {
        var item = desk.Finding.Add(piece, new NewToFind("the toll table", Get: true), Once.Unkeyed).Answer.Single();
        item.IsSettled.ShouldBeFalse();
        desk.Days.EditMove(item.Move!.Number, new MoveChange { Version = item.Move.Version, Done = true }, Once.Unkeyed);
        desk.Finding.Of(piece).Single().IsSettled.ShouldBeTrue();
        desk.Days.RemoveMove(item.Move.Number, Once.Unkeyed);
        desk.Finding.Of(piece).ShouldBeEmpty();
    }

    [Fact]
    public void Lines_of_the_heap_go_into_a_section_and_are_gone_from_it_and_are_no_draft_before()
    {
        var section = desk
            .Drafts.AddSection(piece, new NewSection("Bread", desk.Drafts.Get(piece).Version), Once.Unkeyed)
            .Answer.Sections[^1]
            .Number;
        var words = desk.Drafts.Get(piece).Counts.Words;
        var heap = desk.Briefs.Edit(piece, new BriefChange { Heap = "four loaves\nno coin\nfog bell\n" }, Once.Unkeyed).Answer.Brief;
        desk.Drafts.Get(piece).Counts.Words.ShouldBe(words);
        var before = desk.Everything();
        var over = desk.Briefs.Over(piece, new HeapOver(13, 15, heap.Version, section), Once.Unkeyed);
        over.Answer.Brief.Heap.ShouldBe("four loaves\nfog bell\n");
        over.Answer.Draft.Text.ShouldContain("Bread\n\nno coin");
        Should
            .Throw<StaleException>(() => desk.Briefs.Over(piece, new HeapOver(0, 1, heap.Version, section), Once.Unkeyed))
            .Message.ShouldContain("heap");
        desk.Undo(over.Command);
        desk.Everything().ShouldBe(before);
    }

    [Fact]
    public void A_reference_is_one_thing_and_says_why_and_where()
    {
        var slip = desk.Catch("“Four loaves.”").Number;
        var made = desk
            .References.Add(piece, new ReferenceChange { Address = "https://weir.example/tolls", Why = "the prices" }, Once.Unkeyed)
            .Answer.Single();
        made.Why.ShouldBe("the prices");
        Should
            .Throw<BadInputException>(() => desk.References.Edit(piece, made.Number, new ReferenceChange { Slip = slip }, Once.Unkeyed))
            .Field.ShouldBe("address");
        Should
            .Throw<BadInputException>(() => desk.References.Add(piece, new ReferenceChange { Address = "weir" }, Once.Unkeyed))
            .Message.ShouldContain("https://");
        var all = desk
            .References.Set(
                piece,
                new ReferencesChange([new ReferenceChange { Slip = slip }, new ReferenceChange { Number = made.Number }]),
                Once.Unkeyed
            )
            .Answer;
        all.Select(r => r.Slip?.Number).ShouldBe([slip, null]);
        all[1].Address.ShouldBe("https://weir.example/tolls");
    }

    [Fact]
    public void A_picture_that_is_taken_away_is_the_cover_no_more_until_it_is_back()
    {
        var dot = Convert.FromBase64String(EveryCommand.OnePixel);
        var picture = desk.Attachments.Add(Reference.To(piece), "bell.png", new MemoryStream(dot), "", Once.Unkeyed).Answer.Number;
        desk.Briefs.Edit(
            piece,
            new BriefChange { Cover = new Maybe<AttachmentNumber?>(true, picture), CoverLine = "The bell" },
            Once.Unkeyed
        );
        desk.References.Add(piece, new ReferenceChange { Picture = picture }, Once.Unkeyed);
        desk.Briefs.Covers().Single().Line.ShouldBe("The bell");
        var away = desk.Attachments.Remove(picture, Once.Unkeyed).Command;
        desk.Briefs.Of(piece).Brief.Cover.ShouldBeNull();
        desk.References.Of(piece).ShouldBeEmpty();
        desk.Undo(away);
        desk.Briefs.Of(piece).Brief.Cover.ShouldBe(picture);
        Should
            .Throw<BadInputException>(() =>
                desk.Briefs.Edit(
                    piece,
                    new BriefChange { Cover = new Maybe<AttachmentNumber?>(true, AttachmentNumber.Of(99)) },
                    Once.Unkeyed
                )
            )
            .Field.ShouldBe("cover");
    }
}
