using CsCheck;
using Nachlass.Core.Catalogue;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public class SamenessTests
{
    [Theory]
    [InlineData(
        "The bell at Harnsby was rung every quarter of an hour in fog so that when it stopped it would mean something.",
        "Silence as the signal: the Harnsby bell was rung every quarter of an hour in fog so that its stopping would mean something.",
        true
    )]
    [InlineData(
        "Flood is not a price. It is a closing hour.",
        "“Flood is not a price. It is a closing hour.” — Marchetti, p. 12, against Brandt",
        true
    )]
    [InlineData("The night bell of Quillan was sunk", "The night bell of Quillan was recast and hangs in the school", false)]
    [InlineData("Eels climb the wet brush at night", "A heron fished the pass for forty minutes", false)]
    [InlineData("Ice", "ice", true)]
    [InlineData("Ice", "ice and fog", false)]
    [InlineData("", "", false)]
    public void Nearly_the_same_is_told_from_merely_alike(string a, string b, bool same)
    {
        Sameness.IsNearlySame(a, b).ShouldBe(same);
        Sameness.IsNearlySame(b, a).ShouldBe(same);
    }

    [Fact]
    public void Differences_are_laid_over_each_other()
    {
        var stretches = Sameness.Differences("The bell was rung in fog.", "The bell was rung at night.");
        string.Concat(stretches.Where(s => s.In != StretchIn.Second).Select(s => s.Text)).ShouldBe("The bell was rung in fog.");
        string.Concat(stretches.Where(s => s.In != StretchIn.First).Select(s => s.Text)).ShouldBe("The bell was rung at night.");
        stretches[0].ShouldBe(new Stretch("The bell was rung ", StretchIn.Both));
    }

    [Fact]
    public void Either_text_can_be_read_back_from_the_differences() =>
        Gen.Select(Gen.String[Gen.Char["ab c.\n"], 0, 30], Gen.String[Gen.Char["ab c.\n"], 0, 30])
            .Sample(
                (a, b) =>
                {
                    var stretches = Sameness.Differences(a, b);
                    return string.Concat(stretches.Where(s => s.In != StretchIn.Second).Select(s => s.Text)) == a
                        && string.Concat(stretches.Where(s => s.In != StretchIn.First).Select(s => s.Text)) == b;
                },
                iter: 500
            );

    private const string Letter =
        "# Letter 12\n\nBread was short that year, and coin shorter.\n\nThe night bell of Quillan was muffled with a glove [[slip "
        + "4]], and nobody crossed.\n\n## Next\n\nNothing.";

    [Fact]
    public void A_passage_answers_when_most_of_what_was_asked_stands_in_it()
    {
        Covering
            .Best("was the night bell muffled", Letter, _ => 1)!
            .ShouldSatisfyAllConditions(
                c => c.Share.ShouldBe(1),
                c => c.Passage.ShouldBe("The night bell of Quillan was muffled with a glove, and nobody crossed.")
            );
        Covering.Best("bread prices in 1790", Letter, _ => 1).ShouldBeNull();
        Covering.Best("of the and", Letter, _ => 1).ShouldBeNull();
        // The rare word weighs: without it the others are no answer.
        Covering.Best("night bell tariff", Letter, root => root == "tariff" ? 9 : 1).ShouldBeNull();
    }

    [Fact]
    public void A_long_paragraph_is_shown_around_the_sentence_that_says_it()
    {
        var text =
            string.Concat(Enumerable.Repeat("The water was high and the road was long that day. ", 12))
            + "A glove muffled the night bell. "
            + string.Concat(Enumerable.Repeat("Nobody came and nobody went, says the book. ", 12));
        var found = Covering.Best("glove night bell", text, _ => 1)!;
        found.Passage.ShouldContain("A glove muffled the night bell.");
        found.Passage.Length.ShouldBeLessThanOrEqualTo(Covering.Longest);
    }
}
