using CsCheck;
using Nachlass.Core.Choosing;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Tests.Choosing;

public class WorthTests
{
    private static readonly Gen<double?> Value = Gen.Select(Gen.Bool, Gen.Double[0, 1], (known, value) => known ? value : (double?)null);
    private static readonly Gen<TermValues> Values = Value.Array[9].Select(TermValues.Of);
    private static readonly Gen<Weights> AnyWeights = Gen.Double[0.1, 5].Array[9].Select(Weights.Of);

    [Fact]
    public void Worth_is_from_0_to_100_and_never_falls_when_a_term_rises() =>
        Gen.Select(Values, AnyWeights, Gen.Int[0, 8], Gen.Double[0, 1])
            .Sample(
                (values, weights, term, by) =>
                {
                    var before = Worth.Of(values, weights);
                    before.ShouldBeInRange(0, 100);
                    if (double.IsNaN(values[term]))
                        return;
                    values[term] += by * (1 - values[term]);
                    Worth.Of(values, weights).ShouldBeGreaterThanOrEqualTo(before - 1e-9);
                }
            );

    [Fact]
    public void What_is_not_known_is_left_out_and_not_counted_as_nothing()
    {
        var weights = Weighing.Evenly.Weights;
        var values = TermValues.Of([0.8, null, 0.8, null, null, null, null, null, 0.8]);
        Worth.Of(values, weights).ShouldBe(80, 1e-9);
        values[(int)WorthTerm.Asks] = 0;
        Worth.Of(values, weights).ShouldBeLessThan(80);
        Worth.Of(TermValues.Unknown, weights).ShouldBe(0);
    }

    /// <summary>Each fact of an idea, made to speak more for it, lifts its worth, whatever else is known.</summary>
    [Fact]
    public void Every_fact_that_speaks_for_an_idea_lifts_it() =>
        Gen.Select(AnyKnown, AnyWeights, Gen.Int[0, 8])
            .Sample(
                (known, weights, which) =>
                {
                    var more = (WorthTerm)which switch
                    {
                        WorthTerm.Pull => known with { Pull = Math.Min(5, known.Pull!.Value + 1) },
                        WorthTerm.Effort => known with { Hours = known.Hours / 2 },
                        WorthTerm.Material => known with { Things = known.Things + 1 },
                        WorthTerm.Asks => known with { Wishes = known.Wishes + 0.5 },
                        WorthTerm.Timeliness => known with { DaysUntil = known.DaysNeeded },
                        WorthTerm.Mix => known with { Share = (known.Share!.Value.Has / 2, known.Share.Value.Wished) },
                        WorthTerm.Novelty => known with { Said = (known.Said!.Value.Covered / 2, known.Said.Value.Days) },
                        WorthTerm.Ripeness => known with { Ripe = Math.Min(1, known.Ripe!.Value + 0.1) },
                        _ => known with { Days = known.Days + 30 },
                    };
                    Worth.Of(more, weights).ShouldBeGreaterThanOrEqualTo(Worth.Of(known, weights) - 1e-9);
                }
            );

    private static readonly Gen<Known> AnyKnown = Gen.Select(
        Gen.Int[1, 5],
        Gen.Double[0.2, 60],
        Gen.Int[0, 30],
        Gen.Double[0, 9],
        Gen.Int[0, 400],
        Gen.Select(Gen.Double[0, 1], Gen.Double[0.01, 1], Gen.Double[0, 1]),
        Gen.Int[0, 4000],
        (pull, hours, things, wishes, until, shares, days) =>
            new Known
            {
                Pull = pull,
                Hours = hours,
                Things = things,
                Wishes = wishes,
                KnowsOccasions = true,
                DaysUntil = until,
                DaysNeeded = 14,
                Share = (shares.Item1, shares.Item2),
                Said = (shares.Item3, days),
                Ripe = shares.Item1,
                Days = days,
            }
    );

    [Theory]
    [InlineData(0, 0)]
    [InlineData(1, 0.22)]
    [InlineData(4, 0.63)]
    [InlineData(10, 0.92)]
    public void Material_saturates(int things, double value) => WorthTerms.Material(things).ShouldBe(value, 0.005);

    [Fact]
    public void The_tenth_thing_adds_little() => (WorthTerms.Material(10) - WorthTerms.Material(9)).ShouldBeLessThan(0.03);

    [Fact]
    public void A_wish_weighs_half_after_180_days()
    {
        WorthTerms.AskWeight(0).ShouldBe(1);
        WorthTerms.AskWeight(180).ShouldBe(0.5, 1e-9);
        WorthTerms.AskWeight(360).ShouldBe(0.25, 1e-9);
    }

    [Theory]
    [InlineData(19, 19, 1)]
    [InlineData(57, 19, 0)]
    [InlineData(200, 19, 0)]
    [InlineData(-1, 19, 0)]
    [InlineData(0, 19, 0)]
    public void An_occasion_counts_within_the_time_the_format_needs_and_not_once_it_is_past(int until, int needed, double value) =>
        WorthTerms.Timeliness(until, needed).ShouldBe(value, 1e-9);

    [Fact]
    public void What_was_said_stands_in_the_way_less_as_the_years_go()
    {
        WorthTerms.Novelty(0, 10).ShouldBe(1);
        WorthTerms.Novelty(1, 0).ShouldBe(0);
        WorthTerms.Novelty(1, 730).ShouldBe(0.5, 1e-9);
        WorthTerms.Novelty(0.5, 3_650).ShouldBeGreaterThan(0.98);
    }

    [Fact]
    public void Light_work_counts_more_and_fits_the_hours_there_are()
    {
        WorthTerms.Hours(16, 3).ShouldBe(16);
        WorthTerms.Hours(16, 1).ShouldBe(6.35, 0.01);
        WorthTerms.Hours(16, null).ShouldBe(16);
        WorthTerms.Effort(3).ShouldBeGreaterThan(WorthTerms.Effort(14));
        WorthTerms.Effort(3, atHand: 4).ShouldBe(1);
        WorthTerms.Effort(16, atHand: 4).ShouldBe(0.25);
    }

    [Fact]
    public void The_mix_asks_for_what_lies_under_its_share()
    {
        WorthTerms.Mix(0, 0.2).ShouldBe(1);
        WorthTerms.Mix(0.1, 0.2).ShouldBe(0.5, 1e-9);
        WorthTerms.Mix(0.3, 0.2).ShouldBe(0);
    }

    [Fact]
    public void Weights_are_from_0_to_5_and_something_counts()
    {
        Should.Throw<BadInputException>(() => (Weighing.Evenly.Weights with { Asks = 6 }).Checked()).Field.ShouldBe("weights.asks");
        Should.Throw<BadInputException>(() => Weights.Of(new double[9]).Checked()).Field.ShouldBe("weights");
        Should.Throw<BadInputException>(() => (Weighing.Evenly.Weights with { Mix = double.NaN }).Checked());
        Should.Throw<BadInputException>(() => Weighing.Named("loudest"));
    }

    [Fact]
    public void Why_an_idea_stands_there_is_one_short_sentence()
    {
        var prospect = new Prospect
        {
            Known = new Known
            {
                Pull = 2,
                Things = 10,
                Wishes = 3,
                Share = (0.1, 0.2),
                Days = 40,
            },
            Passages = 10,
            Readers = 3,
            Topic = "tolls",
        };
        prospect.Reasons(Weighing.Evenly.Weights).ShouldBe(["ten passages wait", "three readers ask", "tolls lies under its share"]);
        new Prospect { Known = new Known { Days = 3 } }
            .Reasons(Weighing.Evenly.Weights)
            .ShouldBe(["little speaks for it yet"]);
        new Prospect { Known = new Known { Days = 400 } }
            .Reasons(Weighing.Evenly.Weights)
            .ShouldBe(["it has waited 13 months"]);
    }

    [Fact]
    public void Two_ideas_side_by_side_differ_by_their_terms_and_one_change_would_turn_them()
    {
        var weights = Weighing.Evenly.Weights;
        var asked = new Prospect
        {
            Known = new Known
            {
                Pull = 4,
                Hours = 6,
                Things = 10,
                Wishes = 3,
                Days = 60,
            },
            Passages = 10,
            Readers = 3,
        };
        var drawn = new Prospect
        {
            Known = new Known
            {
                Pull = 5,
                Hours = 3,
                Things = 5,
                Wishes = 0,
                Days = 60,
            },
            Passages = 5,
        };
        var beside = Beside.Of(asked, drawn, weights);
        beside.Better.ShouldBe(["it draws you more (5 against 4)", "it is lighter (3 h against 6 h)"], ignoreOrder: true);
        beside.Worse.ShouldBe(["nobody has asked", "five things are all there is"], ignoreOrder: true);
        beside.Tip.ShouldNotBeNull().ShouldEndWith("would stand above.");
        beside
            .Terms.Sum(t => t.Share)
            .ShouldBe(Worth.Of(drawn.Known, weights) - Worth.Of(asked.Known, weights), 1e-9, "the terms are the whole difference");
    }

    [Fact]
    public void What_would_put_it_above_does_so() =>
        Gen.Select(AnyKnown, AnyKnown, AnyWeights)
            .Sample(
                (a, b, weights) =>
                {
                    var beside = Beside.Of(new Prospect { Known = a }, new Prospect { Known = b }, weights);
                    var (worthA, worthB) = (Worth.Of(a, weights), Worth.Of(b, weights));
                    if (beside.Tip is not { } tip || worthA <= worthB)
                        return;
                    var lifted =
                        tip.StartsWith("Asked", StringComparison.Ordinal) ? b with { Wishes = b.Wishes + 6 }
                        : tip.StartsWith("With a pull", StringComparison.Ordinal) ? b with { Pull = 5 }
                        : b with { Things = b.Things + 12 };
                    Worth.Of(lifted, weights).ShouldBeGreaterThan(worthA);
                }
            );
}
