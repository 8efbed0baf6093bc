using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public class CountsTests
{
    [Theory]
    [InlineData("", 0)]
    [InlineData("one", 1)]
    [InlineData("Four loaves, no coin", 4)]
    [InlineData("the ferryman’s twenty-five geese", 4)]
    [InlineData("near bank—far bank – or both", 6)]
    [InlineData("* * *", 0)]
    [InlineData("## Twice over\n\nthe same water", 5)]
    [InlineData("paid in bread.[[slip 171]] Four loaves [[slip 30]]", 5)]
    [InlineData("see [[The bread column]]", 4)]
    [InlineData("a [link of words](https://tavle.example/very/long) ends", 5)]
    [InlineData("> quoted *words* and `code`", 4)]
    [InlineData("- [ ] ask\n- [x] done", 2)]
    [InlineData("1784 was dear", 3)]
    public void Words_are_what_a_reader_reads(string text, int words) => Counts.Of(text).Words.ShouldBe(words);

    [Theory]
    [InlineData("naïve", 5)]
    [InlineData("nai\u0308ve", 5)]
    [InlineData("👩‍🌾 sows", 6)]
    [InlineData("one\ntwo", 6)]
    [InlineData("*two* words", 9)]
    public void Characters_are_what_a_person_sees(string text, int characters) => Counts.Of(text).Characters.ShouldBe(characters);

    [Fact]
    public void Reading_times_follow_brysbaert()
    {
        ReadingPace.Seconds(238, ReadingPace.Silent).ShouldBe(60);
        ReadingPace.Seconds(1140, ReadingPace.Silent).ShouldBe(287);
        ReadingPace.Seconds(183, ReadingPace.Aloud).ShouldBe(60);
        ReadingPace.Seconds(0, ReadingPace.Aloud).ShouldBe(0);
    }

    [Fact]
    public void Two_texts_count_as_their_sum() =>
        (Counts.Of("one two") + Counts.Of("three")).ShouldBe(Counts.Of("one two three") with { Characters = 12 });
}
