using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Choosing;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Sources;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Choosing;
using Nachlass.Store.Papers;
using Nachlass.Store.Sources;
using Nachlass.Store.Topics;

namespace Nachlass.Store.Tests.Choosing;

public sealed class WorthStoreTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private SlipNumber Caught(string text, SlipChange? edit = null)
    {
        var slip = desk.Catch(text);
        if (edit is not null)
            desk.Slips.Edit(slip.Number, edit with { Version = slip.Version }, Once.Unkeyed);
        return slip.Number;
    }

    private IReadOnlyList<int> Order() => [.. desk.Worth.Best().Select(line => line.Slip?.Value ?? -line.Usable!.Value.Value)];

    private WorthTermShown? Term(SlipNumber slip, WorthTerm term) => desk.Worth.Of(slip)!.Terms.SingleOrDefault(t => t.Term == term);

    private void Ask(string text, string reader, string topic)
    {
        var source = desk.Sources.Add(
            new SourceChange
            {
                Title = $"A message from {reader}",
                Type = SourceType.Message,
                Creators = reader,
            },
            Once.Unkeyed
        );
        var ask = desk.Sources.AddPassage(source.Answer.Number, new NewPassage(text), Once.Unkeyed).Answer;
        desk.Slips.Edit(
            ask.Number,
            new SlipChange
            {
                Version = ask.Version,
                Kind = SlipKind.Ask,
                Topics = [topic],
            },
            Once.Unkeyed
        );
    }

    [Fact]
    public void Nothing_there_is_nothing_ranked()
    {
        desk.Worth.Best().ShouldBeEmpty();
        desk.Worth.About().ShouldSatisfyAllConditions(a => a.Ideas.ShouldBe(0), a => a.Weighing.ShouldBe(Weighing.Evenly));
    }

    [Fact]
    public void Ideas_questions_notes_claims_and_marked_paragraphs_are_ranked_and_passages_are_not()
    {
        var idea = Caught("Ferrymen were paid in bread");
        var question = Caught("Who owns the middle of a bridge?");
        var quote = Caught("“Four loaves, no coin”");
        var claim = Caught("“The toll was doubled in one night”");
        desk.Claims.Refine(claim, "The doubled toll was two crossings", Once.Unkeyed);
        var dropped = Caught("Never mind");
        desk.Decisions.Decide(dropped, new Decision.Drop(), Once.Unkeyed);
        var used = Caught("In a piece");
        desk.Pieces.Start(new NewPiece("Piece", Slip: used), Once.Unkeyed);
        var usable = desk
            .Usable.Mark(Reference.To(quote), desk.Usable.Paragraphs(Reference.To(quote))[0].Text, "thread", Once.Unkeyed)
            .Answer;
        Order().ShouldBe([idea.Value, question.Value, claim.Value, -usable.Number.Value], ignoreOrder: true);
        desk.Worth.Best().Single(l => l.Slip == claim).Title.ShouldBe("The doubled toll was two crossings");
        desk.Worth.About().ShouldSatisfyAllConditions(a => a.Ideas.ShouldBe(4), a => a.Unseen.ShouldBe(0));
    }

    [Fact]
    public void A_decision_is_followed_at_once_and_so_is_taking_it_back()
    {
        var (one, two) = (Caught("Ferrymen were paid in bread"), Caught("Weir keepers wrote one line a day"));
        var pulled = desk.Slips.Edit(one, new SlipChange { Version = 1, Pull = 5 }, Once.Unkeyed);
        desk.Slips.Edit(two, new SlipChange { Version = 1, Pull = 2 }, Once.Unkeyed);
        Order().ShouldBe([one.Value, two.Value]);
        var dropped = desk.Decisions.Decide(one, new Decision.Drop(), Once.Unkeyed);
        Order().ShouldBe([two.Value]);
        desk.Undo(dropped.Command);
        Order().ShouldBe([one.Value, two.Value]);
        desk.Slips.Edit(one, new SlipChange { Version = desk.Slips.Get(one).Version, Pull = 1 }, Once.Unkeyed);
        Order().ShouldBe([two.Value, one.Value]);
        pulled.Answer.Number.ShouldBe(one);
    }

    [Fact]
    public void Material_is_what_is_near_or_tied_and_comes_and_goes_with_it()
    {
        var idea = Caught("Ferrymen at Ostrey were paid in bread on flood days");
        Term(idea, WorthTerm.Material)!.Value.ShouldBe(0);
        var quote = Caught("“Four loaves of bread for the ferrymen on flood days at Ostrey”");
        Term(idea, WorthTerm.Material)!
            .ShouldSatisfyAllConditions(
                t => t.Value.ShouldBe(WorthTerms.Material(1), 1e-9),
                t => t.Evidence.ShouldBe("one passage"),
                t => t.Things.Single().Thing.ShouldBe(Reference.To(quote))
            );
        var far = Caught($"“An eel pass opened” see [[slip {idea}]]");
        Term(idea, WorthTerm.Material)!.Things.Select(t => t.Thing).ShouldBe([Reference.To(quote), Reference.To(far)]);
        var edited = desk.Slips.Edit(quote, new SlipChange { Version = 1, Text = "“Wholly other words about weather”" }, Once.Unkeyed);
        Term(idea, WorthTerm.Material)!.Things.Select(t => t.Thing).ShouldBe([Reference.To(far)]);
        desk.Undo(edited.Command);
        Term(idea, WorthTerm.Material)!.Things.Count.ShouldBe(2);
        desk.Decisions.Decide(far, new Decision.Drop(), Once.Unkeyed);
        Term(idea, WorthTerm.Material)!.Things.Count.ShouldBe(1);
    }

    [Fact]
    public void Readers_count_once_each_and_those_on_the_topic_only_count_half()
    {
        var idea = Caught("What was a penny worth at the tolls, and who paid it? #tolls");
        Term(idea, WorthTerm.Asks).ShouldBeNull("no reader has ever asked anything");
        Ask("What was a penny worth at the tolls", "Marta Brenn", "tolls");
        var one = Term(idea, WorthTerm.Asks)!;
        one.Value.ShouldBe(WorthTerms.Asks(1), 1e-9);
        Ask("Again: what was a penny worth at the tolls", "Marta Brenn", "tolls");
        Term(idea, WorthTerm.Asks)!.Value.ShouldBe(one.Value, 1e-9);
        Ask("Could there be a walk along an old path", "Ole Vasser", "tolls");
        Term(idea, WorthTerm.Asks)!
            .ShouldSatisfyAllConditions(
                t => t.Value.ShouldBe(WorthTerms.Asks(1.5), 1e-9),
                t => t.Evidence.ShouldBe("two readers, one of them on its topic only, the last in November 2026")
            );
        desk.Clock.Advance(TimeSpan.FromDays(180));
        Term(idea, WorthTerm.Asks)!.Value.ShouldBe(WorthTerms.Asks(0.75), 1e-3);
    }

    [Fact]
    public void What_readers_wrote_counts_for_the_idea_made_of_it_and_half_for_others_on_its_topic()
    {
        var other = Caught("Tolls in winter, and the frozen weir #tolls");
        Term(other, WorthTerm.Asks).ShouldBeNull("no reader has ever asked anything");
        desk.Messages.BringIn(
            [
                new("Marta Brenn", "What was a penny worth at the tolls?", desk.Papers.Time.GetUtcNow()),
                new("Ole Vasser", "Please tell us what a penny was worth at the tolls.", desk.Papers.Time.GetUtcNow(), Reach: 10),
                new("Ole Vasser", "What was that penny worth at the tolls, I ask again?", desk.Papers.Time.GetUtcNow()),
            ],
            Once.Unkeyed
        );
        // Ole's wish stands for ten, and counts twice; each person counts once.
        Term(other, WorthTerm.Asks)!.Value.ShouldBe(WorthTerms.Asks(1.5), 1e-9);
        Term(other, WorthTerm.Asks)!.Evidence.ShouldStartWith("two readers on its topic, ");
        var made = desk.Asks.MakeIdea(desk.Asks.List()[0].Number, Once.Unkeyed);
        Term(made.Answer.Number, WorthTerm.Asks)!.Value.ShouldBe(WorthTerms.Asks(3), 1e-9);

        var hidden = desk.Messages.Hide(new("I ask again"), Once.Unkeyed);
        Term(made.Answer.Number, WorthTerm.Asks)!.Value.ShouldBe(WorthTerms.Asks(3), 1e-9);
        desk.Messages.Hide(new("Please tell us"), Once.Unkeyed);
        Term(made.Answer.Number, WorthTerm.Asks)!.Value.ShouldBe(WorthTerms.Asks(1), 1e-9);
        desk.Undo(hidden.Command);
        Term(made.Answer.Number, WorthTerm.Asks)!.Value.ShouldBe(WorthTerms.Asks(2), 1e-9);
        desk.Undo(made.Command);
        var chosen = desk.Asks.Edit(desk.Asks.List()[0].Number, new(desk.Asks.List()[0].Version, Idea: other.Value), Once.Unkeyed);
        desk.Asks.List()[0].Idea.ShouldBe(other);
        Term(other, WorthTerm.Asks)!.Value.ShouldBe(WorthTerms.Asks(2), 1e-9, "who asks counts whole for the idea that was chosen");
        desk.Undo(chosen.Command);
        Term(other, WorthTerm.Asks)!.Value.ShouldBe(WorthTerms.Asks(1), 1e-9);
        var ask = desk.Asks.List()[0];
        desk.Asks.Edit(ask.Number, new(ask.Version, PutAway: true), Once.Unkeyed);
        Term(other, WorthTerm.Asks).ShouldBeNull("what is put away asks nothing");
    }

    [Fact]
    public void An_occasion_on_its_topic_counts_until_it_is_past()
    {
        var idea = Caught("Lanterns on the water #floods");
        desk.Imports.Run(
            "x",
            Origin.Import,
            null,
            () => [("a.ics", new Found.OfOccasion(1, "The night of lights", desk.Today.AddDays(14), desk.Today.AddDays(14)))],
            Once.Unkeyed,
            stop: TestContext.Current.CancellationToken
        );
        Term(idea, WorthTerm.Timeliness).ShouldBeNull("the occasion is on no topic yet");
        var occasion = desk.Occasions.All().Single().Number;
        desk.Occasions.SetTopics(occasion, ["floods"], Once.Unkeyed);
        Term(idea, WorthTerm.Timeliness)!
            .ShouldSatisfyAllConditions(t => t.Value.ShouldBe(1, 1e-9), t => t.Evidence.ShouldStartWith("The night of lights in 14 days"));
        desk.Clock.Advance(TimeSpan.FromDays(20));
        Term(idea, WorthTerm.Timeliness).ShouldBeNull();
    }

    [Fact]
    public void An_occasion_that_names_a_topic_is_on_it()
    {
        var idea = Caught("Lanterns on the water #floods");
        desk.Imports.Run(
            "x",
            Origin.Import,
            null,
            () => [("a.ics", new Found.OfOccasion(1, "A hundred years since the flood", desk.Today.AddDays(20), desk.Today.AddDays(20)))],
            Once.Unkeyed,
            stop: TestContext.Current.CancellationToken
        );
        Term(idea, WorthTerm.Timeliness)!.Value.ShouldBeInRange(0.5, 1);
    }

    [Fact]
    public void A_core_topic_under_its_share_lifts_its_ideas()
    {
        var (toll, eel) = (Caught("Who painted the board? #tolls"), Caught("Eels and their passes #eels"));
        TopicNumber Topic(string name) => desk.Topics.List().Single(t => t.Name == name).Number;
        void Wish(string name, int? share) =>
            desk.Topics.Edit(
                Topic(name),
                new TopicChange { Version = desk.Topics.List().Single(t => t.Name == name).Version, Wish = new Maybe<int?>(true, share) },
                Once.Unkeyed
            );
        Term(toll, WorthTerm.Mix).ShouldBeNull();
        Wish("tolls", 50);
        Wish("eels", 50);
        desk.Pieces.Start(new NewPiece("Eels again", Topics: ["eels"]), Once.Unkeyed);
        Term(toll, WorthTerm.Mix)!
            .ShouldSatisfyAllConditions(t => t.Value.ShouldBe(1), t => t.Evidence.ShouldBe("tolls: 0 % of what went out, 50 % wished"));
        Term(eel, WorthTerm.Mix)!.Value.ShouldBe(0);
        Should
            .Throw<BadInputException>(() => Wish("eels", 60))
            .Message.ShouldBe("The wished shares would be 110 % together, and there are only 100.");
        Should.Throw<BadInputException>(() => Wish("eels", 0)).Field.ShouldBe("wish");
        Wish("eels", null);
        Wish("tolls", 100);
    }

    [Fact]
    public void What_went_out_stands_in_the_way_of_saying_it_again()
    {
        const string said = "The ferrymen of Ostrey took bread for coin whenever the river stood over the stage.";
        var idea = Caught(said + " Is that an essay?");
        Term(idea, WorthTerm.Novelty).ShouldBeNull("nothing went out yet");
        var piece = desk.Pieces.Start(new NewPiece("Bread", "essay"), Once.Unkeyed).Answer.Number;
        desk.Drafts.Save(piece, $"## One\n\n{said}\n", desk.Drafts.Get(piece).Version, Once.Unkeyed);
        Term(idea, WorthTerm.Novelty).ShouldBeNull();
        var sent = desk.Pieces.Edit(piece, new PieceChange { Version = desk.Pieces.Get(piece).Version, Stage = "Out" }, Once.Unkeyed);
        var now = Term(idea, WorthTerm.Novelty)!;
        now.Value.ShouldBeLessThan(0.4);
        now.Evidence.ShouldContain("“Bread”");
        desk.Clock.Advance(TimeSpan.FromDays(1_460));
        Term(idea, WorthTerm.Novelty)!.Value.ShouldBeGreaterThan(now.Value + 0.3);
        desk.Undo(sent.Command);
        Term(idea, WorthTerm.Novelty).ShouldBeNull();
    }

    [Fact]
    public void A_question_is_riper_once_it_is_answered()
    {
        var question = Caught("Who painted the board?");
        Term(question, WorthTerm.Ripeness)!
            .ShouldSatisfyAllConditions(t => t.Value.ShouldBe(0), t => t.Evidence.ShouldBe("its question is open"));
        var answer = Caught($"“Painted by Lunt in 1802” for [[slip {question}]]");
        desk.Decisions.Decide(answer, new Decision.Keep(), Once.Unkeyed);
        Term(question, WorthTerm.Ripeness)!.Value.ShouldBe(1);
    }

    [Fact]
    public void Points_of_the_terms_are_the_score_and_the_order_is_by_it()
    {
        for (var i = 1; i <= 8; i++)
            Caught(
                $"Idea number {i} about bread and tolls #tolls",
                new SlipChange
                {
                    Pull = i % 5 + 1,
                    Effort = (i * 3) % 5 + 1,
                    Formats = ["essay"],
                }
            );
        var lines = desk.Worth.Best();
        lines.Count.ShouldBe(8);
        lines.ShouldAllBe(l => Math.Abs(l.Terms.Sum(t => t.Points) - l.Score) < 1e-9);
        lines.Select(l => l.Score).ShouldBeInOrder(SortDirection.Descending);
        // However much is asked for at once, it is the same order.
        Order().ShouldBe([.. Enumerable.Range(0, 8).Select(skip => desk.Worth.Best(new WorthAsked(1, skip)).Single().Slip!.Value.Value)]);
    }

    [Fact]
    public void Something_light_can_be_asked_for()
    {
        var heavy = Caught(
            "A long history of the bridge",
            new SlipChange
            {
                Pull = 4,
                Effort = 5,
                Formats = ["talk"],
            }
        );
        var light = Caught(
            "One sentence about chalk",
            new SlipChange
            {
                Pull = 3,
                Effort = 1,
                Formats = ["thread"],
            }
        );
        desk.Weighing.Weigh(new WeighingChange(0, Weights: Weighing.ByPull.Weights), Once.Unkeyed);
        Order()[0].ShouldBe(heavy.Value);
        desk.Worth.Best(new WorthAsked(Hours: 1))[0]
            .ShouldSatisfyAllConditions(
                l => l.Slip.ShouldBe(light),
                l => l.Terms.Single(t => t.Term == WorthTerm.Effort).Value.ShouldBe(1)
            );
        Should.Throw<BadInputException>(() => desk.Worth.Best(new WorthAsked(Hours: 0))).Field.ShouldBe("hours");
    }

    [Fact]
    public void The_library_asks_and_sorts_by_worth()
    {
        Caught("One idea", new SlipChange { Pull = 5 });
        Caught("Another idea", new SlipChange { Pull = 1 });
        Caught("A third idea", new SlipChange { Pull = 3 });
        IReadOnlyList<int> Numbers(LibraryQuery query) => [.. desk.Library.List(query).Items.Select(e => e.Slip!.Number.Value)];
        Numbers(new LibraryQuery(Sort: Core.Text.Queries.ListSort.Worth)).ShouldBe([1, 3, 2]);
        Numbers(new LibraryQuery(Sort: Core.Text.Queries.ListSort.Worth, Upward: true)).ShouldBe([2, 3, 1]);
        var middle = Math.Round(desk.Worth.Of(SlipNumber.Of(3))!.Score);
        Numbers(new LibraryQuery($"worth>={middle}")).ShouldBe([1, 3], ignoreOrder: true);
        Numbers(new LibraryQuery($"worth<{middle}")).ShouldBe([2]);
        desk.Library.List(new LibraryQuery($"worth:{middle}")).Items.Single().Worth!.Value.ShouldBe(middle, 0.5);
        Should.Throw<BadInputException>(() => Numbers(new LibraryQuery("worth>=200 ")));
    }

    [Fact]
    public void A_choice_remembers_what_stood_there_and_is_forgotten_with_its_piece()
    {
        var last = Caught("The last idea", new SlipChange { Pull = 1 });
        for (var i = 0; i < 5; i++)
            Caught($"Idea {i}", new SlipChange { Pull = 5 });
        var started = desk.Decisions.Decide(last, new Decision.StartPiece("essay"), Once.Unkeyed);
        desk.Weighing.Choices()
            .ShouldSatisfyAllConditions(
                c => c.Record.ShouldBe(new Core.Choosing.Record(1, 0, 0)),
                c => c.Needed.ShouldBe(Learning.Enough - 1),
                c =>
                    c.Choices.Single()
                        .ShouldSatisfyAllConditions(
                            one => one.Rank.ShouldBe(6),
                            one => one.Among.ShouldBe(6),
                            one => one.IsAgainst.ShouldBeTrue(),
                            one => one.Piece.ShouldBe(started.Answer.Piece),
                            one => one.Stage.ShouldBe("Gather")
                        )
            );
        desk.Undo(started.Command);
        desk.Weighing.Choices().Choices.ShouldBeEmpty();
    }

    [Fact]
    public void From_a_dozen_choices_on_better_weights_are_offered_and_taken_only_when_asked()
    {
        // Always the lightest, whatever draws.
        for (var round = 0; round < 14; round++)
        {
            var light = Caught(
                $"Light thing {round}",
                new SlipChange
                {
                    Pull = 1,
                    Effort = 1,
                    Formats = ["essay"],
                }
            );
            for (var i = 0; i < 4; i++)
                Caught(
                    $"Heavy matter {round} of {i}",
                    new SlipChange
                    {
                        Pull = 5,
                        Effort = 5,
                        Formats = ["essay"],
                    }
                );
            desk.Decisions.Decide(light, new Decision.StartPiece("essay"), Once.Unkeyed);
        }
        var said = desk.Weighing.Choices();
        said.Needed.ShouldBe(0);
        said.Record.Held.ShouldBeLessThan(3);
        var offered = said.Offered.ShouldNotBeNull();
        (offered.Effort > offered.Pull).ShouldBeTrue();
        said.OfferedHeld.ShouldBeGreaterThan(said.PresentHeld);
        desk.Worth.About().Weighing.ShouldBe(Weighing.Evenly, "nothing changes by itself");
        var light15 = Caught(
            "Light thing 15",
            new SlipChange
            {
                Pull = 1,
                Effort = 1,
                Formats = ["essay"],
            }
        );
        Order()[0].ShouldNotBe(light15.Value);
        var taken = desk.Weighing.Weigh(new WeighingChange(0, Weights: offered), Once.Unkeyed);
        Order()[0].ShouldBe(light15.Value);
        desk.Undo(taken.Command);
        desk.Worth.About().Weighing.ShouldBe(Weighing.Evenly);
    }

    [Fact]
    public void Two_tabs_that_weigh_at_once_are_told()
    {
        desk.Weighing.Weigh(new WeighingChange(0, "pull"), Once.Unkeyed);
        Should.Throw<StaleException>(() => desk.Weighing.Weigh(new WeighingChange(0, "readers"), Once.Unkeyed));
        desk.Weighing.Weigh(new WeighingChange(desk.Worth.About().Version, "readers"), Once.Unkeyed);
        desk.Worth.About().Weighing.Key.ShouldBe("readers");
        Should.Throw<BadInputException>(() => desk.Weighing.Weigh(new WeighingChange(null), Once.Unkeyed));
    }

    /// <summary>What is remembered in between must not change what is said: a fresh look at the same papers says the same.</summary>
    [Fact]
    public void What_is_followed_is_what_a_fresh_look_finds()
    {
        var random = new Random(11);
        string[] words = ["bread", "ferry", "toll", "flood", "stage", "rope", "eel", "bell", "chalk", "weir", "coin", "board"];
        string Text() => string.Join(' ', Enumerable.Range(0, 7).Select(_ => words[random.Next(words.Length)])) + "?";
        for (var i = 0; i < 40; i++)
            Caught(random.Next(2) == 0 ? $"“{Text()}”" : Text());
        desk.Worth.Best();
        for (var step = 0; step < 30; step++)
        {
            var slip = desk.Slips.Get(SlipNumber.Of(random.Next(1, 41)));
            switch (random.Next(3))
            {
                case 0:
                    desk.Slips.Edit(slip.Number, new SlipChange { Version = slip.Version, Text = Text() }, Once.Unkeyed);
                    break;
                case 1:
                    desk.Decisions.Decide(slip.Number, random.Next(2) == 0 ? new Decision.Drop() : new Decision.Keep(), Once.Unkeyed);
                    break;
                default:
                    Caught($"“{Text()}”");
                    break;
            }
            desk.Worth.Best();
        }
        using var fresh = new WorthStore(desk.Papers, desk.Columns, desk.Nearby);
        IEnumerable<(SlipNumber?, double)> Things(WorthStore worth) => worth.Best().Select(l => (l.Slip, Math.Round(l.Score, 3)));
        Things(desk.Worth).ShouldBe(Things(fresh));
    }
}
