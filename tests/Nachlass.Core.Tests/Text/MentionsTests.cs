using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public class MentionsTests
{
    [Theory]
    [InlineData("The ferries stopped.", "ferries")]
    [InlineData("FERRIES and fords", "FERRIES")]
    [InlineData("an old “ferry boat” lay there", "ferry boat")]
    public void A_name_without_a_link_is_found(string text, string words) =>
        Mentions.In(text, ["ferries", "ferry boat"]).ShouldHaveSingleItem().Words.ShouldBe(words);

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
        Mentions
            .Renamed("The bell [[Bell]] rang, #bell and #bells, [[ bell ]] [[bell tower]]", ["bell"], "night bells", tags: true)
            .ShouldBe("The bell [[night bells]] rang, #night-bells and #bells, [[night bells]] [[bell tower]]");
        Mentions.Renamed("#bell [[bell]]", ["bell"], "bells", tags: false).ShouldBe("#bell [[bells]]");
    }

    [Theory]
    [InlineData("P 12, The rope breaks", ThingKind.Piece, "The rope breaks")]
    [InlineData("source 3 ,  Dues, and who paid", ThingKind.Source, "Dues, and who paid")]
    [InlineData("piece 12", ThingKind.Piece, "")]
    public void A_section_stands_behind_a_comma(string inside, ThingKind kind, string part) =>
        References.Read(inside).ShouldSatisfyAllConditions(r => r.Thing!.Value.Kind.ShouldBe(kind), r => r.Part.ShouldBe(part));

    [Fact]
    public void What_has_no_sections_is_not_pointed_into() =>
        References.Read("slip 4, the end").ShouldSatisfyAllConditions(r => r.Thing.ShouldBeNull(), r => r.Name.ShouldBe("slip 4, the end"));

    [Fact]
    public void A_title_with_commas_may_end_at_each_of_them() =>
        References.WithPart("Bread, salt, and tolls").ShouldBe([("Bread, salt", "and tolls"), ("Bread", "salt, and tolls")]);

    [Fact]
    public void A_new_heading_follows_into_links_to_that_section_only() =>
        Mentions
            .PartRenamed(
                "[[P 4, the bread column]] [[The price, The bread column]] [[P 5, The bread column]] [[P 4]] The bread column",
                new Reference(ThingKind.Piece, 4),
                ["The Price"],
                "The bread column",
                "Loaves"
            )
            .ShouldBe("[[P 4, Loaves]] [[The price, Loaves]] [[P 5, The bread column]] [[P 4]] The bread column");

    [Fact]
    public void A_new_title_keeps_the_section_behind_it() =>
        Mentions
            .Renamed("[[Price, Loaves]] [[Price, a history]]", ["Price"], "Cost", tags: false, name => name == "Price, a history")
            .ShouldBe("[[Cost, Loaves]] [[Price, a history]]");

    [Fact]
    public void Words_that_lead_nowhere_get_the_number_behind_them() =>
        Mentions
            .Link("As the bread column shows, and slip 4.", ["The bread column"], "P 4, The bread column")
            .ShouldBe("As the bread column [[P 4, The bread column]] shows, and slip 4.");

    [Fact]
    public void Renaming_there_and_back_gives_the_same_text() =>
        Gen.OneOf(Gen.Const("[[old]]"), Gen.Const("#old"), Gen.Const(" "), Gen.Const("word"), Gen.Const("[[other]]"), Gen.Const("\n"))
            .Array[0, 10]
            .Select(string.Concat)
            .Sample(text => Mentions.Renamed(Mentions.Renamed(text, ["old"], "newer", true), ["newer"], "old", true) == text, iter: 500);
}
