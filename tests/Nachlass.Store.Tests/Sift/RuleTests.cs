using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Store.Capture;
using Nachlass.Store.Papers;
using Nachlass.Store.Sift;

namespace Nachlass.Store.Tests.Sift;

public sealed class RuleTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    private SlipNumber Catch(string text, int? pull = null, string? format = null)
    {
        var slip = desk.Catch(text);
        desk.Slips.Edit(
            slip.Number,
            new SlipChange
            {
                Version = slip.Version,
                Pull = pull,
                Formats = format is null ? [] : [format],
            },
            Once.Unkeyed
        );
        return slip.Number;
    }

    private CommandNumber Keep(SlipNumber slip) => desk.Decisions.Decide(slip, new Decision.Keep(), Once.Unkeyed).Command;

    private Rule On(string query, RuleAct act, RuleWhen when = RuleWhen.Kept) =>
        desk
            .Rules.Add(
                new RuleChange
                {
                    Name = "a rule",
                    Query = query,
                    Act = act,
                    When = when,
                    IsOn = true,
                },
                Once.Unkeyed
            )
            .Answer;

    [Fact]
    public void A_rule_is_tried_on_the_last_hundred_before_it_is_switched_on()
    {
        foreach (var i in Enumerable.Range(1, 12))
            Keep(Catch($"essay {i}", i % 3 == 0 ? 5 : 2, "essay"));
        var made = new RuleChange { Query = "format:essay pull>=4", Act = new RuleAct.Start() };
        var tried = desk.Rules.Try(made);
        tried.Looked.ShouldBe(12);
        tried.Met.Select(t => t.Would).ShouldBe(Enumerable.Repeat("start a piece: essay", 4));
        desk.Pieces.List().ShouldBeEmpty();
        Should.Throw<BadInputException>(() => desk.Rules.Try(made with { Query = "" })).Field.ShouldBe("query");
        Should.Throw<BadInputException>(() => desk.Rules.Try(made with { Query = "pull:9" })).Field.ShouldBe("query");
        Should.Throw<BadInputException>(() => desk.Rules.Try(made with { Act = new RuleAct.Sort() })).Field.ShouldBe("act");
        Should.Throw<BadInputException>(() => desk.Rules.Try(made with { Act = new RuleAct.Keep() })).Field.ShouldBe("act");
    }

    [Fact]
    public void Kept_essays_with_high_pull_start_a_piece_in_the_same_step_and_undo_takes_both_back()
    {
        var rule = On("format:essay pull>=4", new RuleAct.Start());
        Keep(Catch("too little pull", 2, "essay"));
        desk.Pieces.List().ShouldBeEmpty();
        var slip = Catch("Ferrymen paid in bread", 5, "essay");
        var before = desk.Everything();
        var kept = Keep(slip);
        desk.Pieces.List().ShouldHaveSingleItem().Title.ShouldBe("Ferrymen paid in bread");
        desk.History.Latest(1)[0].What.ShouldBe("kept slip 2; by the rule “a rule” started P 1 from slip 2");
        desk.Undo(kept);
        desk.Everything().ShouldBe(before);
        // Switched off, nothing follows; and taking an undo back starts no second piece.
        desk.Rules.Edit(rule.Number, new RuleChange { Version = rule.Version, IsOn = false }, Once.Unkeyed);
        Keep(slip);
        desk.Pieces.List().ShouldBeEmpty();
    }

    [Fact]
    public void Kept_short_posts_go_to_the_ready_list_with_their_own_text()
    {
        On("format:thread", new RuleAct.MakeReady());
        Keep(Catch("Everyone who stops looks upstream.", 3, "thread"));
        var piece = desk.Pieces.List().ShouldHaveSingleItem();
        piece.Stage.ShouldBe("Ready");
        desk.Drafts.Get(piece.Number).Text.ShouldBe("Everyone who stops looks upstream.\n");
    }

    [Fact]
    public void What_comes_in_is_sorted_by_whatever_door()
    {
        On("origin:phone", new RuleAct.Sort(["on the way"], SlipKind.Ask), RuleWhen.Caught);
        On("spam", new RuleAct.Drop(), RuleWhen.Caught);
        desk.Capture.Catch(
            [
                new ToCatch("Please write about eels") { Origin = Origin.Phone },
                new ToCatch("spam and more spam"),
                new ToCatch("left alone"),
            ],
            Once.Unkeyed
        );
        desk.Slips.Get(SlipNumber.Of(1))
            .ShouldSatisfyAllConditions(
                s => s.Kind.ShouldBe(SlipKind.Ask),
                s => s.Topics.ShouldHaveSingleItem().Name.ShouldBe("on the way")
            );
        desk.Slips.Get(SlipNumber.Of(2)).State.ShouldBe(SlipState.Dropped);
        desk.Slips.Get(SlipNumber.Of(3))
            .ShouldSatisfyAllConditions(s => s.State.ShouldBe(SlipState.Waiting), s => s.Topics.ShouldBeEmpty());
        desk.History.Latest(1)[0].What.ShouldContain("by the rule “a rule” dropped slip 2");
    }

    [Fact]
    public void Several_kept_at_once_are_said_in_one_line_and_rules_do_not_set_off_rules()
    {
        On("topic:tolls", new RuleAct.Sort(["money"]));
        On("topic:money", new RuleAct.Drop(), RuleWhen.Caught);
        var slips = Enumerable.Range(1, 3).Select(i => Catch($"toll {i} #tolls")).ToList();
        desk.Decisions.Several(new SeveralChange { Slips = slips, Decision = new Decision.Keep() }, Once.Unkeyed);
        desk.History.Latest(1)[0].What.ShouldBe("kept 3 slips; the rule “a rule” did so for 3 slips");
        slips.ShouldAllBe(s => desk.Slips.Get(s).State == SlipState.Kept && desk.Slips.Get(s).Topics.Count == 2);
    }

    [Fact]
    public void Rules_go_out_and_in_with_the_papers_and_do_nothing_to_what_comes_with_them()
    {
        On("topic:tolls", new RuleAct.Sort(["money"], SlipKind.Note), RuleWhen.Caught);
        desk.Catch("toll #tolls");
        using var other = new Desk();
        other.Images.Put(Exchange.Papers.PapersFiles.Read(Exchange.Papers.PapersFiles.Write(desk.Images.Take())), Once.Unkeyed);
        other
            .Rules.List()
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                r => r.IsOn.ShouldBeTrue(),
                r => r.When.ShouldBe(RuleWhen.Caught),
                r => ((RuleAct.Sort)r.Act).Kind.ShouldBe(SlipKind.Note)
            );
        other.Slips.Get(SlipNumber.Of(1)).Topics.Count.ShouldBe(2);
    }

    [Fact]
    public void Shares_kept_held_and_dropped_are_counted_by_month_with_how_far_they_got()
    {
        for (var i = 0; i < 30; i++)
        {
            var slip = Catch($"slip {i}");
            desk.Clock.Advance(TimeSpan.FromMinutes(1));
            desk.Decisions.Decide(
                slip,
                i % 2 == 0 ? new Decision.Drop()
                    : i % 5 == 1 ? new Decision.Hold(desk.Today.AddDays(9))
                    : new Decision.Keep(),
                Once.Unkeyed
            );
        }
        var flow = desk.Flow.Over(3);
        flow.Months.Select(m => m.Month.Month).ShouldBe([9, 10, 11]);
        flow.Months[^1]
            .ShouldSatisfyAllConditions(
                m => m.Decided.ShouldBe(30),
                m => m.Dropped.ShouldBe(15),
                m => m.Held.ShouldBe(3),
                m => m.Kept.ShouldBe(12),
                m => m.Used.ShouldBe(0)
            );
        (flow.ShareKept + flow.ShareHeld + flow.ShareDropped).ShouldBe(1);
        flow.Says.ShouldContain("healthy flow");
        new Desk().Flow.Over(3).ShouldSatisfyAllConditions(f => f.ShareDropped.ShouldBeNull(), f => f.Says.ShouldContain("From 20 on"));
    }
}
