using CsCheck;
using Nachlass.Core.Papers;
using Check = Nachlass.Core.Papers.Check;

namespace Nachlass.Core.Tests.Papers;

public class CheckTests
{
    [Theory]
    [InlineData(null)]
    [InlineData("")]
    [InlineData(" \n\t")]
    public void A_text_that_says_nothing_is_refused_by_its_field(string? text) =>
        Should
            .Throw<BadInputException>(() => Check.Text("title", text, 10))
            .ShouldSatisfyAllConditions(e => e.Field.ShouldBe("title"), e => e.Message.ShouldContain("empty"));

    [Fact]
    public void A_text_comes_back_trimmed_or_is_too_long() =>
        Gen.String[Gen.Char["ab \n"], 0, 30]
            .Where(t => t.Trim().Length > 0)
            .Sample(text =>
            {
                if (text.Trim().Length > 12)
                    Should.Throw<BadInputException>(() => Check.Text("text", text, 12)).Message.ShouldContain("12");
                else
                    Check.Text("text", text, 12).ShouldBe(text.Trim());
            });

    [Fact]
    public void A_length_is_checked_and_the_text_left_as_it_is()
    {
        Check.Length("text", "  as it is \n", 20).ShouldBe("  as it is \n");
        Check.Length("text", null, 20).ShouldBe("");
        Should.Throw<BadInputException>(() => Check.Length("text", "a\0b", 20)).Message.ShouldContain("NUL");
    }

    [Fact]
    public void A_step_is_one_to_five_or_none() =>
        Gen.Int[-9, 99]
            .Sample(step =>
            {
                if (step is >= 1 and <= 5)
                    Check.Step("pull", step).ShouldBe(step);
                else
                    Should.Throw<BadInputException>(() => Check.Step("pull", step)).Field.ShouldBe("pull");
            });

    [Fact]
    public void No_step_stays_none_and_no_version_is_refused()
    {
        Check.Step("pull", null).ShouldBeNull();
        Check.Version(4).ShouldBe(4);
        Should.Throw<BadInputException>(() => Check.Version(null)).Field.ShouldBe("version");
    }

    [Fact]
    public void Numbers_are_whole_and_start_at_one() =>
        Gen.OneOf(
                Gen.Int[-5, 5].Select(i => i.ToString()),
                Gen.String,
                Gen.OneOf(Gen.Const("007"), Gen.Const("1.5"), Gen.Const("+3"), Gen.Const(" 3"), Gen.Const("99999999999"))
            )
            .Sample(text =>
            {
                if (!SlipNumber.TryParse(text, out var number))
                    return;
                number.Value.ShouldBeGreaterThan(0);
                SlipNumber.TryParse(number.ToString(), out var again).ShouldBeTrue();
                again.ShouldBe(number);
            });
}
