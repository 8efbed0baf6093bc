using CsCheck;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public class SpellingTests
{
    [Theory]
    [InlineData("ferry", "ferry", 0)]
    [InlineData("topic", "tpoic", 1)]
    [InlineData("colour", "color", 1)]
    [InlineData("bell", "", 4)]
    [InlineData("weir", "wire", 2)]
    public void Distances_count_single_changes(string a, string b, int distance) => Spelling.Distance(a, b).ShouldBe(distance);

    [Fact]
    public void A_distance_is_the_same_both_ways_and_never_more_than_the_longer_word() =>
        Gen.Select(Gen.String[Gen.Char.AlphaNumeric, 0, 9], Gen.String[Gen.Char.AlphaNumeric, 0, 9])
            .Sample(
                (a, b) =>
                    Spelling.Distance(a, b) == Spelling.Distance(b, a)
                    && Spelling.Distance(a, b) <= Math.Max(a.Length, b.Length)
                    && (Spelling.Distance(a, b) == 0) == (a == b)
            );
}
