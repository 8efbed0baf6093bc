using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;
using Nachlass.Store.Sources;

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
        desk.Sift.Sitting()
            .Groups.Select(g => (g.Origin, g.Note, g.Slips.Count))
            .ShouldBe([(Origin.Feed, "River Trust", 1), (Origin.Paste, "", 2), (Origin.Strip, "", 1)], ignoreOrder: true);
    }

    [Fact]
    public void A_piece_starts_with_the_skeleton_and_the_slip_as_material()
    {
        var slip = desk.Catch("“Ferrymen paid in bread” #tolls").Number;
        var settled = Decide(slip, new Decision.StartPiece("letter"));
        var piece = desk.Pieces.Get(settled.Piece!.Value);
        piece.ShouldSatisfyAllConditions(
            p => p.Title.ShouldBe("Letter 1: Ferrymen paid in bread"),
            p => p.Format.ShouldBe("letter"),
            p => p.Stage.ShouldBe("Gather"),
            p => p.Topics.Single().Name.ShouldBe("tolls")
        );
        desk.Drafts.Get(piece.Number).Sections.Select(s => s.Title).ShouldContain("Sign-off");
        desk.Pieces.Material(piece.Number).Items.ShouldHaveSingleItem().Slip!.Number.ShouldBe(slip);
        desk.Slips.Get(slip).ShouldSatisfyAllConditions(s => s.State.ShouldBe(SlipState.Kept), s => s.Used.ShouldBeTrue());
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
        desk.Advice.For(slip)
            .ShouldSatisfyAllConditions(a => a.WouldFit.ShouldBeEmpty(), a => a.ReadsLike.ShouldContain(r => r.OutOn == desk.Today));
    }

    [Fact]
    public void A_topic_taken_off_or_refused_is_not_offered_again_and_near_slips_learn_from_it()
    {
        var first = desk.Catch("the ferryman was paid in bread on flood days #tolls").Number;
        desk.Decisions.Decide(first, new Decision.Keep(), Once.Unkeyed);
        var asked = desk.Catch("was every ferryman paid in bread on flood days").Number;
        var tolls = desk.Advice.For(asked).Topics.ShouldHaveSingleItem().Topic.Number;
        var refused = desk.Slips.Refuse(asked, tolls, Once.Unkeyed);
        desk.Advice.For(asked).Topics.ShouldBeEmpty();
        // The refusal of one speaks against the topic for another.
        var third = desk.Catch("no ferryman was ever paid in bread, on flood days or on others").Number;
        var doubtful = desk.Advice.For(third).Topics.SingleOrDefault()?.Figure ?? 0;
        desk.Undo(refused.Command);
        desk.Advice.For(third).Topics.Single().Figure.ShouldBeGreaterThan(doubtful);
        desk.Slips.Edit(first, new SlipChange { Version = desk.Slips.Get(first).Version, Topics = [] }, Once.Unkeyed);
        desk.Advice.For(first).Topics.ShouldBeEmpty();
    }

    [Fact]
    public void Figures_are_learnt_from_the_writers_own_decisions()
    {
        for (var i = 0; i < 40; i++)
        {
            desk.Decisions.Decide(
                desk.Catch($"the toll of loaf {i} was doubled in flood {i} #tolls").Number,
                new Decision.Keep(),
                Once.Unkeyed
            );
            desk.Decisions.Decide(
                desk.Catch($"the bell of tower {i} was cast by founder {i} #bells").Number,
                new Decision.Keep(),
                Once.Unkeyed
            );
        }
        desk.Learning.Learn();
        var likely = desk.Advice.For(desk.Catch("which toll was doubled in that flood").Number).Topics[0];
        likely.ShouldSatisfyAllConditions(
            l => l.Topic.Name.ShouldBe("tolls"),
            l => l.IsCalibrated.ShouldBeTrue(),
            l => l.Figure.ShouldBeGreaterThan(0.8)
        );
    }

    [Fact]
    public void A_decision_counts_at_once_and_its_undo_and_redo_lead_to_the_same_figures()
    {
        for (var i = 0; i < 40; i++)
        {
            desk.Decisions.Decide(
                desk.Catch($"the toll of loaf {i} was doubled in flood {i} #tolls").Number,
                new Decision.Keep(),
                Once.Unkeyed
            );
            desk.Decisions.Decide(
                desk.Catch($"the bell of tower {i} was cast by founder {i} #bells").Number,
                new Decision.Keep(),
                Once.Unkeyed
            );
        }
        desk.Learning.Learn();
        var asked = desk.Catch("a sturgeon in the net under the mill").Number;
        string Figures() =>
            string.Join(
                "; ",
                desk.Advice.For(asked)
                    .Topics.Select(t =>
                        $"{t.Topic.Name} {t.Figure:R} {string.Join(',', t.Because.Select(b => $"{b.Word}{b.Sorted}{b.Figure:R}"))}"
                    )
            );
        string Words() =>
            string.Join(
                "; ",
                desk.Advice.For(asked)
                    .Topics.OrderBy(t => t.Topic.Name)
                    .SelectMany(t => t.Because.Where(b => b.Word is not null).Select(b => $"{t.Topic.Name} {b.Word} {b.Figure:R}"))
            );
        var before = Figures();
        var other = desk.Catch("sturgeon were netted at the mill").Number;
        var decided = desk.Slips.Edit(other, new SlipChange { Version = desk.Slips.Get(other).Version, Topics = ["bells"] }, Once.Unkeyed);
        var after = Figures();
        after.ShouldNotBe(before);
        desk.Advice.For(asked).Topics.Single(t => t.Topic.Name == "bells").Because.ShouldContain(b => b.Word == "sturgeon");
        desk.Undo(decided.Command);
        Figures().ShouldBe(before);
        desk.Undo(desk.LastStepOver(decided.Command));
        Figures().ShouldBe(after);
        desk.Undo(desk.LastStepOver(decided.Command));
        // Learnt anew from what is decided now: the same weights again, to the last bit.
        var words = Words();
        desk.Learning.Learn();
        Words().ShouldBe(words);
    }

    [Fact]
    public void What_is_nearly_the_same_is_marked_with_what_differs()
    {
        desk.Catch("The Harnsby bell was rung every quarter of an hour in fog so that its stopping would mean something");
        var again = desk.Catch(
            "The bell at Harnsby was rung every quarter of an hour in fog, so that when it stopped it meant something"
        ).Number;
        var near = desk.Advice.For(again).ReadsLike.ShouldHaveSingleItem();
        near.Differences.ShouldNotBeNull().ShouldContain(s => s.In == Core.Text.StretchIn.Second && s.Text.Contains("stopping"));
    }

    [Fact]
    public void A_release_that_says_it_and_the_section_it_would_stand_in_are_named()
    {
        var letter = desk.Pieces.Start(new NewPiece("Letter 12"), Once.Unkeyed).Answer;
        desk.Drafts.Save(
            letter.Number,
            "## Main\n\nThe night bell of Quillan was muffled with a glove by the clerk.\n",
            desk.Drafts.Get(letter.Number).Version,
            Once.Unkeyed
        );
        var slip = desk.Catch("A clerk muffled the night bell of Quillan with a glove").Number;
        desk.Advice.For(slip)
            .ShouldSatisfyAllConditions(
                a => a.Said.ShouldBeEmpty(),
                a => a.WouldFit.ShouldHaveSingleItem().Section!.Title.ShouldBe("Main")
            );
        var section = desk.Advice.For(slip).WouldFit[0].Section!.Number;
        desk.Decisions.Decide(slip, new Decision.PutIntoPiece(letter.Number, section), Once.Unkeyed);
        desk.Slips.Get(slip).Used.ShouldBeTrue();
        desk.Pieces.Edit(letter.Number, new PieceChange { Version = desk.Pieces.Get(letter.Number).Version, Stage = "Out" }, Once.Unkeyed);
        var advice = desk.Advice.For(slip);
        advice
            .Said.ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                s => s.OutOn.ShouldBe(desk.Today),
                s => s.Saying.Passage.ShouldStartWith("The night bell of Quillan")
            );
        advice.Effort!.Because.ShouldHaveSingleItem().Title.ShouldBe("Letter 12");
    }

    [Fact]
    public void A_dropped_slip_is_offered_again_when_an_ask_or_a_source_reads_like_it()
    {
        var slip = desk.Catch("Ring the night bell of Quillan once more").Number;
        desk.Decisions.Decide(slip, new Decision.Drop(), Once.Unkeyed);
        desk.Advice.Again().ShouldBeEmpty();
        desk.Sources.Add(
            new Store.Sources.SourceChange { Title = "Who will ring the night bell of Quillan?", Summary = "A plea to ring it once more." },
            Once.Unkeyed
        );
        var again = desk.Advice.Again().ShouldHaveSingleItem();
        again.ShouldSatisfyAllConditions(w => w.Slip.Thing.ShouldBe(Reference.To(slip)), w => w.New.Kind.ShouldBe(ThingKind.Source));
        desk.Advice.For(desk.Catch("could one ring the night bell of Quillan once more?").Number).Dropped.ShouldHaveSingleItem();
        desk.Decisions.PassOver(slip, again.New, Once.Unkeyed);
        desk.Advice.Again().ShouldBeEmpty();
    }

    [Fact]
    public void A_dropped_slip_is_not_offered_again_for_its_own_source()
    {
        var bells = new Core.Capture.FoundSource("Who will ring the night bell of Quillan?")
        {
            Passages = [new("Ring the night bell of Quillan once more")],
        };
        desk.Imports.Run(
            "clipped",
            Origin.Clip,
            null,
            () => [("", new Core.Capture.Found.OfSource(0, bells))],
            Once.Unkeyed,
            stop: TestContext.Current.CancellationToken
        );
        var slip = desk.Slips.Get(SlipNumber.Of(1));
        slip.Source.ShouldNotBeNull();
        desk.Decisions.Decide(slip.Number, new Decision.Drop(), Once.Unkeyed);
        desk.Advice.Again().ShouldBeEmpty();
    }

    [Fact]
    public void Used_is_one_thing_everywhere_from_being_started_from_to_standing_in_the_text()
    {
        var slips = new[] { "starts", "loose", "said", "untouched" }.Select(text => desk.Catch(text).Number).ToList();
        desk.Clock.Advance(TimeSpan.FromMinutes(1));
        var piece = Decide(slips[0], new Decision.StartPiece()).Piece!.Value;
        Decide(slips[1], new Decision.PutIntoPiece(piece));
        var draft = desk.Drafts.Get(piece);
        desk.Drafts.Save(piece, $"As [[slip {slips[2]}]] has it.\n", draft.Version, Once.Unkeyed);
        Decide(slips[2], new Decision.Keep());
        Decide(slips[3], new Decision.Keep());
        void Are(params bool[] used)
        {
            slips.Select(s => desk.Slips.Get(s).Used).ShouldBe(used);
            var asked = desk.Library.List(new LibraryQuery("in:slips used:yes")).Items.Select(e => e.Slip!.Number);
            asked.ShouldBe(slips.Where((_, i) => used[i]), ignoreOrder: true);
            desk.Library.Facets(new LibraryQuery()).Used.ShouldBe(used.Count(u => u));
            desk.Flow.Over(1).Months.Sum(m => m.Used).ShouldBe(used.Count(u => u));
        }
        Are(true, true, true, false);
        var standing = desk.Slips.Open(slips[2]).Pieces.ShouldHaveSingleItem();
        standing.ShouldSatisfyAllConditions(s => s.Way.ShouldBe(StandingWay.Text), s => s.OutOn.ShouldBeNull());
        var whole = desk.Pieces.Get(piece);
        desk.Pieces.Edit(piece, new PieceChange { Version = whole.Version, Stage = "Out" }, Once.Unkeyed);
        desk.Slips.Open(slips[1]).Pieces.ShouldHaveSingleItem().OutOn.ShouldBe(desk.Today);
        desk.Flow.Over(1).Months.Sum(m => m.Out).ShouldBe(3);
        desk.Pieces.Edit(piece, new PieceChange { Version = desk.Pieces.Get(piece).Version, Trashed = true }, Once.Unkeyed);
        Are(false, false, false, false);
    }

    [Fact]
    public void A_piece_of_a_claim_takes_its_title_and_what_speaks_for_it_and_against_it()
    {
        var (claim, supports, denies) = (
            desk.Catch("bread was wages").Number,
            desk.Catch("paid in loaves").Number,
            desk.Catch("coin").Number
        );
        desk.Claims.Refine(claim, "Ferrymen were paid in bread", Once.Unkeyed);
        desk.Claims.Weigh(claim, Reference.To(denies), Side.Against, null, Once.Unkeyed);
        desk.Claims.Weigh(claim, Reference.To(supports), Side.For, "the account book", Once.Unkeyed);
        var started = desk.Decisions.Decide(claim, new Decision.StartPiece(), Once.Unkeyed);
        var piece = started.Answer.Piece!.Value;
        desk.Pieces.Get(piece).Title.ShouldBe("Ferrymen were paid in bread");
        desk.Pieces.Material(piece).Items.Select(m => m.Slip!.Number).ShouldBe([claim, supports, denies]);
        desk.Undo(started.Command);
        desk.Pieces.List().ShouldBeEmpty();
    }

    [Theory]
    [InlineData("Weir closed till March https://tavle.example/weir", "Weir closed till March", "Weir closed till March")]
    [InlineData("Like https://tavle.example/wall but wetter", "Like but wetter", "tavle.example/wall")]
    [InlineData("https://tavle.example/wall", "tavle.example/wall", "tavle.example/wall")]
    public void A_link_is_no_title(string caught, string piece, string source)
    {
        var slip = desk.Catch(caught);
        desk.Sources.Get(slip.Source!.Value).Title.ShouldBe(source);
        desk.Pieces.Get(Decide(slip.Number, new Decision.StartPiece()).Piece!.Value).Title.ShouldBe(piece);
    }

    [Fact]
    public void A_slip_can_be_meant_for_several_formats_and_counts_for_each()
    {
        var slip = desk.Catch("one idea, twice #bells");
        desk.Slips.Edit(slip.Number, new SlipChange { Version = slip.Version, Formats = ["talk", "essay", "talk"] }, Once.Unkeyed);
        Decide(slip.Number, new Decision.Keep());
        desk.Slips.Get(slip.Number).Formats.ShouldBe(["essay", "talk"]);
        foreach (var key in new[] { "essay", "talk" })
            desk.Library.List(new LibraryQuery($"format:{key}")).Total.ShouldBe(1);
        desk.Library.List(new LibraryQuery("format:letter")).Total.ShouldBe(0);
        desk.Coverage.Map(null).Cells.Select(c => c.Column).ShouldBe(["essay", "talk"], ignoreOrder: true);
        Should
            .Throw<BadInputException>(() => desk.Slips.Edit(slip.Number, new SlipChange { Version = 99, Formats = ["epic"] }, Once.Unkeyed))
            .Field.ShouldBe("format");
    }
}
