using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;

namespace Nachlass.Core.Tests.Sift;

public class TopicWeightsTests
{
    private static readonly TopicNumber Ferries = TopicNumber.Of(1),
        Bread = TopicNumber.Of(2),
        Bells = TopicNumber.Of(3);

    private static readonly (TopicNumber Topic, string[] Words)[] Said =
    [
        (Ferries, ["rope", "ferryman", "far bank", "boat", "crossing", "oar"]),
        (Bread, ["loaves", "oven", "baker", "flour", "crust", "miller"]),
        (Bells, ["bell", "fog", "ringing", "tower", "clapper", "bronze"]),
    ];

    private static List<Decided> Decisions(int count, int seed = 1)
    {
        var random = new Random(seed);
        return
        [
            .. Enumerable
                .Range(1, count)
                .Select(i =>
                {
                    var (topic, words) = Said[random.Next(3)];
                    return new Decided(
                        i,
                        $"the {words[random.Next(6)]} and the "
                            + $"{words[random.Next(6)]} were there, said {"ABCDEFGH"[random.Next(8)]} of the valley",
                        [topic],
                        []
                    );
                }),
        ];
    }

    private static TopicWeights Learnt(IEnumerable<Decided> decisions) =>
        TopicWeights.Learn(decisions, TestContext.Current.CancellationToken);

    private static string Figures(TopicWeights weights) =>
        string.Join(
            ' ',
            ((string[])["a rope and an oar", "the baker of loaves", "fog", "nothing of it", "the far bank’s oven"]).SelectMany(text =>
                weights.Of(text).OrderBy(m => m.Key.Value).Select(m => m.Value.ToString("R"))
            )
        );

    [Fact]
    public void It_learns_which_words_belong_to_which_topic_and_says_by_which()
    {
        var weights = Learnt(Decisions(120));
        foreach (var (topic, words) in Said)
        {
            var text = $"it was the {words[0]} again";
            weights.Of(text).MaxBy(m => m.Value).Key.ShouldBe(topic);
            weights.Because(text, topic)[0].Word.ShouldBe(words[0].Split(' ')[0]);
        }
        // An ending that was never seen is known by its letters.
        weights.Of("two ferrymen").MaxBy(m => m.Value).Key.ShouldBe(Ferries);
    }

    [Fact]
    public void What_the_words_say_is_all_that_a_margin_is_made_of()
    {
        var weights = Learnt(Decisions(120));
        var nothing = weights.Of("")[Bread];
        foreach (var text in (string[])["the baker of loaves", "a rope, a rope and a bell"])
            (nothing + weights.Because(text, Bread).Sum(w => w.Part)).ShouldBe(weights.Of(text)[Bread], 1e-4);
    }

    [Fact]
    public void What_is_learnt_follows_from_the_decisions_and_not_from_their_order()
    {
        var decisions = Decisions(150);
        var learnt = Figures(Learnt(decisions));
        Gen.Shuffle(decisions.ToArray()).Sample(shuffled => Figures(Learnt(shuffled)).ShouldBe(learnt), iter: 5, threads: 1);
    }

    [Fact]
    public void A_decision_counts_at_once_and_taken_back_leaves_nothing_behind() =>
        Gen.Int[2, 40]
            .Sample(
                seed =>
                {
                    var random = new Random(seed);
                    var weights = Learnt(Decisions(120, seed));
                    var before = Figures(weights);
                    var changed = new Dictionary<int, Decided?>();
                    for (var i = 0; i < 8; i++)
                    {
                        var thing = random.Next(1, 140);
                        changed[thing] =
                            random.Next(3) == 0
                                ? null
                                : new Decided(thing, $"sturgeon number {random.Next(9)} in the net", [Bells], [Bread]);
                    }
                    changed[500] = new Decided(500, "a sturgeon in the net", [Bells], []);
                    var after = weights.With(changed);
                    after.Of("a sturgeon in the net").MaxBy(m => m.Value).Key.ShouldBe(Bells);
                    after.Of("a sturgeon in the net")[Bells].ShouldBeGreaterThan(weights.Of("a sturgeon in the net")[Bells]);
                    // In whatever order they were made …
                    Figures(weights.With(changed.Reverse().ToDictionary())).ShouldBe(Figures(after));
                    // … and without a trace when they are gone again.
                    Figures(weights.With(new Dictionary<int, Decided?>())).ShouldBe(before);
                    Figures(weights).ShouldBe(before);
                },
                iter: 20,
                threads: 1
            );

    [Fact]
    public void What_was_learnt_and_is_taken_back_counts_no_more()
    {
        var decisions = Decisions(120);
        decisions.Add(new Decided(200, "a sturgeon in the net", [Bells], []));
        var weights = Learnt(decisions);
        var without = weights.With(new Dictionary<int, Decided?> { [200] = null });
        without.Of("a sturgeon in the net")[Bells].ShouldBeLessThan(weights.Of("a sturgeon in the net")[Bells] - 0.3);
    }

    [Fact]
    public void A_refusal_speaks_against()
    {
        var weights = Learnt(Decisions(120));
        var refused = weights.With(new Dictionary<int, Decided?> { [200] = new Decided(200, "the baker’s boat", [], [Bread]) });
        refused.Of("the baker’s boat")[Bread].ShouldBeLessThan(weights.Of("the baker’s boat")[Bread]);
    }

    [Theory]
    [InlineData("")]
    [InlineData("👩‍🌾 ’s … §")]
    [InlineData("ｗｉｄｅ ﷽ naïve")]
    public void Any_text_has_figures(string text)
    {
        var weights = Learnt([.. Decisions(80), new Decided(99, text, [Bells], [])]);
        weights.Of(text + string.Concat(Enumerable.Repeat(" word", 5_000))).Count.ShouldBe(3);
        TopicWeights.None.Of(text).ShouldBeEmpty();
        Learnt([]).Topics.ShouldBeEmpty();
    }
}
