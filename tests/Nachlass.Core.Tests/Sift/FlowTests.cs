using CsCheck;
using Nachlass.Core.Sift;

namespace Nachlass.Core.Tests.Sift;

public class FlowTests
{
    private static Flow Of(int kept, int held, int dropped, int used = 0) =>
        Flow.Of([new FlowMonth(new DateOnly(2026, 11, 1), kept, held, dropped, used, 0)]);

    [Theory]
    [InlineData(10, 2, 7, 3, "19 decided so far")]
    [InlineData(10, 2, 8, 3, "a healthy flow")]
    [InlineData(90, 5, 5, 4, "You keep nearly everything and use little of it")]
    [InlineData(70, 10, 20, 40, "ends up in pieces")]
    [InlineData(70, 10, 20, 20, "nothing to mend")]
    public void The_shares_are_put_into_words(int kept, int held, int dropped, int used, string says) =>
        Of(kept, held, dropped, used).Says.ShouldContain(says);

    [Fact]
    public void Nothing_decided_has_no_shares() =>
        Flow.Of([])
            .ShouldSatisfyAllConditions(
                f => f.ShareKept.ShouldBeNull(),
                f => f.ShareUsed.ShouldBeNull(),
                f => f.Says.ShouldContain("0 decided")
            );

    [Fact]
    public void The_shares_of_what_was_decided_are_the_whole() =>
        Gen.Select(Gen.Int[0, 50], Gen.Int[0, 50], Gen.Int[1, 50])
            .Sample(
                (kept, held, dropped) =>
                {
                    var flow = Of(kept, held, dropped);
                    return Math.Abs(flow.ShareKept!.Value + flow.ShareHeld!.Value + flow.ShareDropped!.Value - 1) < 1e-9;
                }
            );
}
