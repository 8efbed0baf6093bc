using CsCheck;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Tests.Plan;

public class LargestRemainderTests
{
    [Fact]
    public void The_largest_rests_get_what_is_left()
    {
        // 3.0, 2.5, 2.0, 1.5 and 1.0 of ten: of the two halves the first.
        LargestRemainder.Of([30, 25, 20, 15, 10], 10).ShouldBe([3, 3, 2, 1, 1]);
        LargestRemainder.Of([0, 0], 4).ShouldBe([0, 0]);
        LargestRemainder.Of([], 4).ShouldBeEmpty();
    }

    [Fact]
    public void All_are_given_out_and_none_is_off_its_quota_by_one() =>
        Gen.Select(Gen.Double[0, 50].Array[1, 9], Gen.Int[0, 60])
            .Where((shares, _) => shares.Sum() > 0)
            .Sample(
                (shares, total) =>
                {
                    var given = LargestRemainder.Of(shares, total);
                    given.Sum().ShouldBe(total);
                    for (var i = 0; i < shares.Length; i++)
                        Math.Abs(given[i] - total * shares[i] / shares.Sum()).ShouldBeLessThan(1 + 1e-6);
                }
            );
}
