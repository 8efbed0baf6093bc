using CsCheck;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public class PlainTextTests
{
    [Theory]
    [InlineData("## The *bread* column", "The bread column")]
    [InlineData("> “Four loaves”", "“Four loaves”")]
    [InlineData("- [ ] ask Pell", "ask Pell")]
    [InlineData("1. first", "first")]
    [InlineData("see [the map](https://tavle.example/map \"big\") here", "see the map here")]
    [InlineData("![a boat](boat.png)", "a boat")]
    [InlineData("paid in bread [[slip 3]].", "paid in bread.")]
    [InlineData("the [[night bells]] rang", "the night bells rang")]
    [InlineData("snake_case and 3*4 stay", "snake_case and 3*4 stay")]
    [InlineData("a \\*star\\*", "a *star*")]
    public void Marks_fall_away_and_words_stay(string markdown, string plain) => PlainText.Of(markdown).ShouldBe(plain);

    [Fact]
    public void In_a_list_a_reference_still_says_what_it_names() =>
        PlainText.WithReferences("See [[slip 32]] and [[P 4, The bread column]].").ShouldBe("See slip 32 and P 4, The bread column.");

    [Fact]
    public void A_headline_is_one_line_cut_at_a_word() =>
        Gen.String[Gen.Char[" abcdefgh\n#*"], 0, 400]
            .Sample(text =>
            {
                var headline = PlainText.Headline(text, 60);
                headline.Length.ShouldBeLessThanOrEqualTo(60);
                headline.ShouldNotContain('\n');
            });

    [Fact]
    public void A_long_headline_ends_in_an_ellipsis_behind_a_whole_word() =>
        PlainText
            .Headline("The ferryman of Quillan was paid in bread, on flood days only", 43)
            .ShouldBe("The ferryman of Quillan was paid in bread…");

    [Fact]
    public void Paragraphs_leave_headings_out_and_lose_no_word()
    {
        Paragraphs.Of("# Title\n\nOne line\nand another.\n\n \n\n- a point\n").ShouldBe(["One line and another.", "a point"]);
        Gen.String[Gen.Char["abc .\n"], 0, 200]
            .Sample(text =>
                string.Concat(Paragraphs.Of(text).SelectMany(p => p.Where(char.IsLetter))) == string.Concat(text.Where(char.IsLetter))
            );
    }

    [Fact]
    public void Sentences_put_together_again_are_the_paragraph() =>
        Gen.String[Gen.Char["ab .?!A"], 0, 120]
            .Sample(paragraph =>
                string.Concat(Paragraphs.Sentences(paragraph).SelectMany(s => s.Where(c => !char.IsWhiteSpace(c))))
                == string.Concat(paragraph.Where(c => !char.IsWhiteSpace(c)))
            );
}
