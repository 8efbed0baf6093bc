using Nachlass.Core.Catalogue.Reuse;
using Nachlass.Core.Papers;
using Nachlass.Exchange.Catalogue;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Catalogue.Reuse;
using Nachlass.Store.Papers;
using Nachlass.Store.Tests.Formats;

namespace Nachlass.Store.Tests.Catalogue;

public sealed class ReuseStoreTests : IDisposable
{
    private const string Text = "The ford walks downstream in a wet winter.\n\n## Saint\n\nIts saint stays where he was put in 1804.\n";

    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private PieceNumber Out(string format = "essay")
    {
        var piece = desk.Pieces.Start(new NewPiece("The ford that moved", format, Topics: ["fords"]), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(piece, Text, desk.Drafts.Get(piece).Version, Once.Unkeyed);
        desk.Releases.Record(piece, new NewRelease(), Once.Unkeyed);
        return piece;
    }

    private void Mark(PieceNumber piece, string begins, string format = "thread")
    {
        var text = desk.Reuse.Get(piece).Paragraphs.Single(p => p.Text.StartsWith(begins, StringComparison.Ordinal)).Text;
        desk.Usable.Mark(Reference.To(piece), text, format, Once.Unkeyed);
    }

    [Fact]
    public void A_piece_of_a_format_that_is_used_again_enters_the_flow_by_itself_and_leaves_it_when_done()
    {
        var piece = Out();
        Out("letter");
        desk.Reuse.List().ShouldHaveSingleItem().ShouldSatisfyAllConditions(l => l.Piece.ShouldBe(piece), l => l.IsDue.ShouldBeTrue());
        var done = desk.Reuse.SetDone(piece, true, Once.Unkeyed);
        desk.Reuse.List()[0].IsDue.ShouldBeFalse();
        desk.History.Undo(done.Command, Once.Unkeyed);
        desk.Reuse.List()[0].IsDue.ShouldBeTrue();
        desk.Clock.Advance(TimeSpan.FromDays(61));
        desk.Reuse.List()[0].IsDue.ShouldBeFalse();
    }

    [Fact]
    public void Chosen_passages_become_a_piece_each_in_one_step_and_the_family_knows_them()
    {
        var piece = Out();
        Mark(piece, "The ford walks");
        Mark(piece, "Its saint", "post");
        desk.Reuse.List()[0].Marked.ShouldBe(2);
        var made = desk.Usable.UseAll(Reference.To(piece), Once.Unkeyed);
        made.Answer.Count.ShouldBe(2);
        desk.Drafts.Get(made.Answer[0]).Text.ShouldContain("The ford walks");
        var shown = desk.Reuse.Get(piece);
        shown.Family.Select(f => (f.Depth, f.How)).ShouldBe([(0, null), (1, CameHow.Passage), (1, CameHow.Passage)]);
        shown.Paragraphs.ShouldAllBe(p => p.Marked == null);
        desk.Reuse.FamilyOf(made.Answer[1]).Select(f => f.Piece).ShouldBe([piece, .. made.Answer]);
        Should.Throw<ClashException>(() => desk.Usable.UseAll(Reference.To(piece), Once.Unkeyed));

        desk.History.Undo(made.Command, Once.Unkeyed);
        desk.Reuse.Get(piece).Family.ShouldHaveSingleItem();
        desk.Reuse.Get(piece).Paragraphs.Count(p => p.Marked is not null).ShouldBe(2);
    }

    [Fact]
    public void A_sequel_is_of_the_family_and_one_in_the_trash_is_not_shown()
    {
        var piece = Out();
        var sequel = desk.Pieces.Start(new NewPiece("The ford again", "essay", From: piece), Once.Unkeyed).Answer;
        desk.Reuse.FamilyOf(piece).Select(f => f.How).ShouldBe([null, CameHow.Piece]);
        desk.Pieces.Edit(sequel.Number, new PieceChange { Version = sequel.Version, Trashed = true }, Once.Unkeyed);
        desk.Reuse.FamilyOf(piece).ShouldHaveSingleItem();
    }

    [Fact]
    public void A_chosen_passage_that_is_not_there_any_more_is_said()
    {
        var piece = Out();
        Mark(piece, "Its saint");
        desk.Drafts.Save(piece, "Quite another text about eels.\n", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        desk.Reuse.Get(piece).Gone.ShouldBe(1);
    }

    [Fact]
    public void Cuts_have_times_that_are_checked_and_go_out_as_WebVTT_that_comes_in_again()
    {
        var piece = Out("audio");
        var shown = desk.Reuse.Get(piece);
        shown.IsSpoken.ShouldBeTrue();
        shown.Paragraphs[1].FromMs.ShouldBe(shown.Paragraphs[0].ToMs);
        var cut = desk.Reuse.Add(piece, new("The saint & the <ford>", "0:10", "1:02.5", "He stays."), Once.Unkeyed).Answer;
        (cut.FromMs, cut.ToMs).ShouldBe((10_000, 62_500));
        desk.Reuse.Edit(cut.Number, new(From: "0:12", Version: 1), Once.Unkeyed).Answer.FromMs.ShouldBe(12_000);
        Should.Throw<BadInputException>(() => desk.Reuse.Edit(cut.Number, new(To: "0:11", Version: 2), Once.Unkeyed)).Field.ShouldBe("to");
        Should.Throw<BadInputException>(() => desk.Reuse.Add(piece, new("No end", "0:01"), Once.Unkeyed)).Field.ShouldBe("to");
        Should.Throw<BadInputException>(() => desk.Reuse.Add(piece, new(" ", "0:01", "0:02"), Once.Unkeyed)).Field.ShouldBe("title");
        Should.Throw<StaleException>(() => desk.Reuse.Edit(cut.Number, new(Title: "x", Version: 1), Once.Unkeyed));

        var vtt = CutsFile.WebVtt(desk.Reuse.Get(piece).Cuts);
        vtt.ShouldContain("00:00:12.000 --> 00:01:02.500");
        using var incoming = new Incoming();
        var found = incoming.Read("cuts.vtt", vtt).OfType<Core.Capture.Found.OfSource>().ShouldHaveSingleItem();
        found.Source.Transcript.ShouldHaveSingleItem().Text.ShouldContain("The saint & the <ford>");

        desk.Reuse.Remove(cut.Number, Once.Unkeyed);
        desk.Reuse.Get(piece).Cuts.ShouldBeEmpty();
    }

    [Fact]
    public void A_piece_is_made_of_a_cut_with_what_is_said_in_it()
    {
        var piece = Out("talk");
        var cut = desk.Reuse.Add(piece, new("The saint", "0:10", "0:20", "He stays."), Once.Unkeyed).Answer;
        var made = desk.Reuse.Make(cut.Number, new(), Once.Unkeyed).Answer;
        desk.Drafts.Get(made).Text.ShouldContain("He stays.");
        desk.Pieces.Get(made).Brief.ShouldBe($"0:10 to 0:20 of P {piece}");
        desk.Reuse.FamilyOf(piece)[1].How.ShouldBe(CameHow.Cut);
    }

    [Fact]
    public void Only_what_went_out_is_used_again()
    {
        var draft = desk.Pieces.Start(new NewPiece("In hand", "essay"), Once.Unkeyed).Answer.Number;
        Should.Throw<ClashException>(() => desk.Reuse.Get(draft));
        Should.Throw<ClashException>(() => desk.Reuse.SetDone(draft, true, Once.Unkeyed));
        desk.Reuse.FamilyOf(draft).ShouldHaveSingleItem();
    }
}
