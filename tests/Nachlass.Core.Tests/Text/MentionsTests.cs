using CsCheck;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public class MentionsTests
{
    [Theory]
    [InlineData("The ferries stopped.", "ferries")]
    [InlineData("FERRIES and fords", "FERRIES")]
    [InlineData("an old “ferry boat” lay there", "ferry boat")]
    public void A_name_without_a_link_is_found(string text, string words) => Mentions.In(text, ["ferries", "ferry boat"]).ShouldHaveSingleItem().Words.ShouldBe(words);

    [Theory]
    [InlineData("See [[ferries]].")]
    [InlineData("tagged #ferries")]
    [InlineData("`ferries` in code")]
    [InlineData("https://tavle.example/ferries")]
    [InlineData("[a page](https://tavle.example/x/ferries)")]
    [InlineData("ferriesque")]
    public void Links_tags_code_and_addresses_are_no_mentions(string text) => Mentions.In(text, ["ferries"]).ShouldBeEmpty();

    [Fact]
    public void The_first_mention_becomes_a_link_as_it_stands() =>
        Mentions.Link("See [[tolls]]: Ferries, then ferries.", ["ferries"]).ShouldBe("See [[tolls]]: [[Ferries]], then ferries.");

    [Fact]
    public void A_new_name_follows_into_links_and_tags_only()
    {
        Mentions.Renamed("The bell [[Bell]] rang, #bell and #bells, [[ bell ]] [[bell tower]]", ["bell"], "night bells", tags: true)
            .ShouldBe("The bell [[night bells]] rang, #night-bells and #bells, [[night bells]] [[bell tower]]");
        Mentions.Renamed("#bell [[bell]]", ["bell"], "bells", tags: false).ShouldBe("#bell [[bells]]");
    }

    [Fact]
    public void Renaming_there_and_back_gives_the_same_text() =>
        Gen.OneOf(Gen.Const("[[old]]"), Gen.Const("#old"), Gen.Const(" "), Gen.Const("word"), Gen.Const("[[other]]"), Gen.Const("\n")).Array[0, 10].Select(string.Concat)
            .Sample(text => Mentions.Renamed(Mentions.Renamed(text, ["old"], "newer", true), ["newer"], "old", true) == text, iter: 500);
}
