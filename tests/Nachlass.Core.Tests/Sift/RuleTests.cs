using Nachlass.Core.Bench;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;

namespace Nachlass.Core.Tests.Sift;

public class RuleTests
{
    private static Rule Of(string query, RuleAct act, RuleWhen when = RuleWhen.Kept, string name = "A rule") =>
        new()
        {
            Name = name,
            Query = query,
            Act = act,
            When = when,
        };

    public static TheoryData<string, RuleAct?, RuleWhen, string, string, string> Wrong =>
        new()
        {
            { "topic:", new RuleAct.Start(), RuleWhen.Kept, "A rule", "query", "at character" },
            { "", new RuleAct.Start(), RuleWhen.Kept, "A rule", "query", "for which slips" },
            { "pull>=4", new RuleAct.Start("novel"), RuleWhen.Kept, "A rule", "format", "novel" },
            { "pull>=4", new RuleAct.MakeReady("novel"), RuleWhen.Kept, "A rule", "format", "novel" },
            { "pull>=4", new RuleAct.Sort(), RuleWhen.Kept, "A rule", "act", "which topics or which kind" },
            { "pull>=4", new RuleAct.Sort([" "]), RuleWhen.Kept, "A rule", "act", "empty" },
            { "pull>=4", new RuleAct.Keep(), RuleWhen.Kept, "A rule", "act", "no keeping" },
            { "pull>=4", null, RuleWhen.Kept, "A rule", "act", "what it does" },
            { "pull>=4", new RuleAct.Drop(), RuleWhen.Caught, "  ", "name", "" },
        };

    [Theory]
    [MemberData(nameof(Wrong))]
    public void A_rule_that_makes_no_sense_is_refused_with_its_field(
        string query,
        RuleAct? act,
        RuleWhen when,
        string name,
        string field,
        string says
    )
    {
        var refused = Should.Throw<BadInputException>(() => Of(query, act!, when, name).Checked(FormatSet.Ready));
        refused.Field.ShouldBe(field);
        refused.Message.ShouldContain(says, Case.Insensitive);
    }

    [Fact]
    public void Its_query_is_kept_as_it_is_printed() =>
        Of("(kind:idea)   and  pull >= 4", new RuleAct.Start(), name: "  Strong  ")
            .Checked()
            .ShouldSatisfyAllConditions(r => r.Query.ShouldBe("kind:idea pull>=4"), r => r.Name.ShouldBe("Strong"));

    [Fact]
    public void It_says_what_it_would_do_with_this_slip()
    {
        var slip = new Slip
        {
            Number = SlipNumber.Of(1),
            Text = "x",
            Formats = ["letter"],
        };
        Of("a", new RuleAct.Start()).Would(slip, FormatSet.Ready).ShouldBe("start a piece: letter");
        Of("a", new RuleAct.Start()).Would(slip with { Formats = [] }, FormatSet.Ready).ShouldBe("start a piece: essay");
        Of("a", new RuleAct.MakeReady()).Would(slip with { Formats = [] }, FormatSet.Ready).ShouldBe("make it ready to go out: thread");
        Of("a", new RuleAct.Sort(["asks", "bells"], SlipKind.Ask)).Would(slip, FormatSet.Ready).ShouldBe("topic asks, topic bells, a ask");
        Of("a", new RuleAct.Keep(), RuleWhen.Caught).Would(slip, FormatSet.Ready).ShouldBe("keep it");
        Of("a", new RuleAct.Drop()).Would(slip, FormatSet.Ready).ShouldBe("drop it");
    }
}
