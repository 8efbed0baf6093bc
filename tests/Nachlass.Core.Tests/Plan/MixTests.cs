using CsCheck;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Tests.Plan;

public class MixTests
{
    [Fact]
    public void A_piece_on_two_topics_counts_half_for_each()
    {
        var shares = Mix.Shares([new(1, 1, [7]), new(2, 1, [7, 8])]);
        (shares[7], shares[8]).ShouldBe((0.75, 0.25));
        Mix.Off(shares, new Dictionary<int, double> { [7] = 0.5, [8] = 0.5 }).ShouldBe(0.25);
        Mix.Shares([]).ShouldBeEmpty();
    }

    [Fact]
    public void The_swap_that_mends_most_is_found_or_none()
    {
        var wished = new Dictionary<int, double> { [7] = 0.5, [8] = 0.5 };
        Mix.BestSwap([new(1, 1, [7]), new(2, 1, [7])], [new(3, 1, [9]), new(4, 1, [8])], wished).ShouldBe(new Swap(1, 4, 0.5, 0));
        Mix.BestSwap([new(1, 1, [7]), new(2, 1, [8])], [new(3, 1, [7])], wished).ShouldBeNull();
        Mix.BestSwap([new(1, 1, [7])], [new(3, 1, [8])], new Dictionary<int, double>()).ShouldBeNull();
    }

    [Fact]
    public void Shares_sum_to_one_and_distance_lies_between_nothing_and_one() =>
        Gen.Select(Gen.Select(Gen.Double[0.1, 9], Gen.Int[1, 5].Array[1, 3]).Array[1, 12], Gen.Double[0, 1].Array[5])
            .Sample(
                (things, wishes) =>
                {
                    var shares = Mix.Shares(things.Select((t, i) => new Mixed(i, t.Item1, [.. t.Item2.Distinct()])));
                    shares.Values.Sum().ShouldBe(1, 1e-6);
                    var sum = Math.Max(1, wishes.Sum());
                    var off = Mix.Off(shares, wishes.Select((w, i) => (i + 1, w / sum)).ToDictionary(x => x.Item1, x => x.Item2));
                    off.ShouldBeInRange(-1e-9, 1 + 1e-9);
                }
            );
}
