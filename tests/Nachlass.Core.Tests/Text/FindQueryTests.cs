using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Text;

public class FindQueryTests
{
    [Theory]
    [InlineData("bread", "\"bread\"*")]
    [InlineData("bread colu", "\"bread\" \"colu\"*")]
    [InlineData("\"bread column\" stage", "\"bread column\" \"stage\"*")]
    [InlineData("\"bread column\"", "\"bread column\"")]
    [InlineData("a OR b) NEAR(\"", "\"a\" \"OR\" \"b\" \"NEAR\"*")]
    [InlineData("ferryman's", "\"ferryman s\"*")]
    [InlineData("***", "")]
    [InlineData("  ", "")]
    public void What_is_typed_becomes_a_safe_expression(string typed, string match) => FindQuery.Read(typed).Match.ShouldBe(match);

    [Fact]
    public void Numbers_are_recognised_with_and_without_their_kind()
    {
        FindQuery.Read("214").ShouldSatisfyAllConditions(q => q.Number.ShouldBe(214), q => q.Kind.ShouldBeNull());
        FindQuery.Read("P 12").ShouldSatisfyAllConditions(q => q.Number.ShouldBe(12), q => q.Kind.ShouldBe(ThingKind.Piece));
        FindQuery.Read("slip 7").Kind.ShouldBe(ThingKind.Slip);
        FindQuery.Read("1784 flood").Number.ShouldBeNull();
    }

    [Fact]
    public void No_quotation_mark_is_ever_left_open() =>
        Gen.String.Sample(typed => FindQuery.Read(typed).Match.Count(c => c == '"') % 2 == 0, iter: 2_000);
}
