using Nachlass.Core.Catalogue.Reuse;
using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Catalogue;

public class ReuseTests
{
    private static PieceNumber P(int number) => PieceNumber.Of(number);

    [Theory]
    [InlineData("62", 62_000)]
    [InlineData("1:02", 62_000)]
    [InlineData("0:01:02.5", 62_500)]
    [InlineData("1:02,25", 62_250)]
    [InlineData("90:00", 5_400_000)]
    [InlineData("2:00:00", 7_200_000)]
    public void Times_are_read_as_people_write_them_and_said_so_that_they_are_read_again(string typed, int milliseconds)
    {
        CutTimes.Read("from", typed).ShouldBe(milliseconds);
        CutTimes.Read("from", CutTimes.Said(milliseconds)).ShouldBe(milliseconds);
    }

    [Theory]
    [InlineData("")]
    [InlineData("soon")]
    [InlineData("1:75")]
    [InlineData("1:61:00")]
    [InlineData("-3")]
    [InlineData("25:00:00")]
    [InlineData("1:2:3:4")]
    public void What_is_no_time_is_refused_with_its_field(string typed) =>
        Should.Throw<BadInputException>(() => CutTimes.Read("to", typed)).Field.ShouldBe("to");

    [Fact]
    public void A_passage_lies_where_the_words_before_it_end()
    {
        var first = string.Join(' ', Enumerable.Repeat("loaf", 183)) + ".";
        var second = string.Join(' ', Enumerable.Repeat("coin", 61)) + ".";
        var text = $"# Bread\n\n{first}\n\n## Coin\n\n*{second}*\n";
        CutTimes.Of(text, second, ReadingPace.Aloud).ShouldBe((60_000, 80_000));
        CutTimes.Of(text, first, ReadingPace.Aloud)!.Value.FromMs.ShouldBe(0);
        CutTimes.Of(text, "nowhere", ReadingPace.Aloud).ShouldBeNull();
    }

    [Fact]
    public void A_family_is_told_from_the_piece_it_began_with_whoever_is_asked()
    {
        CameOf[] came =
        [
            new(P(5), P(2), CameHow.Passage),
            new(P(3), P(2), CameHow.Piece),
            new(P(7), P(5), CameHow.Cut),
            new(P(9), P(8), CameHow.Piece),
        ];
        var family = Family.Of(P(7), came);
        family
            .Select(f => (f.Piece.Value, f.Depth, f.How))
            .ShouldBe([(2, 0, null), (3, 1, CameHow.Piece), (5, 1, CameHow.Passage), (7, 2, CameHow.Cut)]);
        foreach (var member in family)
            Family.Of(member.Piece, came).ShouldBe(family);
        Family.Of(P(1), came).ShouldHaveSingleItem();
    }

    [Fact]
    public void A_ring_ends() =>
        Family
            .Of(P(1), [new(P(1), P(2), CameHow.Piece), new(P(2), P(1), CameHow.Piece)])
            .Select(f => f.Piece.Value)
            .Order()
            .ShouldBe([1, 2]);
}
