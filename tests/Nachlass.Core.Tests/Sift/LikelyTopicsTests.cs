using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Tests.Sift;

public class LikelyTopicsTests
{
    private static readonly Topic Ferries = new() { Number = TopicNumber.Of(1), Name = "ferries", Aliases = ["the boat"] };
    private static readonly Topic Tolls = new() { Number = TopicNumber.Of(2), Name = "tolls" };
    private static readonly HashSet<TopicNumber> None = [];

    private static (Nearness, IReadOnlyList<TopicNumber>) Near(int slip, double likeness, params TopicNumber[] topics) =>
        (new Nearness(new Reference(ThingKind.Slip, slip), likeness, []), topics);

    [Fact]
    public void Reasons_add_up_and_are_named()
    {
        var likely = LikelyTopics.Of("paid in loaves", [Near(171, 0.5, Tolls.Number), Near(9, 0.2, Tolls.Number, Ferries.Number)], [Ferries, Tolls], None);
        likely[0].Topic.Name.ShouldBe("tolls");
        likely[0].Figure.ShouldBe(1 - 0.5 * 0.8, 1e-9);
        likely[0].Because.Select(b => b.Sorted!.Value.Number).ShouldBe([171, 9]);
        likely[1].Figure.ShouldBe(0.2, 1e-9);
    }

    [Theory]
    [InlineData("An old ferry at Quillan")]
    [InlineData("what the boats carried on the boat")]
    public void A_text_that_names_the_topic_or_its_alias_counts(string text) =>
        LikelyTopics.Of(text, [], [Ferries, Tolls], None).ShouldHaveSingleItem().ShouldSatisfyAllConditions(
            l => l.Topic.Name.ShouldBe("ferries"), l => l.Figure.ShouldBe(LikelyTopics.Named), l => l.Because.Single().Sorted.ShouldBeNull());

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
    public void Names_that_links_could_not_carry_are_refused(string typed) => Should.Throw<BadInputException>(() => TopicName.Clean(typed)).Field.ShouldBe("name");
}
