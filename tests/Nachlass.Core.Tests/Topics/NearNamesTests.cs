using Nachlass.Core.Papers;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Tests.Topics;

public class NearNamesTests
{
    private static IReadOnlyList<NearNames> Among(params string[] names) =>
        NearNames.Among([.. names.Select((name, i) => new Topic { Number = TopicNumber.Of(i + 1), Name = name })]);

    [Theory]
    [InlineData("bell", "bells", NearReason.Inflected)]
    [InlineData("ferryman", "ferrymen", NearReason.Inflected)]
    [InlineData("women of the river", "women on the river", NearReason.Inflected)]
    [InlineData("Flood marks", "flood-mark", NearReason.Inflected)]
    [InlineData("river women", "women of the river", NearReason.SameWords)]
    [InlineData("smuggling", "smugling", NearReason.Spelling)]
    [InlineData("Quillan Ferry", "Quilan ferry", NearReason.Spelling)]
    public void Names_that_may_be_one_are_found(string a, string b, NearReason reason) =>
        Among(a, "weirs", b)
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                p => p.Reason.ShouldBe(reason),
                p => p.First.ShouldBe(TopicNumber.Of(1)),
                p => p.Second.ShouldBe(TopicNumber.Of(3))
            );

    [Theory]
    [InlineData("ice", "icy")]
    [InlineData("fords", "floods")]
    [InlineData("bells", "night bells")]
    [InlineData("law", "low")]
    [InlineData("maps", "mats")]
    [InlineData("flood of 1784", "flood of 1789")]
    public void Names_that_are_two_are_left_alone(string a, string b) => Among(a, b).ShouldBeEmpty();

    [Fact]
    public void Other_names_count_and_a_topic_is_never_near_itself()
    {
        var ferries = new Topic
        {
            Number = TopicNumber.Of(1),
            Name = "ferries",
            Aliases = ["ferry", "boats"],
        };
        NearNames.Among([ferries]).ShouldBeEmpty();
        NearNames
            .Among([ferries, new Topic { Number = TopicNumber.Of(2), Name = "boat" }])
            .ShouldHaveSingleItem()
            .Reason.ShouldBe(NearReason.Inflected);
        NearNames
            .Among([
                ferries,
                new Topic
                {
                    Number = TopicNumber.Of(2),
                    Name = "boat",
                    MergedInto = TopicNumber.Of(1),
                },
            ])
            .ShouldBeEmpty();
    }
}
