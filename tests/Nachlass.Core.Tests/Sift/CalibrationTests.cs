using CsCheck;
using Nachlass.Core.Sift;

namespace Nachlass.Core.Tests.Sift;

public class CalibrationTests
{
    [Fact]
    public void A_figure_is_how_often_such_a_score_was_right()
    {
        // Of a hundred guesses at 0.9 only sixty were right; of a hundred at 0.3, ten.
        var learnt = Calibration.From(Enumerable.Range(0, 100).SelectMany(i => new[] { (0.9, i < 60), (0.3, i < 10) }));
        learnt.Of(0.9).ShouldBe(0.6, 0.03);
        learnt.Of(0.3).ShouldBe(0.11, 0.03);
        learnt.Of(0.6).ShouldBeInRange(0.12, 0.6);
        learnt.Of(0).ShouldBe(0);
    }

    [Fact]
    public void With_too_little_to_learn_from_a_score_stands_for_itself()
    {
        var none = Calibration.From(Enumerable.Range(0, Calibration.Fewest - 1).Select(_ => (0.5, false)));
        none.IsLearnt.ShouldBeFalse();
        none.Of(0.7).ShouldBe(0.7);
    }

    [Fact]
    public void A_higher_score_never_means_less_and_all_stay_within_nought_and_one() =>
        Gen.Select(Gen.Double[0, 1], Gen.Bool)
            .Array[Calibration.Fewest, 300]
            .Sample(
                guesses =>
                {
                    var learnt = Calibration.From(guesses);
                    var figures = Enumerable.Range(0, 101).Select(i => learnt.Of(i / 100.0)).ToList();
                    figures.ShouldAllBe(f => f >= 0 && f <= 1);
                    for (var i = 1; i < figures.Count; i++)
                        figures[i].ShouldBeGreaterThanOrEqualTo(figures[i - 1] - 1e-9);
                },
                iter: 200
            );
}
