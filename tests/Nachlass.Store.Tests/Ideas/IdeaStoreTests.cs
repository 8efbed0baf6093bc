using Nachlass.Core.Capture;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Ideas;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Ideas;

public sealed class IdeaStoreTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly TopicNumber ferries;

    public IdeaStoreTests()
    {
        string[] texts =
        [
            "They pulled the ferry over by hand #ferries",
            "A ferry never waits for the bread #ferries",
            "The old ferry was tarred again in spring #ferries",
            "He paid for the ferry in loaves #ferries",
            "By the ferry stood a bell without a clapper #ferries",
            "The bell was rung by whoever came #ferries",
            "Who paid for a bell? #ferries",
        ];
        foreach (var text in texts)
            Keep(desk.Catch(text));
        for (var i = 0; i < 60; i++)
            Keep(desk.Catch($"Something else of the kind {i}, with bread number {i * 7} #bread"));
        ferries = desk.Topics.List().Single(t => t.Name == "ferries").Number;
    }

    public void Dispose() => desk.Dispose();

    private void Keep(Slip slip) => desk.Decisions.Decide(slip.Number, new Decision.Keep(), Once.Unkeyed);

    private List<IdeaComing> Make(int count = 10, int seed = 1) =>
        [.. desk.Ideas.Make(new IdeasWanted([ferries], count, Seed: seed), TestContext.Current.CancellationToken)];

    private IReadOnlyList<IdeaShown> Kept(int count = 10) => desk.Ideas.Keep(Make(count), 1, Once.Unkeyed).Answer;

    [Fact]
    public void Ideas_are_made_from_what_is_in_the_papers_and_say_from_what()
    {
        var made = Make();
        made.Count.ShouldBe(10);
        made.ShouldAllBe(i => i.Topic!.Name == "ferries" && i.From.Count > 0 && i.Because.Length > 0);
        var term = made.First(i => i.Kind == SparkKind.Term);
        term.Because.ShouldMatch("“(ferry|bell)” stands in [35] of 7 texts on ferries, and nowhere else");
        term.From.ShouldAllBe(f => f.Kind == OriginKind.Slip);
        made.First(i => i.Kind == SparkKind.Question).Text.ShouldStartWith("Who paid for a bell?");
        Make().Select(i => i.Text).ShouldBe(made.Select(i => i.Text), "the same papers and seed give the same ideas");
        desk.Ideas.ToSort().ShouldBeEmpty("nothing is kept by making them");
    }

    [Fact]
    public void More_like_one_come_from_the_same_shorter_ones_are_shorter_and_those_for_beginners_say_so()
    {
        var one = Kept(6).Where(i => i.Idea.Kind == SparkKind.Term).MaxBy(i => i.Idea.Text.Length)!;
        List<IdeaComing> Like(IdeaManner manner) =>
            [.. desk.Ideas.Make(new IdeasWanted(Count: 5, Like: one.Number, As: manner), TestContext.Current.CancellationToken)];
        var more = Like(IdeaManner.More);
        more.ShouldNotBeEmpty();
        more.ShouldAllBe(i => i.Topic == one.Idea.Topic && (i.Kind == one.Idea.Kind || i.From.Any(f => one.Idea.From.Contains(f))));
        more.ShouldAllBe(i => i.Text != one.Idea.Text, "not the same again");
        Like(IdeaManner.Shorter).ShouldAllBe(i => i.Text.Length < one.Idea.Text.Length);
        Like(IdeaManner.Shorter).ShouldNotBeEmpty();
        Like(IdeaManner.Beginners).ShouldAllBe(i => i.Text.EndsWith("(for those who know nothing of it yet)"));
        Should.Throw<NotThereException>(() =>
            desk.Ideas.Make(new IdeasWanted(Like: OfferNumber.Of(999)), TestContext.Current.CancellationToken).ToList()
        );
    }

    [Fact]
    public void Whoever_stops_gets_no_more()
    {
        using var stop = new CancellationTokenSource();
        var made = new List<IdeaComing>();
        Should.Throw<OperationCanceledException>(() =>
        {
            foreach (var idea in desk.Ideas.Make(new IdeasWanted([ferries], 10), stop.Token))
            {
                made.Add(idea);
                if (made.Count == 3)
                    stop.Cancel();
            }
        });
        made.Count.ShouldBe(3);
    }

    [Fact]
    public void Taken_ones_become_slips_with_their_origin_and_one_step_takes_that_back()
    {
        var ideas = Kept();
        var two = ideas.Take(2).Select(i => i.Number).ToList();
        var taken = desk.Ideas.Decide(new IdeasDecided(two, IdeaAct.Take), Once.Unkeyed);
        foreach (var idea in taken.Answer.Ideas)
        {
            var slip = desk.Slips.Get(idea.Slip!.Value);
            slip.Text.ShouldStartWith(idea.Idea.Text);
            slip.Text.ShouldContain($"[[slip {idea.Idea.From[0].Number}]]");
            (slip.Kind, slip.State, slip.OriginNote).ShouldBe((SlipKind.Idea, SlipState.Kept, $"proposed: {idea.Idea.Shape}"));
            slip.Topics.ShouldHaveSingleItem().Name.ShouldBe("ferries");
        }
        desk.Ideas.ToSort().Count.ShouldBe(8);
        Should.Throw<ClashException>(() => desk.Ideas.Decide(new IdeasDecided(two, IdeaAct.Refuse), Once.Unkeyed));
        desk.Undo(taken.Command);
        desk.Ideas.ToSort().Count.ShouldBe(10);
        Should.Throw<NotThereException>(() => desk.Slips.Get(taken.Answer.Ideas[0].Slip!.Value));
    }

    [Fact]
    public void A_piece_is_begun_from_one_of_them()
    {
        var idea = Kept()[0];
        var started = desk.Ideas.Decide(new IdeasDecided([idea.Number], IdeaAct.Start), Once.Unkeyed).Answer;
        var slip = started.Ideas[0].Slip!.Value;
        desk.Pieces.Material(started.Piece!.Value).Items.ShouldContain(m => m.Slip != null && m.Slip.Number == slip);
        var others = desk.Ideas.ToSort().Select(i => i.Number).Take(2).ToList();
        Should
            .Throw<BadInputException>(() => desk.Ideas.Decide(new IdeasDecided(others, IdeaAct.Start), Once.Unkeyed))
            .Field.ShouldBe("ideas");
    }

    [Fact]
    public void Refused_ones_and_their_kin_are_not_proposed_again_and_those_put_off_come_last()
    {
        var ideas = Kept();
        desk.Ideas.Decide(new IdeasDecided([ideas[0].Number], IdeaAct.Refuse), Once.Unkeyed);
        desk.Ideas.Decide(new IdeasDecided([ideas[1].Number], IdeaAct.Later), Once.Unkeyed);
        desk.Ideas.ToSort().Select(i => i.Number).ShouldBe([.. ideas.Skip(2).Select(i => i.Number), ideas[1].Number]);
        foreach (var seed in Enumerable.Range(1, 8))
            Make(100, seed).Select(i => i.Text).ShouldNotContain(text => ideas.Any(i => i.Idea.Text == text));
    }

    [Fact]
    public void Words_are_changed_before_it_is_taken_and_a_stale_change_is_refused()
    {
        var idea = Kept()[0];
        var changed = desk.Ideas.Reword(idea.Number, new IdeaReworded("Loaves for a crossing", idea.Version), Once.Unkeyed).Answer;
        changed.Idea.Text.ShouldBe("Loaves for a crossing");
        Should.Throw<StaleException>(() => desk.Ideas.Reword(idea.Number, new IdeaReworded("Other", idea.Version), Once.Unkeyed));
        Should.Throw<BadInputException>(() => desk.Ideas.Reword(idea.Number, new IdeaReworded(" ", changed.Version), Once.Unkeyed));
        var slip = desk.Ideas.Decide(new IdeasDecided([idea.Number], IdeaAct.Take), Once.Unkeyed).Answer.Ideas[0].Slip!.Value;
        desk.Slips.Get(slip).Text.ShouldStartWith("Loaves for a crossing");
    }

    private PieceNumber Out(string title, string text)
    {
        var piece = desk.Pieces.Start(new NewPiece(title), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(piece, text, desk.Drafts.Get(piece).Version, Once.Unkeyed);
        var begun = desk.Pieces.Get(piece);
        desk.Pieces.Edit(piece, new PieceChange { Version = begun.Version, Stage = "Out" }, Once.Unkeyed);
        return piece;
    }

    [Fact]
    public void What_went_out_already_is_told_with_its_passage()
    {
        var piece = Out("The bell", "Who lost by the ferry? Those who had the ford.");
        var said = Make(100).Single(i => i.Text == "Who lost by the ferry").SaidIn.ShouldNotBeNull();
        (said.Piece, said.Title).ShouldBe((piece, "The bell"));
        said.Passage.ShouldContain("Who lost by the ferry");
    }

    [Fact]
    public void The_words_of_an_angle_alone_say_nothing_already()
    {
        Out("Of the parish", "It was asked who has the say over the parish, and who only thinks so.");
        var decides = Make(100).Where(i => i.Shape == "who decides").ToList();
        decides.ShouldContain(i => i.Text == "Who has the say over the ferry, and who only thinks so");
        decides.ShouldAllBe(i => i.SaidIn == null, "nothing of the ferry is said there");
        var about = Out("Of the ferry", "It was asked who has the say over the ferry, and who only thinks so.");
        Make(100).Single(i => i.Text == "Who has the say over the ferry, and who only thinks so").SaidIn!.Piece.ShouldBe(about);
    }

    [Fact]
    public void Occasions_and_empty_cells_and_things_that_went_together_are_sparks_too()
    {
        desk.Occasions.Add(
            new OccasionChange
            {
                Name = "Night of lanterns",
                From = desk.Today.AddDays(20),
                Topics = ["ferries"],
            },
            Once.Unkeyed
        );
        var made = Make(100);
        made.ShouldContain(i => i.Kind == SparkKind.Occasion && i.Text.Contains("Night of lanterns") && i.Because.Contains("in 20 days"));
        desk.Pieces.Start(new NewPiece("A talk about bread", "talk", Topics: ["bread"]), Once.Unkeyed);
        Make(100).ShouldContain(i => i.Kind == SparkKind.Empty && i.Text.Contains("a talk"));
    }

    [Fact]
    public void Angles_are_the_writers_to_word_and_turn_off_and_the_ready_ones_come_back()
    {
        var ready = desk.Angles.Get();
        (ready.AreReady, ready.Angles).ShouldBe((true, Angles.Ready));
        Angle[] own =
        [
            new("in one line", SparkKind.Term, "{{ topic }}: {{ word }}, in one line"),
            .. Angles.Ready.Select(a => a with { IsOff = true }),
        ];
        var put = desk.Angles.Put(new AnglesChange(own, ready.Version), Once.Unkeyed);
        put.Answer.Angles.ShouldBe(own);
        Make(100).ShouldAllBe(i => i.Shape == "in one line" && i.Text.EndsWith(", in one line", StringComparison.Ordinal));
        // Another tab that still has the ready ones changes nothing unseen.
        Should.Throw<StaleException>(() => desk.Angles.Put(new AnglesChange(own, ready.Version), Once.Unkeyed));
        var back = desk.Angles.Put(new AnglesChange([], put.Answer.Version), Once.Unkeyed);
        back.Answer.AreReady.ShouldBeTrue();
        desk.Undo(back.Command);
        desk.Angles.Get().Angles.ShouldBe(own);
    }

    [Theory]
    [InlineData("a", "How {{ word", "angles[0].wording")]
    [InlineData("a", "How {{ weather }} began", "angles[0].wording")]
    [InlineData(" ", "How {{ word }} began", "angles[0].shape")]
    [InlineData("how it began", "How {{ word }} began", "angles")]
    public void An_angle_that_can_not_be_used_is_named(string shape, string wording, string field) =>
        Should
            .Throw<BadInputException>(() =>
                desk.Angles.Put(new AnglesChange([new Angle(shape, SparkKind.Term, wording), .. Angles.Ready], 0), Once.Unkeyed)
            )
            .Field.ShouldBe(field);

    [Theory]
    [InlineData(0, null, null, "count")]
    [InlineData(101, null, null, "count")]
    [InlineData(null, 0, null, "seed")]
    [InlineData(null, null, "no-such", "format")]
    public void What_can_not_be_asked_is_said(int? count, int? seed, string? format, string field) =>
        Should
            .Throw<BadInputException>(() =>
                desk.Ideas.Make(new IdeasWanted(null, count, format, Seed: seed), TestContext.Current.CancellationToken).ToList()
            )
            .Field.ShouldBe(field);

    [Fact]
    public void Topics_and_words_that_are_wrong_are_named()
    {
        var stop = TestContext.Current.CancellationToken;
        Should
            .Throw<BadInputException>(() => desk.Ideas.Make(new IdeasWanted([TopicNumber.Of(999)]), stop).ToList())
            .Field.ShouldBe("topics");
        Should
            .Throw<BadInputException>(() => desk.Ideas.Make(new IdeasWanted(Audience: new string('x', 81)), stop).ToList())
            .Field.ShouldBe("audience");
        Should.Throw<BadInputException>(() => desk.Ideas.Decide(new IdeasDecided([], IdeaAct.Take), Once.Unkeyed)).Field.ShouldBe("ideas");
        Should
            .Throw<BadInputException>(() => desk.Ideas.Decide(new IdeasDecided([OfferNumber.Of(1)], null), Once.Unkeyed))
            .Field.ShouldBe("act");
        Should.Throw<NotThereException>(() => desk.Ideas.Decide(new IdeasDecided([OfferNumber.Of(7)], IdeaAct.Take), Once.Unkeyed));
    }

    [Fact]
    public void Each_occasion_of_the_quarter_has_one_to_three_ideas_that_are_taken_or_refused_as_one_step()
    {
        desk.Occasions.Add(
            new OccasionChange
            {
                Name = "The night of lamps",
                From = desk.Today.AddDays(20),
                Topics = ["ferries"],
            },
            Once.Unkeyed
        );
        desk.Occasions.Add(new OccasionChange { Name = "A day on nothing", From = desk.Today.AddDays(30) }, Once.Unkeyed);
        desk.Occasions.Add(
            new OccasionChange
            {
                Name = "Far ahead",
                From = desk.Today.AddDays(200),
                Topics = ["ferries"],
            },
            Once.Unkeyed
        );
        desk.Occasions.Add(new OccasionChange { Name = "The clapper", From = desk.Today.AddDays(40) }, Once.Unkeyed);
        var each = desk.OccasionIdeas.Between(null, null);
        each.Select(o => o.Name).ShouldBe(["The night of lamps", "A day on nothing", "The clapper"]);
        // One on no topic has one: on what waits most, or on what its name is nearest to.
        each.Select(o => o.Ideas.Count > 1).ShouldBe([true, false, false]);
        (each[1].Ideas.Single().Topic!.Name, each[2].Ideas.Single().Topic!.Name).ShouldBe(("bread", "ferries"));
        each[1].Ideas[0].Because.ShouldContain("You put it on no topic; on bread, 60 slips wait to be used.");
        each[2].Ideas[0].Because.ShouldContain("what you have that is nearest to it is on ferries.");
        var lamps = each[0];
        lamps.Name.ShouldBe("The night of lamps");
        lamps.Ideas.Count.ShouldBeInRange(1, 3);
        lamps.Ideas.ShouldAllBe(i =>
            i.Text.Contains("the night of lamps", StringComparison.OrdinalIgnoreCase) && i.Topic!.Number == ferries
        );
        lamps.Ideas[0].From[0].Kind.ShouldBe(OriginKind.Occasion);
        // Fitted to the papers: what is said of the topic stands in one at least, and none sees it through its own name.
        lamps.Ideas.ShouldContain(i => i.Text.Contains("bell", StringComparison.Ordinal));
        desk.OccasionIdeas.Between(null, null)[0].Ideas.Select(i => i.Text).ShouldBe(lamps.Ideas.Select(i => i.Text));

        var taken = desk.Ideas.Decide(new IdeasDecided(null, IdeaAct.Take, Idea: lamps.Ideas[0]), Once.Unkeyed);
        desk.Slips.Get(taken.Answer.Ideas[0].Slip!.Value).Text.ShouldStartWith(lamps.Ideas[0].Text);
        desk.OccasionIdeas.Between(null, null)[0].Ideas.Select(i => i.Text).ShouldNotContain(lamps.Ideas[0].Text);
        desk.Undo(taken.Command);
        desk.Ideas.ToSort().ShouldBeEmpty();
        desk.OccasionIdeas.Between(null, null)[0].Ideas[0].Text.ShouldBe(lamps.Ideas[0].Text);

        desk.Ideas.Decide(new IdeasDecided([], IdeaAct.Refuse, Idea: lamps.Ideas[1]), Once.Unkeyed);
        desk.OccasionIdeas.Between(null, null)[0].Ideas.Select(i => i.Text).ShouldNotContain(lamps.Ideas[1].Text);
        Should.Throw<BadInputException>(() => desk.OccasionIdeas.Between(desk.Today, desk.Today.AddDays(-1))).Field.ShouldBe("to");
        Should
            .Throw<BadInputException>(() =>
                desk.Ideas.Decide(new IdeasDecided([OfferNumber.Of(1)], IdeaAct.Take, Idea: lamps.Ideas[0]), Once.Unkeyed)
            )
            .Field.ShouldBe("ideas");
    }

    [Fact]
    public void Topics_with_an_occasion_in_the_period_come_first_and_occasions_outside_it_are_left_out()
    {
        desk.Occasions.Add(
            new OccasionChange
            {
                Name = "Lamps",
                From = desk.Today.AddDays(20),
                Topics = ["ferries"],
            },
            Once.Unkeyed
        );
        List<IdeaComing> For(int from, int to) =>
            [
                .. desk.Ideas.Make(
                    new IdeasWanted(Count: 40, Seed: 3, From: desk.Today.AddDays(from), To: desk.Today.AddDays(to)),
                    TestContext.Current.CancellationToken
                ),
            ];
        var within = For(10, 40);
        within[0].Topic!.Number.ShouldBe(ferries);
        within.ShouldContain(i => i.Kind == SparkKind.Occasion);
        For(30, 60).ShouldNotContain(i => i.Kind == SparkKind.Occasion);
    }
}
