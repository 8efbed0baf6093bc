using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Tests.Sift;

public class LikelyTopicsTests
{
    private static readonly Topic Ferries = new()
    {
        Number = TopicNumber.Of(1),
        Name = "ferries",
        Aliases = ["the boat"],
    };
    private static readonly Topic Tolls = new() { Number = TopicNumber.Of(2), Name = "tolls" };
    private static readonly HashSet<TopicNumber> None = [];

    private static SortedNear Near(int slip, double likeness, params TopicNumber[] topics) =>
        new(new Nearness(new Reference(ThingKind.Slip, slip), likeness, []), topics, []);

    private static SortedNear Refused(int slip, double likeness, params TopicNumber[] topics) =>
        new(new Nearness(new Reference(ThingKind.Slip, slip), likeness, []), [], topics);

    [Fact]
    public void The_nearest_vote_and_are_named_as_reasons()
    {
        var likely = LikelyTopics.Of(
            "paid in loaves",
            [Near(171, 0.5, Tolls.Number), Near(9, 0.2, Tolls.Number, Ferries.Number)],
            [Ferries, Tolls],
            None
        );
        likely.Select(l => l.Topic.Name).ShouldBe(["tolls", "ferries"]);
        likely[0].Because.Select(b => b.Sorted!.Value.Number).ShouldBe([171, 9]);
        likely[0].Figure.ShouldBe(likely[0].Because.Sum(b => b.Figure), 1e-9);
        likely[0].Figure.ShouldBeInRange(0.9, 1);
        likely[1].Figure.ShouldBeLessThan(0.4);
    }

    [Fact]
    public void Many_who_agree_are_surer_than_one_and_the_near_surer_than_the_far()
    {
        double Sure(params SortedNear[] near) =>
            LikelyTopics.Scores("paid in loaves", near, [Ferries, Tolls]).Single(s => s.Topic == Tolls).Score;
        Sure(Near(1, 0.2, Tolls.Number), Near(2, 0.2, Tolls.Number), Near(3, 0.2, Tolls.Number))
            .ShouldBeGreaterThan(Sure(Near(1, 0.2, Tolls.Number)));
        Sure(Near(1, 0.4, Tolls.Number)).ShouldBeGreaterThan(Sure(Near(1, 0.15, Tolls.Number)));
        Sure(Near(1, 0.3, Tolls.Number), Near(2, 0.3, Ferries.Number)).ShouldBeLessThan(Sure(Near(1, 0.3, Tolls.Number)));
    }

    [Fact]
    public void A_refusal_of_something_near_speaks_against()
    {
        var (agreed, refused) = (Near(1, 0.3, Tolls.Number), Refused(2, 0.3, Tolls.Number));
        LikelyTopics.Of("paid in loaves", [agreed], [Tolls], None).ShouldHaveSingleItem();
        LikelyTopics.Of("paid in loaves", [agreed, refused], [Tolls], None).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("An old ferry at Quillan")]
    [InlineData("what the boats carried on the boat")]
    public void A_text_that_names_the_topic_or_its_alias_counts(string text) =>
        LikelyTopics
            .Of(text, [], [Ferries, Tolls], None)
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                l => l.Topic.Name.ShouldBe("ferries"),
                l => l.Figure.ShouldBe(LikelyTopics.Named),
                l => l.Because.Single().Sorted.ShouldBeNull()
            );

    [Fact]
    public void What_it_has_already_or_what_is_far_off_is_not_offered()
    {
        LikelyTopics.Of("the ferry", [], [Ferries], new HashSet<TopicNumber> { Ferries.Number }).ShouldBeEmpty();
        LikelyTopics.Of("soup", [Near(1, 0.05, Tolls.Number)], [Tolls], None).ShouldBeEmpty();
        LikelyTopics.Of("soup", [], [Tolls], None).ShouldBeEmpty();
    }

    [Fact]
    public void A_slip_is_held_until_a_day_after_today()
    {
        var today = new DateOnly(2026, 11, 24);
        Should.Throw<BadInputException>(() => new Decision.Hold(today).CheckAfter(today)).Field.ShouldBe("until");
        Should.NotThrow(() => new Decision.Hold(today.AddDays(1)).CheckAfter(today));
    }

    [Theory]
    [InlineData("  #ferries  ", "ferries")]
    [InlineData("rope   walk", "rope walk")]
    public void Topic_names_are_cleaned(string typed, string name) => TopicName.Clean(typed).ShouldBe(name);

    [Theory]
    [InlineData("")]
    [InlineData("#")]
    [InlineData("a]b")]
    [InlineData("one, two")]
    public void Names_that_links_could_not_carry_are_refused(string typed) =>
        Should.Throw<BadInputException>(() => TopicName.Clean(typed)).Field.ShouldBe("name");
}
