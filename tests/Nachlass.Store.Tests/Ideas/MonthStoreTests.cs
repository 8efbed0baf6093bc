using Nachlass.Core.Capture;
using Nachlass.Core.Ideas.Order;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;
using Nachlass.Core.Sift;
using Nachlass.Store.Bench;
using Nachlass.Store.Capture;
using Nachlass.Store.Ideas.Month;
using Nachlass.Store.Ideas.Order;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Ideas;

/// <summary>An order of topics, and a month made from it.</summary>
public sealed class MonthStoreTests : IDisposable
{
    private readonly Desk desk = new();
    private readonly OutletNumber letters;

    public MonthStoreTests()
    {
        string[] texts =
        [
            "They pulled the ferry over by hand #ferries",
            "A ferry never waits for the bread #ferries",
            "The old ferry was tarred again in spring #ferries",
            "By the ferry stood a bell without a clapper #ferries",
            "Who paid for a bell? #ferries",
            "Bread was money at the weir #bread",
            "Four loaves bought a crossing, and bread was weighed #bread",
            "The price of bread stood on the door #bread",
            "A toll for each wheel #tolls",
        ];
        foreach (var text in texts)
            Keep(desk.Catch(text).Number);
        letters = desk
            .Outlets.Add(
                new()
                {
                    Name = "Low Water",
                    Formats = ["letter"],
                    BestHour = 7,
                },
                Once.Unkeyed
            )
            .Answer.Number;
        desk.Cadences.Set(letters, "letter", new("every Thursday", new(2026, 12, 3)), Once.Unkeyed);
        desk.Hours.Set([6, 6, 6, 6, 6, 0, 0], Once.Unkeyed);
    }

    public void Dispose() => desk.Dispose();

    private void Keep(SlipNumber slip) => desk.Decisions.Decide(slip, new Decision.Keep(), Once.Unkeyed);

    private TopicOrdered Ordered(string name, TopicOrderAsked? asked = null) =>
        desk.TopicOrder.Order(asked ?? new TopicOrderAsked()).Single(t => t.Name == name);

    private static TermRead Term(TopicOrdered topic, OrderTerm term) => topic.Terms.Single(t => t.Term == term);

    [Fact]
    public void Each_term_says_why_and_what_is_not_known_says_so()
    {
        var bread = Ordered("bread");
        bread.Terms.Select(t => t.Term).ShouldBe(Enum.GetValues<OrderTerm>());
        Term(bread, OrderTerm.Season).Value.ShouldBeNull();
        Term(bread, OrderTerm.Rising).Because.ShouldBe("It came up 3 times in 90 days where 3 would be usual: too little to say.");
        Term(bread, OrderTerm.Effect).Because.ShouldBe("0 releases in all have figures; it takes 5 to compare.");
        Term(bread, OrderTerm.Asks).Value.ShouldBeNull("no reader asks for anything");
        Term(bread, OrderTerm.Coverage).Because.ShouldBe("Nothing on it went out yet; 3 kept slips wait for a piece; nothing is in work.");
        (Math.Round(bread.Score!.Value), bread.Because).ShouldBe((53, Term(bread, OrderTerm.Coverage).Because));
        bread.Months.Count.ShouldBe(24);
        bread.Months[^1].Slips.ShouldBe(3);
    }

    [Fact]
    public void What_readers_ask_and_occasions_that_come_lift_a_topic()
    {
        desk.Messages.BringIn(
            [new("Ruth Amsel", "What was a penny worth at the tolls?", desk.Papers.Time.GetUtcNow(), Reach: 3)],
            Once.Unkeyed
        );
        desk.Occasions.Add(
            new OccasionChange
            {
                Name = "Night of lanterns",
                From = desk.Today.AddDays(20),
                Topics = ["ferries"],
            },
            Once.Unkeyed
        );
        var season = Term(Ordered("ferries"), OrderTerm.Season);
        (season.Value, season.Because).ShouldBe((1, "Night of lanterns is on 14 December, in 20 days."));
        season.Figures.ShouldContain(new TermFigure("days to the occasion", 20));
        var asked = Term(Ordered("tolls"), OrderTerm.Asks);
        asked.Because.ShouldBe("1 reader wants something on it: “What was a penny worth at the tolls?”");
        asked.Value!.Value.ShouldBeGreaterThan(0.5);
        Term(Ordered("bread"), OrderTerm.Asks).Value.ShouldBe(0);
        desk.TopicOrder.Order(new TopicOrderAsked(Weights: new(5, 0, 0, 0, 0)))[0].Name.ShouldBe("ferries");
        desk.TopicOrder.Order(new TopicOrderAsked(Weights: new(0, 0, 0, 5, 0)))[0].Name.ShouldBe("tolls");
    }

    [Fact]
    public void Topics_are_chosen_or_typed_and_words_that_are_none_are_counted()
    {
        var order = desk.TopicOrder.Order(new TopicOrderAsked(Words: ["Bread", "clapper", "sundials", "bread"]));
        order.Select(t => t.Name).ShouldBe(["bread", "clapper", "sundials"], ignoreOrder: true);
        var clapper = order.Single(t => t.Name == "clapper");
        (clapper.Topic, clapper.Months[^1].Slips).ShouldBe((null, 1));
        order.Single(t => t.Name == "sundials").Months[^1].Slips.ShouldBe(0);
        Should.Throw<BadInputException>(() => desk.TopicOrder.Order(new TopicOrderAsked([TopicNumber.Of(99)]))).Field.ShouldBe("topics");
        Should.Throw<BadInputException>(() => desk.TopicOrder.Order(new TopicOrderAsked(Weeks: 0))).Field.ShouldBe("weeks");
        Should.Throw<BadInputException>(() => desk.TopicOrder.Order(new TopicOrderAsked(Words: [" "]))).Field.ShouldBe("words");
    }

    [Fact]
    public void Weights_are_kept_and_two_tabs_do_not_overwrite_each_other()
    {
        var first = desk.TopicWeighing.Get();
        var step = desk.TopicWeighing.Put(new(new(1, 1, 1, 1, 5), first.Version), Once.Unkeyed);
        desk.TopicWeighing.Get().Weights.Coverage.ShouldBe(5);
        Should.Throw<StaleException>(() => desk.TopicWeighing.Put(new(new(), first.Version), Once.Unkeyed));
        desk.Undo(step.Command);
        desk.TopicWeighing.Get().Weights.ShouldBe(new OrderWeights());
    }

    [Fact]
    public void Each_open_date_gets_a_topic_an_idea_and_an_hour_with_why()
    {
        var month = desk.Month.Propose(new MonthAsked(Spacing: 7));
        month.Places.Select(p => p.Date).ShouldBe([new(2026, 12, 3), new(2026, 12, 10), new(2026, 12, 17)]);
        month.Places.ShouldAllBe(p => p.Outlet == letters && p.Format == "letter" && p.Hour == 7 && p.Because.Count > 0);
        month.Places.ShouldAllBe(p => p.Ideas.Count > 0);
        month.Places.SelectMany(p => p.Ideas).Select(i => i.Text).ShouldBeUnique();
        month.Places[0].HourBecause.ShouldBe("The outlet’s own hour; 0 releases are too few to say better.");
        month.Forms.Sum(f => f.Percent).ShouldBe(100);
        month.Forms.Sum(f => f.Count).ShouldBe(3);
        desk.Month.Propose(new MonthAsked(Spacing: 7))
            .Places.SelectMany(p => p.Ideas.Select(i => i.Text))
            .ShouldBe(month.Places.SelectMany(p => p.Ideas.Select(i => i.Text)), "the same papers and seed give the same");
        desk.Pieces.List().ShouldBeEmpty("nothing is changed by asking");
    }

    [Fact]
    public void Typed_words_and_more_dates_a_week_are_proposed_too_and_own_slips_come_first()
    {
        var own = desk.Catch("Bread as a calendar #bread").Number;
        desk.Decisions.Decide(own, new Decision.Keep(), Once.Unkeyed);
        desk.Slips.Edit(
            own,
            new SlipChange
            {
                Version = desk.Slips.Get(own).Version,
                Kind = SlipKind.Idea,
                Pull = 5,
            },
            Once.Unkeyed
        );
        var month = desk.Month.Propose(new MonthAsked(Words: ["bread", "sundials"], PerWeek: 2, Spacing: 3));
        month.Places.Count.ShouldBeGreaterThan(5);
        month.Places.First(p => p.Name == "bread").Ideas[0].Slip.ShouldBe(own);
        var words = month.Places.First(p => p.Name == "sundials");
        words.Topic.ShouldBeNull();
        words.Ideas[0].Text.ShouldContain("sundials", Case.Insensitive);
        Should.Throw<BadInputException>(() => desk.Month.Propose(new MonthAsked(PerWeek: 9))).Field.ShouldBe("perWeek");
        Should.Throw<BadInputException>(() => desk.Month.Propose(new MonthAsked(Spacing: -1))).Field.ShouldBe("spacing");
    }

    [Fact]
    public void Where_hours_or_topics_run_out_a_date_stays_open_and_says_why()
    {
        desk.Hours.Set([0, 0, 0, 0, 0, 0, 0], Once.Unkeyed);
        desk.Month.Propose(new MonthAsked()).HoursFree.ShouldBe(0);
        var month = desk.Month.Propose(new MonthAsked(WithinHours: true));
        month.Places.ShouldBeEmpty();
        month.Open.ShouldAllBe(o => o.Why == "the hours before it are all given to what has a date");
        var one = desk.Month.Propose(new MonthAsked(Words: ["bread"], Spacing: 30));
        one.Places.Count.ShouldBe(1);
        one.Open.Count.ShouldBe(2);
    }

    [Fact]
    public void What_was_changed_is_taken_as_one_step_and_taken_back_as_one()
    {
        var month = desk.Month.Propose(new MonthAsked(Spacing: 7));
        var before = desk.Everything();
        var taken = desk.Month.Take(
            [
                .. month
                    .Places.Take(2)
                    .Select(p => new MonthTaken(
                        p.Date,
                        p.Outlet,
                        p.Format,
                        p.Ideas[0].Text + ", in my words",
                        18,
                        p.Topic?.Number,
                        p.Name,
                        p.Ideas[0].Shape,
                        p.Ideas[0].Kind,
                        p.Because[0],
                        p.Ideas[0].From
                    )),
                new MonthTaken(new(2026, 12, 17), letters, "letter", "Sundials", Name: "sundials"),
            ],
            Once.Unkeyed
        );
        taken.Answer.Count.ShouldBe(3);
        var piece = desk.Pieces.Get(taken.Answer[0]);
        (piece.Due, piece.Outlet).ShouldBe((month.Places[0].Date, letters));
        piece.Title.ShouldEndWith(month.Places[0].Ideas[0].Text + ", in my words");
        piece.Brief.ShouldStartWith("To go out at 18:00.");
        piece.Topics.Select(t => t.Name).ShouldBe([month.Places[0].Name]);
        desk.Pieces.Get(taken.Answer[2]).Topics.Select(t => t.Name).ShouldBe(["sundials"]);
        desk.Month.Propose(new MonthAsked(Spacing: 7)).Places.ShouldBeEmpty("the dates have their pieces");
        desk.Undo(taken.Command);
        desk.Everything().ShouldBe(before);
    }

    [Fact]
    public void What_can_t_be_taken_is_named_and_nothing_is_taken()
    {
        var date = new DateOnly(2026, 12, 3);
        void Wrong(string field, params MonthTaken[] places) =>
            Should.Throw<BadInputException>(() => desk.Month.Take(places, Once.Unkeyed)).Field.ShouldBe(field);
        Wrong("places");
        Wrong("text", new MonthTaken(date, letters, "letter", " "));
        Wrong("hour", new MonthTaken(date, letters, "letter", "Bread", 24));
        Wrong("date", new MonthTaken(default, letters, "letter", "Bread"));
        Wrong("format", new MonthTaken(date, letters, "sonnet", "Bread"));
        var slip = SlipNumber.Of(1);
        Wrong(
            "places",
            new MonthTaken(date, letters, "letter", "Bread", Slip: slip),
            new MonthTaken(date, letters, "letter", "Ferry", Slip: slip)
        );
        desk.Pieces.List().ShouldBeEmpty();
    }
}
