using Nachlass.Core.Catalogue;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Catalogue;

public class WorthKeepingTests
{
    private const string Ford = """
        You will remember the ford from the last letter, and you wrote to me about it.

        ## Where it begins

        On the map of 1791 the ford at Harnsby lies above the church; on the map of 1840 it lies below it.

        Short.

        ## What moves it

        The bed of the Tavle is gravel over clay, and in a wet winter the whole of the gravel walks downstream with the ford.
        """;

    private static readonly IReadOnlySet<string> Nothing = new HashSet<string>();

    private static IReadOnlyList<PassageOffered> Of(
        string text,
        Func<string, Nearness?>? nearest = null,
        IReadOnlyList<(string, string)>? leftOut = null,
        IReadOnlySet<string>? marked = null,
        IReadOnlyCollection<string>? kept = null
    ) => WorthKeeping.Of(text, leftOut ?? [], marked ?? Nothing, kept ?? [], nearest ?? (_ => null));

    private static Nearness Like(double likeness) => new(new Reference(ThingKind.Slip, 7), likeness, []);

    [Fact]
    public void What_stands_in_no_note_is_offered_under_its_heading()
    {
        var offered = Of(Ford);
        offered.Select(o => o.Section).ShouldBe(["Where it begins", "What moves it"]);
        offered.ShouldAllBe(o => o.Why == KeepWhy.New && o.Nearest == null);
        offered[0].Text.ShouldStartWith("On the map of 1791");
    }

    [Fact]
    public void What_a_note_says_already_is_not_offered_and_what_comes_near_is_named()
    {
        Of(Ford, text => text.Contains("gravel", StringComparison.Ordinal) ? Like(0.9) : Like(0.1))
            .ShouldAllBe(o => !o.Text.Contains("gravel") && o.Nearest == new Reference(ThingKind.Slip, 7));
        Of(Ford, _ => Like(1)).ShouldBeEmpty();
    }

    [Fact]
    public void A_marked_paragraph_comes_whatever_the_notes_say()
    {
        const string gravel =
            "The bed of the Tavle is gravel over clay, and in a wet winter the whole of the gravel walks downstream with the ford.";
        Of(Ford, _ => Like(1), marked: new HashSet<string> { gravel })
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(o => o.Why.ShouldBe(KeepWhy.Marked), o => o.Text.ShouldBe(gravel));
    }

    [Fact]
    public void What_was_left_out_comes_last_and_what_was_only_moved_does_not()
    {
        var moved = "The bed of the Tavle is gravel over clay, and in a wet winter the whole of the gravel walks downstream with the ford.";
        var offered = Of(
            Ford,
            leftOut: [("The saint", "The saint of the ford was carried to the new place in 1804, by night."), ("x", moved)]
        );
        offered[^1]
            .ShouldSatisfyAllConditions(
                o => o.Why.ShouldBe(KeepWhy.LeftOut),
                o => o.Section.ShouldBe("The saint"),
                o => o.Text.ShouldStartWith("The saint of the ford")
            );
        offered.Count(o => o.Text == moved).ShouldBe(1);
    }

    [Fact]
    public void What_is_kept_already_and_what_says_the_same_twice_is_offered_once_at_most()
    {
        var twice =
            "## A\n\nThe gauge at Low Ostrey has a mark no flood has reached.\n\n"
            + "## B\n\nThe gauge at Low Ostrey has a mark no flood has reached.\n";
        Of(twice).ShouldHaveSingleItem();
        // What was kept is not followed by the next best.
        Of(Ford, kept: ["On the map of 1791 the ford at Harnsby lies above the church; on the map of 1840 it lies below it."])
            .ShouldNotContain(o => o.Text.StartsWith("On the map"));
    }

    [Fact]
    public void A_long_paragraph_is_taken_apart_at_its_sentences_and_nothing_is_made_of_nothing()
    {
        var sentences = Enumerable
            .Range(1, 30)
            .Select(i => $"In {1700 + i} the ferryman Aldred{i} carried {i} geese and a coffin over the water.");
        var offered = Of(string.Join(' ', sentences));
        offered.Count.ShouldBeLessThanOrEqualTo(2);
        offered.ShouldAllBe(o => Counts.Of(o.Text).Words <= 60 && o.Text.EndsWith('.'));
        Of("").ShouldBeEmpty();
        Of("## Only\n\n## Headings\n").ShouldBeEmpty();
        Of("Too short.").ShouldBeEmpty();
    }

    [Fact]
    public void The_same_text_gives_the_same_offers_and_a_very_long_one_asks_for_few_notes()
    {
        var asked = 0;
        var text = string.Join(
            "\n\n",
            Enumerable
                .Range(1, 900)
                .Select(i => $"Ferry {i} of the {i % 37} parishes carried loaf {i * 7} past weir {i * 13} on its own day.")
        );
        var first = Of(text, _ => (asked++, Like(0.1)).Item2);
        asked.ShouldBeLessThanOrEqualTo(120);
        first.Count.ShouldBeLessThanOrEqualTo(WorthKeeping.Most);
        Of(text, _ => Like(0.1)).ShouldBe(first);
    }
}
