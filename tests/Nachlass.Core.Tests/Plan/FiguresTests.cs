using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Tests.Plan;

public sealed class FiguresTests
{
    private static readonly DateOnly Monday = new(2026, 1, 5);

    private static WentOut Piece(int days, int? late = 0)
    {
        var start = new DateTimeOffset(2026, 1, 5, 9, 0, 0, TimeSpan.Zero);
        return new WentOut(
            "letter",
            1,
            Monday,
            late is { } by ? Monday.AddDays(days - by) : null,
            Monday.AddDays(days),
            [new("Gather", start), new("Draft", start.AddDays(2)), new("Out", start.AddDays(days))],
            100
        );
    }

    [Fact]
    public void Lead_stages_and_punctuality_are_middles_of_what_went_out()
    {
        var figures = Figures.Of(
            "letter",
            "Letter",
            [Piece(10), Piece(12, 3), Piece(40, 20), Piece(11, null)],
            ["Gather", "Draft", "Edit"]
        );
        figures.Lead.ShouldBe(new Middle(11.5, 4));
        figures.Lead.IsSmall.ShouldBeTrue();
        figures.Punctuality.ShouldBe(new Punctuality(1, 2, new Middle(11.5, 2), 1));
        figures.Stages.Select(s => (s.Stage, s.Days.Median, s.Days.Of)).ShouldBe([("Gather", 2, 4), ("Draft", 9.5, 4), ("Edit", null, 0)]);
    }

    [Fact]
    public void Early_is_on_time() => Figures.PunctualityOf([Piece(10, -4)]).ShouldBe(new Punctuality(1, 0, new Middle(null, 0), 0));

    /// <summary>Law: whatever happened between two days is in exactly one week and one month, and nothing else is.</summary>
    [Fact]
    public void All_that_happened_is_counted_once() =>
        Gen.Select(Gen.Int[-40, 440].Array[0, 60], Gen.Int[0, 200], Gen.Int[0, 200], Gen.Bool)
            .Sample(
                (days, from, length, byMonth) =>
                {
                    var (first, last) = (Monday.AddDays(from), Monday.AddDays(from + length));
                    var all = days.Select(d => Monday.AddDays(d)).ToList();
                    var points = Figures.Pace(first, last, byMonth, all, [], [.. all.Select(d => (d, 7))], []);
                    var within = all.Count(d => d >= first && d <= last);
                    points.Sum(p => p.Released).ShouldBe(within);
                    points.Sum(p => p.Words).ShouldBe(7 * within);
                    points.Select(p => p.From).ShouldBe(points.Select(p => p.From).Distinct().Order().ToList());
                }
            );
}

public sealed class GoalTests
{
    private static readonly DateOnly Start = new(2026, 1, 1);

    private static Goal Goal(GoalOf of, int target) => new(GoalNumber.Of(1), of, target, Start, Start.AddDays(100));

    [Theory]
    [InlineData(10, 50, "10 of 26 released, with 50 days left; at this pace it will be 20, 6 short.")]
    [InlineData(13, 50, "13 of 26 released, with 50 days left; at this pace it is reached.")]
    [InlineData(26, 99, "26 of 26 released: reached, with a day to spare.")]
    [InlineData(20, 130, "20 of 26 released: its day is past, and 6 are missing.")]
    [InlineData(0, 0, "0 of 26 released, with 100 days left; it is counted from today on.")]
    public void It_is_said_plainly_how_a_goal_stands(int reached, int day, string says)
    {
        var progress = Goal(GoalOf.Released, 26).Progress(reached, Start.AddDays(day));
        if (day == 0)
            progress.Expected.ShouldBeNull();
        else
            progress.Says.ShouldBe(says);
    }

    [Fact]
    public void Readers_go_on_growing_as_they_grew()
    {
        var goal = Goal(GoalOf.Readers, 1_000) with { ReadersBefore = 400, Readers = 500 };
        goal.Progress(500, Start.AddDays(50)).Expected.ShouldBe(600);
    }

    [Fact]
    public void A_goal_that_cannot_be_is_refused()
    {
        Should.Throw<BadInputException>(() => Goal(GoalOf.Words, 0).Checked()).Field.ShouldBe("target");
        Should.Throw<BadInputException>(() => (Goal(GoalOf.Words, 5) with { By = Start }).Checked()).Field.ShouldBe("by");
    }
}
