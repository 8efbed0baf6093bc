using CsCheck;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Tests.Topics;

public class OpposingTests
{
    [Theory]
    [InlineData("The bell was sunk.", "The bell was never sunk.", "“never”")]
    [InlineData("The rope was 40 yards.", "The rope was 60 yards long.", "40 against 60")]
    [InlineData("The weir broke in 1911.", "In 1913 the weir broke.", "1911 against 1913")]
    [InlineData("After the flood, no toll was taken.", "A toll was taken; nobody says by whom.", "“no”")]
    public void A_denial_or_another_number_of_the_same_sets_texts_against_each_other(string a, string b, string because)
    {
        Opposing.Of(a, b).ShouldNotBeNull().ShouldContain(because.Split(' ')[0]);
        Opposing.Of(b, a).ShouldNotBeNull();
    }

    [Theory]
    [InlineData("There is no bridge below Ostrey.", "The bridge at Harnsby was built in 1802.")]
    [InlineData("He was paid in bread.", "But he was paid in bread.")]
    [InlineData("The bell at Quillan was not rung in the flood.", "The bell at Ostrey was rung in the flood.")]
    [InlineData("The rope was 40 yards.", "A rope of 40 yards.")]
    [InlineData("The rope was 40 yards.", "The rope took 60 days.")]
    [InlineData("No toll was ever not paid.", "Every toll was paid.")]
    [InlineData("Was the bell rung?", "The bell was not rung.")]
    [InlineData("If the bell was rung, they crossed.", "The bell was not rung.")]
    [InlineData("The keeper was not only paid in bread.", "The keeper was paid in bread.")]
    [InlineData("Nothing is kept.", "Something else.")]
    public void What_is_unsure_is_left_unsaid(string a, string b)
    {
        Opposing.Of(a, b).ShouldBeNull();
        Opposing.Of(b, a).ShouldBeNull();
    }

    [Fact]
    public void No_text_speaks_against_itself() => Gen.String[0, 300].Sample(text => Opposing.Of(text, text) is null);
}
