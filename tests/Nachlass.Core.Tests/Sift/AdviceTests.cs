using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sift;

namespace Nachlass.Core.Tests.Sift;

public class AdviceTests
{
    private static (Reference, SlipKind, double) Near(int slip, SlipKind kind, double likeness = 0.3) =>
        (new Reference(ThingKind.Slip, slip), kind, likeness);

    [Fact]
    public void A_text_that_says_what_it_is_needs_no_neighbours()
    {
        LikelyKind
            .Of("Who paid the ferryman?", SlipKind.Idea, [])!
            .ShouldSatisfyAllConditions(k => k.Kind.ShouldBe(SlipKind.Question), k => k.Figure.ShouldBe(1), k => k.Because.ShouldBeEmpty());
        LikelyKind.Of("“Flood is not a price.”", SlipKind.Note, [])!.Kind.ShouldBe(SlipKind.Quote);
        LikelyKind.Of("Can we ring it?", SlipKind.Ask, []).ShouldBeNull();
    }

    [Fact]
    public void Near_slips_of_one_kind_speak_for_it()
    {
        LikelyKind
            .Of(
                "the lease forbids rowing",
                SlipKind.Idea,
                [Near(1, SlipKind.Takeaway), Near(2, SlipKind.Takeaway), Near(3, SlipKind.Takeaway)]
            )!
            .ShouldSatisfyAllConditions(k => k.Kind.ShouldBe(SlipKind.Takeaway), k => k.Because.Count.ShouldBe(3));
        LikelyKind.Of("the lease forbids rowing", SlipKind.Idea, [Near(1, SlipKind.Takeaway), Near(2, SlipKind.Takeaway)]).ShouldBeNull();
        LikelyKind
            .Of(
                "the lease forbids rowing",
                SlipKind.Idea,
                [Near(1, SlipKind.Takeaway), Near(2, SlipKind.Note), Near(3, SlipKind.Note), Near(4, SlipKind.Takeaway)]
            )
            .ShouldBeNull();
        LikelyKind
            .Of(
                "the lease forbids rowing",
                SlipKind.Takeaway,
                [Near(1, SlipKind.Takeaway), Near(2, SlipKind.Takeaway), Near(3, SlipKind.Takeaway)]
            )
            .ShouldBeNull();
    }

    private static FinishedPiece Piece(int words, int days, double likeness = 0.2) =>
        new(PieceNumber.Of(1), "Letter", words, days, likeness);

    [Theory]
    [InlineData(40, 0, 1)]
    [InlineData(300, 1, 2)]
    [InlineData(300, 9, 3)]
    [InlineData(1_080, 9, 4)]
    [InlineData(2_400, 40, 5)]
    public void Effort_is_read_off_words_and_days(int words, int days, int effort) =>
        LikelyEffort.EffortOf(Piece(words, days)).ShouldBe(effort);

    [Fact]
    public void The_likest_pieces_weigh_most()
    {
        LikelyEffort.Of([]).ShouldBeNull();
        LikelyEffort.Of([Piece(40, 0, 0.9), Piece(2_400, 40, 0.1)])!.Effort.ShouldBe(1);
        LikelyEffort.Of([Piece(40, 0, 0.1), Piece(2_400, 40, 0.9)])!.Effort.ShouldBe(5);
    }
}
