using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Store.Bench;
using Nachlass.Store.Catalogue;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Catalogue;

public sealed class ClosingStoreTests : IDisposable
{
    private const string Text =
        "## Gravel\n\nThe bed of the Tavle is gravel over clay, and in a wet winter the whole of it walks downstream.\n\n"
        + "## Maps\n\nOn the map of 1791 the ford at Harnsby lies above the church, and in 1840 below it.\n";

    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private PieceNumber Out(string title = "The ford that moved", string text = Text, params string[] topics)
    {
        var piece = desk.Pieces.Start(new NewPiece(title, "essay", Topics: topics), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(piece, text, desk.Drafts.Get(piece).Version, Once.Unkeyed);
        desk.Releases.Record(piece, new NewRelease(), Once.Unkeyed);
        return piece;
    }

    [Fact]
    public void Two_lines_are_kept_and_the_first_becomes_a_claim_on_the_topics_of_the_piece()
    {
        var piece = Out(topics: "fords");
        desk.Closings.Get(piece).Closing.Version.ShouldBe(0);
        desk.Closings.Write(piece, new(0, "A ford is a habit of the gravel."), Once.Unkeyed);
        desk.Closings.Write(piece, new(1, Otherwise: "Draw the map first."), Once.Unkeyed);
        desk.Closings.List().ShouldHaveSingleItem().IsDue.ShouldBeTrue();

        var closed = desk.Closings.Close(piece, Once.Unkeyed).Answer;
        var slip = desk.Slips.Get(closed.Slip!.Value);
        slip.ShouldSatisfyAllConditions(
            s => s.Text.ShouldBe("A ford is a habit of the gravel."),
            s => s.State.ShouldBe(SlipState.Kept),
            s => s.OriginNote.ShouldBe($"P {piece}"),
            s => s.Topics.ShouldHaveSingleItem().Name.ShouldBe("fords")
        );
        desk.Claims.Get(slip.Number)!.Title.ShouldBe("A ford is a habit of the gravel.");
        desk.Closings.List()[0].IsDue.ShouldBeFalse();
        desk.Closings.Learned("essay").ShouldHaveSingleItem().Otherwise.ShouldBe("Draw the map first.");
        desk.Closings.Learned("letter").ShouldBeEmpty();
    }

    [Fact]
    public void What_is_said_later_is_said_in_the_claim_until_its_writer_took_it_further_there()
    {
        var piece = Out(topics: "fords");
        desk.Closings.Write(piece, new(0, "A ford moves."), Once.Unkeyed);
        var slip = desk.Closings.Close(piece, Once.Unkeyed).Answer.Slip!.Value;
        desk.Closings.Write(piece, new(2, "A ford moves in winter."), Once.Unkeyed);
        desk.Slips.Get(slip).Text.ShouldBe("A ford moves in winter.");
        desk.Claims.Get(slip)!.Title.ShouldBe("A ford moves in winter.");

        desk.Slips.Edit(slip, new() { Version = desk.Slips.Get(slip).Version, Text = "Further." }, Once.Unkeyed);
        desk.Closings.Write(piece, new(3, "A ford moves by night."), Once.Unkeyed);
        desk.Slips.Get(slip).Text.ShouldBe("Further.");
        // Opened and closed again it makes no second claim.
        desk.Closings.Reopen(piece, Once.Unkeyed).Answer.ClosedAt.ShouldBeNull();
        desk.Closings.Close(piece, Once.Unkeyed).Answer.Slip.ShouldBe(slip);
    }

    [Fact]
    public void A_passage_is_kept_once_and_is_offered_no_more()
    {
        var piece = Out(topics: ["fords", "maps"]);
        var offered = desk.Closings.Get(piece).Offered;
        offered.Select(o => o.Section).ShouldBe(["Gravel", "Maps"]);

        var kept = desk.Closings.Keep(piece, new(offered[0].Text, AsClaim: true), Once.Unkeyed);
        desk.Claims.Get(kept.Answer.Slip)!.Title.ShouldStartWith("The bed of the Tavle");
        desk.Slips.Get(kept.Answer.Slip).Topics.Select(t => t.Name).ShouldBe(["fords", "maps"]);
        var plain = desk.Closings.Keep(piece, new(offered[1].Text), Once.Unkeyed).Answer;
        desk.Claims.Get(plain.Slip).ShouldBeNull();
        var shown = desk.Closings.Get(piece);
        shown.Offered.ShouldBeEmpty();
        shown.Kept.Select(k => k.IsClaim).ShouldBe([true, false]);
        Should
            .Throw<ClashException>(() => desk.Closings.Keep(piece, new(offered[0].Text), Once.Unkeyed))
            .Message.ShouldContain($"slip {kept.Answer.Slip}");

        desk.History.Undo(kept.Command, Once.Unkeyed);
        desk.Closings.Get(piece).Offered.ShouldHaveSingleItem().Section.ShouldBe("Gravel");
    }

    [Fact]
    public void What_was_cut_and_what_was_marked_is_offered_too()
    {
        var piece = desk.Pieces.Start(new NewPiece("The ford that moved", "essay"), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(
            piece,
            Text + "\n## Saint\n\nThe saint of the ford was carried to the new place in 1804.\n",
            desk.Drafts.Get(piece).Version,
            Once.Unkeyed
        );
        desk.Drafts.Save(piece, Text, desk.Drafts.Get(piece).Version, Once.Unkeyed);
        var marked = desk.Usable.Paragraphs(Reference.To(piece)).Single(p => p.Text.StartsWith("On the map")).Text;
        desk.Usable.Mark(Reference.To(piece), marked, "thread", Once.Unkeyed);
        desk.Releases.Record(piece, new NewRelease(), Once.Unkeyed);

        desk.Closings.Get(piece).Offered.Select(o => o.Why).ShouldBe([KeepWhy.New, KeepWhy.Marked, KeepWhy.LeftOut]);
    }

    [Fact]
    public void Without_topics_what_is_kept_waits_to_be_sifted_and_without_words_a_piece_is_closed_all_the_same()
    {
        var piece = Out();
        var slip = desk.Closings.Keep(piece, new(desk.Closings.Get(piece).Offered[0].Text), Once.Unkeyed).Answer.Slip;
        desk.Slips.Get(slip).State.ShouldBe(SlipState.Waiting);
        desk.Closings.Close(piece, Once.Unkeyed).Answer.Slip.ShouldBeNull();
    }

    [Fact]
    public void What_cannot_be_is_refused_and_two_tabs_are_told()
    {
        var draft = desk.Pieces.Start(new NewPiece("In hand", "essay"), Once.Unkeyed).Answer.Number;
        Should.Throw<ClashException>(() => desk.Closings.Get(draft)).Message.ShouldContain("has not gone out");
        Should.Throw<ClashException>(() => desk.Closings.Close(draft, Once.Unkeyed));
        var piece = Out();
        Should
            .Throw<BadInputException>(() => desk.Closings.Write(piece, new(0, new string('x', 1_001)), Once.Unkeyed))
            .Field.ShouldBe("learned");
        Should.Throw<BadInputException>(() => desk.Closings.Keep(piece, new("  "), Once.Unkeyed)).Field.ShouldBe("text");
        desk.Closings.Write(piece, new(0, "One."), Once.Unkeyed);
        Should
            .Throw<StaleException>(() => desk.Closings.Write(piece, new(0, "Two."), Once.Unkeyed))
            .Current.ShouldBeOfType<Closing>()
            .Learned.ShouldBe("One.");
    }

    [Fact]
    public void A_piece_is_asked_about_while_it_is_fresh()
    {
        var piece = Out();
        desk.Clock.Advance(TimeSpan.FromDays(Closing.Fresh));
        desk.Closings.List()[0].IsDue.ShouldBeTrue();
        desk.Clock.Advance(TimeSpan.FromDays(1));
        desk.Closings.List()[0].IsDue.ShouldBeFalse();
        desk.Closings.Close(piece, Once.Unkeyed).Answer.ClosedAt.ShouldNotBeNull();
    }
}
