using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Bench;

public sealed class StartTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private SlipNumber Kept(string text, int? pull = null)
    {
        var slip = desk.Catch(text);
        if (pull is not null)
            desk.Slips.Edit(slip.Number, new SlipChange { Version = slip.Version, Pull = pull }, Once.Unkeyed);
        desk.Decisions.Decide(slip.Number, new Decision.Keep(), Once.Unkeyed);
        return slip.Number;
    }

    private const string Said = "The ferrymen of Ostrey took bread for coin whenever the river stood over the stage.";

    private PieceNumber Piece(string title, string text, bool isOut)
    {
        var piece = desk.Pieces.Start(new NewPiece(title, "essay"), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(piece, $"## One\n\n{text}\n", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        if (isOut)
            desk.Pieces.Edit(piece, new PieceChange { Version = desk.Pieces.Get(piece).Version, Stage = "Out" }, Once.Unkeyed);
        return piece;
    }

    [Fact]
    public void It_is_said_first_whether_it_has_been_said_or_is_in_work_with_the_passage()
    {
        var sent = Piece("Bread", Said, isOut: true);
        var inWork = Piece("Loaves", "Ferrymen of Ostrey took bread for coin.", isOut: false);
        var idea = Kept(Said);
        var offer = desk.Starting.Offer(new Beginning([idea]));
        offer.Said.Select(s => s.Piece).ShouldBe([sent, inWork], ignoreOrder: true);
        offer.Said[0].Saying.Passage.ShouldBe(Said);
        offer.Said.Single(s => s.Piece == sent).OutOn.ShouldBe(desk.Today);
        offer.Said.Single(s => s.Piece == inWork).OutOn.ShouldBeNull();
        desk.Starting.Offer(new Beginning()).Said.ShouldBeEmpty();
    }

    [Fact]
    public void What_comes_along_says_why_and_what_speaks_for_a_claim_is_ticked()
    {
        var claim = Kept("Bread was money on flood days at Ostrey #tolls");
        var proof = Kept("“Four loaves, no coin”");
        var near = Kept("“Bread for money on flood days at Ostrey” #tolls");
        desk.Claims.Refine(claim, "Bread was money", Once.Unkeyed);
        desk.Claims.Weigh(claim, Reference.To(proof), Side.Against, "one board only", Once.Unkeyed);
        var offer = desk.Starting.Offer(new Beginning([claim]));
        offer.Titles[0].Title.ShouldBe("Bread was money");
        offer.Topics.ShouldBe(["tolls"]);
        offer
            .Material[0]
            .ShouldBe(new MaterialOffer(Reference.To(claim), "Bread was money on flood days at Ostrey", "the idea itself", true));
        offer
            .Material.Single(m => m.Thing == Reference.To(proof))
            .ShouldSatisfyAllConditions(m => m.Why.ShouldBe("speaks against it: one board only"), m => m.Ticked.ShouldBeTrue());
        offer.Material.Single(m => m.Thing == Reference.To(near)).Why.ShouldBe("near it or tied to it");
        offer.Material.Select(m => m.Thing).ShouldBeUnique();
    }

    [Fact]
    public void A_topic_brings_what_draws_most_and_is_unused()
    {
        var (strong, weak) = (Kept("Who painted the board? #tolls", 5), Kept("A board, repainted #tolls", 2));
        var used = Kept("Used already #tolls", 5);
        desk.Pieces.Start(new NewPiece("Piece", Slip: used), Once.Unkeyed);
        var topic = desk.Topics.List().Single(t => t.Name == "tolls").Number;
        var offer = desk.Starting.Offer(new Beginning(Topic: topic, Format: "talk"));
        offer.About.ShouldBe("the topic tolls");
        offer.Format.ShouldBe("talk");
        offer.Material.Select(m => (m.Thing, m.Ticked)).ShouldBe([(Reference.To(strong), true), (Reference.To(weak), false)]);
        offer.Material[0].Why.ShouldBe("a question that draws you 5 of 5");
        Should.Throw<NotThereException>(() => desk.Starting.Offer(new Beginning(Topic: TopicNumber.Of(99))));
        Should.Throw<NotThereException>(() => desk.Starting.Offer(new Beginning([SlipNumber.Of(99)])));
    }

    [Fact]
    public void A_piece_begins_with_all_that_comes_along_as_one_step()
    {
        var (idea, other) = (desk.Catch("Ferrymen were paid in bread").Number, Kept("“Four loaves, no coin”"));
        var source = desk.Sources.Add(new Store.Sources.SourceChange { Title = "Account book" }, Once.Unkeyed).Answer.Number;
        var started = desk.Pieces.Start(
            new NewPiece(
                "The far bank",
                "letter",
                Slip: idea,
                Topics: ["tolls"],
                Slips: [idea, other],
                Sources: [source],
                Due: desk.Today.AddDays(9)
            ),
            Once.Unkeyed
        );
        started.Answer.ShouldSatisfyAllConditions(
            p => p.Title.ShouldBe("Letter 1: The far bank"),
            p => p.Due.ShouldBe(desk.Today.AddDays(9)),
            p => p.Topics.Single().Name.ShouldBe("tolls")
        );
        var material = desk.Pieces.Material(started.Answer.Number).Items;
        material.Select(m => m.Slip?.Number.Value ?? -m.Source!.Number.Value).ShouldBe([idea.Value, other.Value, -source.Value]);
        desk.Slips.Get(idea).State.ShouldBe(SlipState.Kept);
        desk.Weighing.Choices().Record.Choices.ShouldBe(1);
        desk.Undo(started.Command);
        desk.Pieces.List().ShouldBeEmpty();
        desk.Slips.Get(idea).State.ShouldBe(SlipState.Waiting);
        desk.Starting.Offer(new Beginning()).Numbers["letter"].ShouldBe(1);
    }

    [Fact]
    public void A_sequel_brings_what_was_left_over_and_another_format_what_stood_there()
    {
        var (stands, left) = (Kept("“Four loaves”"), Kept("“Five eels”"));
        var piece = desk.Pieces.Start(new NewPiece("Bread", "essay", Slips: [stands, left]), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(piece, $"## One\n\nFour loaves. [[slip {stands}]]\n", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        var offer = desk.Starting.Offer(new Beginning(Piece: piece));
        offer
            .Material.Single(m => m.Thing == Reference.To(left))
            .ShouldSatisfyAllConditions(m => m.Ticked.ShouldBeTrue(), m => m.Why.ShouldBe("was left over from P 1"));
        offer.Material.Single(m => m.Thing == Reference.To(stands)).Ticked.ShouldBeFalse();
        var next = desk.Pieces.Start(new NewPiece("More bread", "thread", From: piece, Slips: [left]), Once.Unkeyed).Answer;
        next.Brief.ShouldBe("after P 1");
    }

    [Fact]
    public void A_marked_paragraph_begins_the_draft_and_leaves_the_list()
    {
        var quote = Kept("Nineteen steps lead down, and the last is under water.");
        var usable = desk
            .Usable.Mark(Reference.To(quote), desk.Usable.Paragraphs(Reference.To(quote))[0].Text, "post", Once.Unkeyed)
            .Answer;
        desk.Starting.Offer(new Beginning(Usable: usable.Number)).Format.ShouldBe("post");
        var started = desk.Pieces.Start(new NewPiece("Nineteen steps", "essay", Usable: usable.Number), Once.Unkeyed);
        var draft = desk.Drafts.Get(started.Answer.Number);
        draft.Text.ShouldStartWith("## Where it begins\n\nNineteen steps lead down");
        draft.Sections.Count.ShouldBe(5);
        desk.Usable.List().ShouldBeEmpty();
        Should.Throw<BadInputException>(() => desk.Pieces.Start(new NewPiece("Again", Usable: usable.Number), Once.Unkeyed));
        desk.Undo(started.Command);
        desk.Usable.List().Count.ShouldBe(1);
    }
}
