using Nachlass.Core.Choosing;

namespace Nachlass.Core.Tests.Choosing;

public class LearningTests
{
    private static TermValues Idea(Random random) =>
        TermValues.Of([.. Enumerable.Range(0, 9).Select(k => random.Next(5) == 0 && k < 8 ? (double?)null : random.NextDouble())]);

    /// <summary>Someone who takes what is worth most by weights of their own, not always.</summary>
    private static List<Chosen> Choices(Random random, Weights own, int count, double whim)
    {
        var choices = new List<Chosen>();
        for (var i = 0; i < count; i++)
        {
            var stood = Enumerable.Range(0, 20).Select(_ => Idea(random)).ToList();
            var taken = Enumerable.Range(0, 20).MaxBy(j => Worth.Of(stood[j], own) + whim * random.NextDouble());
            choices.Add(new Chosen(stood, taken));
        }
        return choices;
    }

    private static double Agreement(Random random, Weights one, Weights other)
    {
        var ideas = Enumerable.Range(0, 60).Select(_ => Idea(random)).ToList();
        var (same, all) = (0, 0);
        for (var i = 0; i < ideas.Count; i++)
        for (var j = 0; j < i; j++)
        {
            all++;
            same +=
                Math.Sign(Worth.Of(ideas[i], one) - Worth.Of(ideas[j], one))
                == Math.Sign(Worth.Of(ideas[i], other) - Worth.Of(ideas[j], other))
                    ? 1
                    : -1;
        }
        return same / (double)all;
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void After_a_hundred_choices_the_learnt_order_is_the_choosers_own(int seed)
    {
        var random = new Random(seed);
        var own = Weights.Of([.. Enumerable.Range(0, 9).Select(_ => Math.Round(5 * random.NextDouble(), 1))]);
        var learnt = Learning.Weights(Choices(random, own, 100, whim: 4), Weighing.Evenly.Weights);
        Agreement(random, learnt, own).ShouldBeGreaterThanOrEqualTo(0.8);
        Agreement(random, learnt, own).ShouldBeGreaterThan(Agreement(random, Weights.Of([5, 0, 0, 0, 0, 0, 0, 0, 0]), own));
    }

    [Fact]
    public void Nothing_is_said_before_a_dozen_choices()
    {
        var choices = Choices(new Random(5), Weighing.ByPull.Weights, 12, 0);
        Learning.From(choices[..11], Weighing.Evenly.Weights).ShouldBeNull();
        Learning.From(choices, Weighing.Evenly.Weights).ShouldNotBeNull();
    }

    [Fact]
    public void A_few_choices_move_the_weights_a_little_and_none_not_at_all()
    {
        var from = Weighing.Evenly.Weights;
        Agreement(new Random(9), Learning.Weights([], from), from).ShouldBe(1, 0.05);
        Agreement(new Random(9), Learning.Weights(Choices(new Random(6), Weighing.ByPull.Weights, 2, 0), from), from)
            .ShouldBeGreaterThan(0.8);
    }

    [Fact]
    public void What_is_learnt_is_the_same_each_time_and_can_be_weighed_by()
    {
        var choices = Choices(new Random(7), Weighing.ForReaders.Weights, 40, 8);
        var learnt = Learning.Weights(choices, Weighing.Evenly.Weights);
        learnt.ShouldBe(Learning.Weights(choices, Weighing.Evenly.Weights));
        learnt.Checked().ShouldBe(learnt);
        learnt.ToList().Max().ShouldBe(5);
    }

    [Fact]
    public void How_well_it_does_is_told_by_choices_it_has_not_seen()
    {
        // Pure whim: what is learnt can't foretell it, and must not say that it would.
        var random = new Random(8);
        var whims = Enumerable
            .Range(0, 60)
            .Select(_ => new Chosen([.. Enumerable.Range(0, 20).Select(_ => Idea(random))], random.Next(20)))
            .ToList();
        Learning.From(whims, Weighing.Evenly.Weights)!.Held.ShouldBeLessThan(20);
        Learning.From(Choices(random, Weighing.ByPull.Weights, 60, 0), Weighing.Evenly.Weights)!.Held.ShouldBeGreaterThan(50);
    }

    [Fact]
    public void Equals_stand_half_before_what_was_taken()
    {
        var same = TermValues.Of([0.5, null, null, null, null, null, null, null, 0.1]);
        Learning.Rank(new Chosen([same, same, same], 1), Weighing.Evenly.Weights).ShouldBe(2);
    }
}
