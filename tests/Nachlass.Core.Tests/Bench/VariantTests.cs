using CsCheck;
using Nachlass.Core.Bench;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Tests.Bench;

public class VariantTests
{
    private static readonly OwnText[] Draft =
    [
        new(
            "the toll",
            "In the spring of 1884 the toll doubled. Nobody at Quillan wrote down why. What did a crossing cost when coin was no use?\n\n"
                + "It was paid in loaves. The rope held, and the rope was paid for with bread: four loaves a week."
        ),
        new("the rope", "The rope came from Ostrey. He coiled the rope by hand. A price needs a man at the gate to take it."),
    ];

    private static readonly OwnText[] Beside =
    [
        new("slip 9", "“We crossed for a loaf and never for a penny,” said the ferryman’s widow.", IsVoice: true),
    ];

    private static OwnWords Own(string title = "Tolls", OwnText[]? draft = null, OwnText[]? beside = null) =>
        new(
            title,
            ["The toll", "The rope"],
            draft ?? Draft,
            beside ?? Beside,
            [
                new CharacteristicTerm("rope", TermForm.Countable, 2, 0, 30, []),
                new CharacteristicTerm("loaves", TermForm.Plural, 2, 0, 20, []),
            ],
            _ => 1
        );

    private static List<string> Of(IEnumerable<Variant> all, string shape) => [.. all.Where(v => v.Shape == shape).Select(v => v.Text)];

    [Fact]
    public void Titles_come_by_shape_from_the_pieces_own_words()
    {
        var titles = TitleVariants.Of(Own());
        Of(titles, "its question").ShouldBe(["What did a crossing cost when coin was no use?"]);
        Of(titles, "in quotation marks").ShouldBe(["“We crossed for a loaf and never for a penny”"]);
        Of(titles, "a heading of its own").ShouldBe(["The toll", "The rope"]);
        Of(titles, "two things").ShouldBe(["The rope and loaves"]);
        Of(titles, "one thing, and its question")[0].ShouldBe("Rope: What did a crossing cost when coin was no use?");
        Of(titles, "a number in it")
            .ShouldBe([
                "In the spring of 1884 the toll doubled",
                "The rope held, and the rope was paid for with bread: four loaves a week",
            ]);
        titles.Select(t => t.Text).ShouldBeUnique();
    }

    [Fact]
    public void Openings_come_by_shape_and_say_where_they_stand()
    {
        var openings = OpeningVariants.Of(Own());
        // It opens with that already.
        openings.Select(o => o.Text).ShouldNotContain("In the spring of 1884 the toll doubled.");
        Of(openings, "with a question").ShouldBe(["What did a crossing cost when coin was no use?"]);
        openings.First(o => o.Shape == "in somebody’s words").Where.ShouldBe("slip 9");
        Of(openings, "against what is thought").ShouldBe(["Nobody at Quillan wrote down why."]);
        Of(openings, "from the end").ShouldContain("A price needs a man at the gate to take it.");
        // What hangs on a sentence before it can't open anything.
        openings.ShouldAllBe(o => !o.Text.StartsWith("It was") && !o.Text.StartsWith("He coiled"));
    }

    [Fact]
    public void The_title_it_has_is_not_offered_again() =>
        TitleVariants.Of(Own("The rope")).Select(t => t.Text).ShouldNotContain("The rope");

    [Fact]
    public void Of_no_words_nothing_is_made()
    {
        var none = new OwnWords("Tolls", [], [], [], [], _ => 1);
        TitleVariants.Of(none).ShouldBeEmpty();
        OpeningVariants.Of(none).ShouldBeEmpty();
    }

    [Fact]
    public void Whatever_a_piece_holds_what_is_made_of_it_is_short_different_and_stands_in_it() =>
        Gen.String[Gen.Char["abc AB.,:?!—“”#*0123\n"], 0, 400]
            .Sample(
                text =>
                {
                    var own = new OwnWords("", [], [new OwnText("the draft", text)], [], [], _ => 1);
                    var plain = string.Concat(Core.Text.PlainText.Of(text).Where(char.IsLetterOrDigit)).ToLowerInvariant();
                    foreach (var made in (IReadOnlyList<Variant>[])[TitleVariants.Of(own), OpeningVariants.Of(own)])
                    {
                        made.Select(v => v.Text.ToLowerInvariant()).ShouldBeUnique();
                        made.ShouldAllBe(v => v.Text.Length <= OpeningVariants.Longest);
                        foreach (var variant in made)
                            plain.ShouldContain(string.Concat(variant.Text.Where(char.IsLetterOrDigit)).ToLowerInvariant());
                    }
                },
                iter: 500
            );
}
