using Nachlass.Core.Catalogue;

namespace Nachlass.Core.Tests.Catalogue;

public class MentionedTests
{
    private const string Letter = """
        # The third bell

        The bell hung on the wrong bank, so whoever wanted over had first to be over. Nobody minded.

        At night it was another matter: the *night bell* of Harnsby was rung by the keeper’s wife, [who slept](https://tavle.example).

        - Bells were melted in the dry year.
        """;

    private static IReadOnlyList<string> In(string asked, string text, Func<string, double>? weight = null) =>
        [.. Mentioned.In(Mentioned.Wanted(asked, weight ?? (_ => 1)), text).Select(s => s.Text)];

    [Fact]
    public void The_very_sentence_is_the_answer_without_its_marks() =>
        In("the night bell", Letter)[0]
            .ShouldBe("At night it was another matter: the night bell of Harnsby was rung by the keeper’s wife, who slept.");

    [Fact]
    public void Other_forms_of_a_word_are_the_same_word() =>
        In("wrong banks", Letter).ShouldBe(["The bell hung on the wrong bank, so whoever wanted over had first to be over."]);

    [Fact]
    public void A_common_word_alone_of_several_is_no_mention() =>
        In("silver bell", Letter, root => root == "silver" ? 5 : 1).ShouldBeEmpty();

    [Fact]
    public void Of_a_single_word_each_sentence_with_it_is_one() => In("bell", Letter).Count.ShouldBe(3);

    [Theory]
    [InlineData("")]
    [InlineData("?!")]
    [InlineData("the of and")]
    public void Nothing_asked_is_nothing_mentioned(string asked) => In(asked, Letter).ShouldBeEmpty();
}
