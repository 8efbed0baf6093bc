using Nachlass.Core.Papers;
using Nachlass.Core.Topics;

namespace Nachlass.Core.Tests.Topics;

public class TogetherTests
{
    private static TopicNumber T(int number) => TopicNumber.Of(number);

    [Fact]
    public void What_stands_together_more_than_by_chance_comes_first_and_the_rest_not_at_all()
    {
        var counts = new Dictionary<TopicNumber, int>
        {
            [T(1)] = 50,
            [T(2)] = 50,
            [T(3)] = 10,
            [T(4)] = 10,
        };
        var pairs = Together.Of([(T(1), T(2), 25), (T(3), T(4), 8), (T(1), T(3), 2)], counts, 100);
        // Two topics of half of all things share a quarter of them by chance; two of a tenth that share eight do not.
        pairs
            .ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                p => (p.First, p.Second).ShouldBe((T(3), T(4))),
                p => p.Shared.ShouldBe(8),
                p => p.Times.ShouldBe(8, 1e-9)
            );
    }

    [Fact]
    public void Words_that_keep_coming_up_are_counted_by_text_and_month()
    {
        var month = 2026 * 12 + 5;
        var phrases = Phrases.Of(
            [
                (month, "The night bell. Night bell!"),
                (month + 1, "A night bell and 1784"),
                (month + 1, "bells at night, in 1784"),
                (month - 9, "night bell"),
            ],
            month,
            month + 1,
            new HashSet<string>()
        );
        phrases.Select(p => p.Words).ShouldContain("night bell");
        phrases.Single(p => p.Words == "night bell").ByMonth.ShouldBe([1, 1]);
        phrases.ShouldAllBe(p => p.Texts >= 2 && !p.Words.Contains("1784"));
        Phrases
            .Of([(month, "bell rope"), (month, "bell rope")], month, month, new HashSet<string> { "bell" })
            .ShouldAllBe(p => !p.Words.Contains("bell"));
    }
}
