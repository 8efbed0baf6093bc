using CsCheck;
using Nachlass.Core.Bench;

namespace Nachlass.Core.Tests.Bench;

public class TitleOffersTests
{
    private static IReadOnlyList<string> Titles(string text, string? claim = null, params string[] topics) =>
        [.. TitleOffers.Of(text, claim, topics).Select(t => t.Title)];

    [Fact]
    public void Titles_are_made_of_the_ideas_own_words_and_shapes()
    {
        Titles("The price of the far bank: an essay on paying in bread. What did a crossing cost when coin was no use?")
            .ShouldBe([
                "The price of the far bank",
                "An essay on paying in bread",
                "The price of the far bank: an essay on paying in bread",
                "What did a crossing cost when coin was no use?",
            ]);
        Titles("“Four loaves, no coin” he wrote. #tolls", "Flood was a closing hour").ShouldContain("Four loaves, no coin");
        Titles("x", "Flood was a closing hour and not a price")[0].ShouldBe("Flood was a closing hour and not a price");
        Titles("Lime: what held the piers").ShouldBe(["What held the piers", "Lime: what held the piers"]);
        Titles("", null, "ferries", "tolls").ShouldBe(["Ferries and tolls"]);
        Titles("").ShouldBeEmpty();
    }

    [Fact]
    public void Whatever_a_text_holds_its_titles_are_few_short_and_different() =>
        Gen.Select(Gen.String, Gen.String[Gen.Char["abc .,:?—“”#"], 0, 200])
            .Sample(
                (any, likely) =>
                {
                    foreach (var text in (string[])[any, likely, any + ": " + likely])
                    {
                        var titles = TitleOffers.Of(text, null, []);
                        titles.Count.ShouldBeLessThanOrEqualTo(TitleOffers.Most);
                        titles.ShouldAllBe(t => t.Title.Length <= TitleOffers.Longest && t.Title.Trim() == t.Title && t.Shape.Length > 0);
                        titles.Select(t => t.Title.ToLowerInvariant()).ShouldBeUnique();
                    }
                }
            );
}
