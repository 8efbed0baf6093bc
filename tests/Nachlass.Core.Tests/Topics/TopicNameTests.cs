using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Tests.Topics;

public class TopicNameTests
{
    [Theory]
    [InlineData("  #flood   marks ", "flood marks")]
    [InlineData("Über-Fahrt", "Über-Fahrt")]
    [InlineData("## night bells", "night bells")]
    public void A_name_is_kept_with_single_spaces_and_without_its_mark(string typed, string kept) => TopicName.Clean(typed).ShouldBe(kept);

    [Theory]
    [InlineData("")]
    [InlineData(" # ")]
    [InlineData("a]b")]
    [InlineData("a, b")]
    [InlineData("a#b")]
    public void What_can_not_stand_in_a_link_or_a_list_is_refused(string typed) =>
        Should.Throw<BadInputException>(() => TopicName.Clean(typed, "topic")).Field.ShouldBe("topic");

    [Fact]
    public void A_kept_name_is_kept_as_it_is() =>
        Gen.String[Gen.Char["ab -#ü"], 1, 20]
            .Sample(typed =>
            {
                string kept;
                try
                {
                    kept = TopicName.Clean(typed);
                }
                catch (BadInputException)
                {
                    return;
                }
                TopicName.Clean(kept).ShouldBe(kept);
            });

    [Theory]
    [InlineData("flood-marks", "flood marks")]
    [InlineData("flood_marks", "flood marks")]
    [InlineData("-bells-", "bells")]
    public void A_tag_reads_as_words(string tag, string name) => TopicName.FromTag(tag).ShouldBe(name);

    [Fact]
    public void Topics_made_one_after_the_other_differ_in_colour() =>
        Gen.Int[0, 1_000].Sample(before => TopicName.ColourFor(before) != TopicName.ColourFor(before + 1));
}
