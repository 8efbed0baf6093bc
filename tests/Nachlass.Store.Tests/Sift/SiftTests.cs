using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;

namespace Nachlass.Store.Tests.Sift;

public sealed class SiftTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private Settled Decide(SlipNumber slip, Decision decision) => desk.Decisions.Decide(slip, decision, Once.Unkeyed).Answer;

    [Fact]
    public void What_is_decided_leaves_the_pile_and_counts_as_settled()
    {
        var slips = Enumerable.Range(0, 4).Select(i => desk.Catch($"idea {i}").Number).ToList();
        Decide(slips[0], new Decision.Keep());
        Decide(slips[1], new Decision.Drop());
        Decide(slips[2], new Decision.Hold(desk.Today.AddDays(2)));
        var sitting = desk.Sift.Sitting();
        sitting.Waiting.ShouldBe(1);
        sitting.Settled.ShouldBe(3);
        sitting.Groups.ShouldHaveSingleItem().Slips.ShouldHaveSingleItem().Number.ShouldBe(slips[3]);
    }

    [Fact]
    public void A_held_slip_comes_back_on_its_date()
    {
        var slip = desk.Catch("ice roads").Number;
        Decide(slip, new Decision.Hold(desk.Today.AddDays(2)));
        desk.Clock.Advance(TimeSpan.FromDays(1));
        desk.Sift.Sitting().Waiting.ShouldBe(0);
        desk.Clock.Advance(TimeSpan.FromDays(1));
        var sitting = desk.Sift.Sitting();
        sitting.Waiting.ShouldBe(1);
        sitting.Groups.ShouldHaveSingleItem().BackFromHold.ShouldBeTrue();
        desk.Days.Day(desk.Today).BackFromHold.ShouldHaveSingleItem().Number.ShouldBe(slip);
        Decide(slip, new Decision.Keep());
        desk.Sift.Sitting().Waiting.ShouldBe(0);
    }

    [Fact]
    public void A_slip_can_not_be_held_until_today()
    {
        var slip = desk.Catch("now").Number;
        Should.Throw<BadInputException>(() => Decide(slip, new Decision.Hold(desk.Today))).Field.ShouldBe("until");
        desk.Sift.Sitting().Waiting.ShouldBe(1);
    }

    [Fact]
    public void Slips_are_grouped_by_the_door_they_came_in_by()
    {
        desk.Catch("written");
        desk.Capture.Catch([new ToCatch("a", Origin: Origin.Paste), new ToCatch("b", Origin: Origin.Paste)], Once.Unkeyed);
        desk.Capture.Catch([new ToCatch("weir", Origin: Origin.Feed, OriginNote: "River Trust")], Once.Unkeyed);
        desk.Sift.Sitting().Groups.Select(g => (g.Origin, g.Note, g.Slips.Count)).ShouldBe([(Origin.Feed, "River Trust", 1), (Origin.Paste, "", 2), (Origin.Strip, "", 1)], ignoreOrder: true);
    }

    [Fact]
    public void A_piece_starts_with_the_skeleton_and_the_slip_as_material()
    {
        var slip = desk.Catch("“Ferrymen paid in bread” #tolls").Number;
        var settled = Decide(slip, new Decision.StartPiece("letter"));
        var piece = desk.Pieces.Get(settled.Piece!.Value);
        piece.ShouldSatisfyAllConditions(
            p => p.Title.ShouldBe("Ferrymen paid in bread"), p => p.Format.ShouldBe("letter"), p => p.Stage.ShouldBe("Gather"), p => p.Topics.Single().Name.ShouldBe("tolls"));
        desk.Drafts.Get(piece.Number).Sections.Select(s => s.Title).ShouldContain("Sign-off");
        desk.Pieces.Material(piece.Number).Items.ShouldHaveSingleItem().Slip!.Number.ShouldBe(slip);
        desk.Slips.Get(slip).ShouldSatisfyAllConditions(s => s.State.ShouldBe(SlipState.Kept), s => s.Used.ShouldBeFalse());
    }

    [Fact]
    public void Merging_keeps_both_texts_and_lets_topics_and_pieces_follow()
    {
        var into = desk.Catch("wages in kind #tolls").Number;
        var slip = desk.Catch("paid in bread #ferries").Number;
        var piece = desk.Pieces.Start(new NewPiece("Bread", Slip: slip), Once.Unkeyed).Answer.Number;
        var settled = Decide(slip, new Decision.MergeInto(into));
        settled.MergedWith!.Text.ShouldBe("wages in kind\n\npaid in bread");
        settled.MergedWith.Topics.Select(t => t.Name).ShouldBe(["tolls", "ferries"]);
        settled.Slip.ShouldSatisfyAllConditions(s => s.State.ShouldBe(SlipState.Dropped), s => s.MergedInto.ShouldBe(into));
        desk.Pieces.Material(piece).Items.ShouldHaveSingleItem().Slip!.Number.ShouldBe(into);
        Should.Throw<BadInputException>(() => Decide(into, new Decision.MergeInto(into))).Field.ShouldBe("slip");
        Should.Throw<BadInputException>(() => Decide(into, new Decision.MergeInto(slip))).Message.ShouldContain("itself merged");
        Should.Throw<BadInputException>(() => Decide(into, new Decision.MergeInto(SlipNumber.Of(99))));
    }

    [Fact]
    public void Dropped_slips_can_be_brought_back()
    {
        var slip = desk.Catch("puddles").Number;
        Decide(slip, new Decision.Drop());
        Decide(slip, new Decision.PutBack()).Slip.State.ShouldBe(SlipState.Waiting);
        desk.Sift.Sitting().ShouldSatisfyAllConditions(s => s.Waiting.ShouldBe(1), s => s.Settled.ShouldBe(0));
    }

    [Fact]
    public void Advice_learns_from_every_decision_at_once()
    {
        desk.Decisions.Decide(desk.Catch("the ferryman was paid in loaves of bread #tolls").Number, new Decision.Keep(), Once.Unkeyed);
        desk.Catch("eels climb the bristles at night #eels");
        var asked = desk.Catch("loaves of bread for the ferryman").Number;
        var advice = desk.Advice.For(asked);
        advice.ReadsLike.ShouldHaveSingleItem().Thing.Number.ShouldBe(1);
        advice.ReadsLike[0].Words.ShouldContain("loaves bread");
        advice.Topics.ShouldHaveSingleItem().Topic.Name.ShouldBe("tolls");

        // Dropped: no longer offered as reading alike.
        Decide(SlipNumber.Of(1), new Decision.Drop());
        desk.Advice.For(asked).ReadsLike.ShouldBeEmpty();
        // Rewritten: nearness follows the words.
        desk.Slips.Edit(SlipNumber.Of(2), new SlipChange { Version = 1, Text = "the ferryman’s loaves of bread" }, Once.Unkeyed);
        desk.Advice.For(asked).ReadsLike.ShouldHaveSingleItem().Thing.Number.ShouldBe(2);
    }

    [Fact]
    public void Advice_says_nothing_when_it_knows_nothing()
    {
        desk.Catch("eels climb at night #eels");
        var advice = desk.Advice.For(desk.Catch("a parapet is as high as an elbow").Number);
        advice.ShouldSatisfyAllConditions(a => a.Topics.ShouldBeEmpty(), a => a.ReadsLike.ShouldBeEmpty(), a => a.WouldFit.ShouldBeEmpty());
    }

    [Fact]
    public void Pieces_in_hand_that_a_slip_would_fit_are_offered()
    {
        var piece = desk.Pieces.Start(new NewPiece("The price of bread on the ferry"), Once.Unkeyed).Answer;
        var slip = desk.Catch("what a loaf of bread cost, and the ferry").Number;
        desk.Advice.For(slip).WouldFit.ShouldHaveSingleItem().Thing.ShouldBe(Reference.To(piece.Number));
        desk.Pieces.Edit(piece.Number, new PieceChange { Version = 1, Stage = "Out" }, Once.Unkeyed);
        desk.Advice.For(slip).ShouldSatisfyAllConditions(a => a.WouldFit.ShouldBeEmpty(), a => a.ReadsLike.ShouldContain(r => r.OutOn == desk.Today));
    }
}
