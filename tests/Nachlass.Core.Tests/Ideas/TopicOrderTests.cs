using CsCheck;
using Nachlass.Core.Ideas.Order;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Tests.Ideas;

/// <summary>What speaks for a topic, and how sure it is of it.</summary>
public sealed class TopicOrderTests
{
    private static int[] Months(int each, params (int Month, int Count)[] more)
    {
        var months = Enumerable.Repeat(each, 12).ToArray();
        foreach (var (month, count) in more)
            months[month - 1] += count;
        return months;
    }

    [Fact]
    public void A_topic_has_a_season_when_it_comes_up_more_than_all_else_does_in_those_months()
    {
        var season = Season.Of(Months(1, (12, 20)), Months(50), 900, [12])!;
        (season.Seen, Math.Round(season.Usual, 2)).ShouldBe((21, 2.67));
        season.Ratio.ShouldBe((21 + 4) / (2.6667 + 4), 0.01);
        // Where all is read in December, December makes no season.
        Season.Of(Months(1, (12, 20)), Months(50, (12, 1_000)), 900, [12])!.Ratio.ShouldBeLessThan(1.1);
        Season.Of(Months(0, (12, 11)), Months(50), 900, [12]).ShouldBeNull("eleven texts are too few");
        Season.Of(Months(1, (12, 20)), Months(50), 200, [12]).ShouldBeNull("half a year knows no seasons");
    }

    [Fact]
    public void What_rises_is_told_from_chance_and_from_too_little()
    {
        Rising.Of(30, 100, 10, 400, 1).Trend.ShouldBe(Trend.Rises);
        Rising.Of(0, 100, 60, 400, 1).Trend.ShouldBe(Trend.Falls);
        Rising.Of(9, 100, 36, 400, 1).Trend.ShouldBe(Trend.Same);
        Rising.Of(1, 100, 0, 400, 1).Trend.ShouldBe(Trend.TooLittle, "one text can't show anything");
        Rising.Of(0, 0, 10, 400, 1).Trend.ShouldBe(Trend.TooLittle);
        // Asked about fifty topics at once, one has to be that much surer.
        var (one, fifty) = (Rising.Of(7, 100, 8, 400, 1), Rising.Of(7, 100, 8, 400, 50));
        (one.Trend, fifty.Trend).ShouldBe((Trend.Rises, Trend.Same));
        one.Chance.ShouldBe(fifty.Chance);
    }

    [Fact]
    public void The_chance_is_that_of_drawing_blindly()
    {
        // 3 of 3 out of 10 where 3 are on the topic: one way of 120.
        Rising.Of(3, 3, 0, 7, 1).Chance.ShouldBe(1 / 120.0, 1e-9);
        // 2 or more of 3: (3·7 + 1) of 120.
        Rising.Of(2, 3, 1, 7, 1).Chance.ShouldBe(22 / 120.0, 1e-9);
        // Large tables do not run over.
        Rising.Of(600, 20_000, 1_900, 80_000, 1).Chance.ShouldBeInRange(0, 1e-6);
    }

    [Fact]
    public void By_chance_alone_one_find_in_twenty_at_most()
    {
        var random = new Random(7);
        var finds = 0;
        for (var times = 0; times < 400; times++)
        {
            var lately = Enumerable.Range(0, 200).Count(_ => random.Next(20) == 0);
            var before = Enumerable.Range(0, 800).Count(_ => random.Next(20) == 0);
            if (Rising.Of(lately, 200, before, 800, 1).Trend is Trend.Rises or Trend.Falls)
                finds++;
        }
        finds.ShouldBeLessThan(400 / 20);
    }

    [Fact]
    public void Few_releases_are_drawn_towards_all()
    {
        Reached[] releases =
        [
            .. Enumerable.Range(0, 12).Select(i => new Reached(1, [1], 100 + i)),
            .. Enumerable.Range(0, 12).Select(i => new Reached(1, [2], 210 + i * 9)),
            new(1, [3], 300),
        ];
        var effect = Effect.Of(releases);
        effect[3].Releases.ShouldBe(1);
        effect[3].Raw.ShouldBeGreaterThan(effect[2].Raw, "it reached most");
        (effect[3].Raw / effect[3].Ratio).ShouldBeGreaterThan(effect[2].Raw / effect[2].Ratio, "and is believed least");
        effect[1].Ratio.ShouldBeLessThan(1);
        Effect.Of(releases[..4]).ShouldBeEmpty("four releases tell nothing");
    }

    [Fact]
    public void Outlets_are_held_against_themselves()
    {
        // Ten times the readers at the second outlet is no merit of the topic.
        Reached[] releases =
        [
            .. Enumerable.Range(0, 6).Select(i => new Reached(1, [1], 100 + i)),
            .. Enumerable.Range(0, 6).Select(i => new Reached(2, [2], 1000 + i * 10)),
        ];
        var effect = Effect.Of(releases);
        effect[1].Ratio.ShouldBe(effect[2].Ratio, 0.02);
    }

    [Fact]
    public void What_a_topic_reached_is_drawn_to_the_usual_and_never_past_it() =>
        Gen.Select(
                Gen.Int[0, 3],
                Gen.Int[1, 5].Array[0, 3],
                Gen.Double[0, 1e6],
                (outlet, topics, figure) => new Reached(outlet, topics, figure)
            )
            .List[0, 30]
            .Sample(releases =>
                Effect
                    .Of(releases)
                    .Values.All(e => e.Releases > 0 && e.Ratio >= Math.Min(1, e.Raw) - 1e-9 && e.Ratio <= Math.Max(1, e.Raw) * (1 + 1e-9))
            );

    [Fact]
    public void What_is_not_known_counts_neither_way()
    {
        TermRead[] terms =
        [
            new(OrderTerm.Season, 0.9, "It is its month.", []),
            new(OrderTerm.Rising, null, "Too little to say.", []),
            new(OrderTerm.Asks, 0.1, "Nobody asks.", []),
        ];
        TopicOrder.Score(terms, new OrderWeights(1, 5, 0, 1, 0)).ShouldBe(50);
        TopicOrder.Score(terms, new OrderWeights(3, 5, 0, 1, 0)).ShouldBe(70);
        TopicOrder.Score(terms[1..2], new OrderWeights()).ShouldBeNull();
        TopicOrder.Because(terms, new OrderWeights()).ShouldBe("It is its month.");
        TopicOrder.Because(terms[2..], new OrderWeights()).ShouldBe("Nobody asks.");
    }

    [Fact]
    public void Weights_are_from_nothing_to_five_and_not_all_nothing()
    {
        Should.Throw<BadInputException>(() => new OrderWeights(Season: 6).Checked()).Field.ShouldBe("weights.season");
        Should.Throw<BadInputException>(() => new OrderWeights(Asks: double.NaN).Checked()).Field.ShouldBe("weights.asks");
        Should.Throw<BadInputException>(() => new OrderWeights(0, 0, 0, 0, 0).Checked()).Field.ShouldBe("weights");
    }

    [Fact]
    public void A_topic_waits_the_more_the_longer_nothing_went_out()
    {
        LongAgo.Value(0, 100, 0).ShouldBe(0);
        LongAgo.Value(LongAgo.Half, 100, 0).ShouldBe(0.5, 1e-6);
        LongAgo.Value(null, 100, 0).ShouldBe(1, 1e-6);
        LongAgo.Value(null, 100, 2).ShouldBe(0.25, 1e-6);
        LongAgo.Value(null, 2, 0).ShouldBeLessThan(0.4, "little can be made of two slips");
    }
}
