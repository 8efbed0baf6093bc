using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public class InclusionsTests
{
    [Theory]
    [InlineData("[[slip 4]]", "4")]
    [InlineData("Before\n\n[[slip 4]]\n\nafter\n\n  [[Slip 12]]  ", "4,12")]
    [InlineData("[[slip 4]]\n\n[[slip 5]]\n", "4,5")]
    [InlineData("See [[slip 4]].", "")]
    [InlineData("[[slip 4]]\nnext line", "")]
    [InlineData("[[P 4]]\n\n[[source 5]]\n\n[[a name]]", "")]
    public void A_paragraph_that_is_only_a_reference_to_a_slip_shows_it(string text, string slips) =>
        string.Join(',', Inclusions.In(text)).ShouldBe(slips);

    private static string? Text(SlipNumber slip) =>
        slip.Value switch
        {
            1 => "one",
            2 => "two\n\n[[slip 1]]",
            3 => "[[slip 3]]",
            _ => null,
        };

    [Fact]
    public void Texts_are_written_out_with_those_inside_of_them()
    {
        Inclusions.Expanded("A\n\n[[slip 2]]\n\nB", Text).ShouldBe("A\n\ntwo\n\none\n\nB");
        Inclusions.Expanded("A\n\n[[slip 9]]\n\nB", Text).ShouldBe("A\n\n[[slip 9]]\n\nB");
        Inclusions.Expanded("[[slip 1]]", Text, Inclusions.SetOff).ShouldBe("> one\n>\n> from [[slip 1]]");
        // Even a circle that came in from elsewhere comes to an end.
        Inclusions.Expanded("[[slip 3]]", Text).ShouldBe("[[slip 3]]");
    }

    [Fact]
    public void A_slip_that_would_stand_inside_itself_is_told_by_its_way()
    {
        Inclusions.Circle(SlipNumber.Of(1), "x\n\n[[slip 2]]", Text)!.Select(n => n.Value).ShouldBe([1, 2, 1]);
        Inclusions.Circle(SlipNumber.Of(5), "[[slip 5]]", Text)!.Select(n => n.Value).ShouldBe([5, 5]);
        Inclusions.Circle(SlipNumber.Of(1), "see [[slip 2]] in a sentence", Text).ShouldBeNull();
        Inclusions.Circle(SlipNumber.Of(5), "[[slip 2]]", Text).ShouldBeNull();
    }

    [Fact]
    public void A_text_without_references_stays_as_it_is() =>
        Gen.String.Where(t => !t.Contains("[[")).Sample(t => Inclusions.Expanded(t, Text) == t, iter: 500);

    [Fact]
    public void A_paragraph_is_found_again_after_rewording()
    {
        string[] now = ["The bell was muffled with a glove by the clerk.", "Eels climb at night.", "Something else."];
        Following.Of("The bell was muffled with a glove.", now).ShouldBe(now[0]);
        Following.Of("Eels climb at night.", now).ShouldBe(now[1]);
        Following.Of("Nine prices and one crossed out", now).ShouldBeNull();
    }

    private static Evidence Evidence(int slip, Side side, int? source = null, string note = "") =>
        new(new Reference(ThingKind.Slip, slip), "", side, note, source is { } s ? SourceNumber.Of(s) : null, default);

    [Fact]
    public void Readiness_adds_up_and_says_what_is_missing()
    {
        Readiness.Of("", 0, []).ShouldSatisfyAllConditions(r => r.Figure.ShouldBe(0), r => r.Missing.Count.ShouldBe(4));
        var two = Readiness.Of(
            "Flood was a closing hour",
            60,
            [Evidence(1, Side.For, 1), Evidence(2, Side.For, 1), Evidence(3, Side.For, 2)]
        );
        two.Terms.Sum(t => t.Figure).ShouldBe(two.Figure, 1e-9);
        two.Terms[0].Name.ShouldBe("2 voices for it", "two passages of one source are one voice");
        two.Missing.ShouldContain("Look for what speaks against it.");
        var answered = Readiness.Of(
            "x",
            60,
            [
                Evidence(1, Side.For, 1),
                Evidence(2, Side.For, 2),
                Evidence(3, Side.For, 3),
                Evidence(4, Side.Against, 4, "He had only the board."),
            ]
        );
        answered.Figure.ShouldBe(1, 1e-9);
        answered.Missing.ShouldBeEmpty();
    }
}
