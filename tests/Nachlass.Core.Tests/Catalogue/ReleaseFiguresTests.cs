using Nachlass.Core.Catalogue;
using Nachlass.Core.Catalogue.Figures;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Tests.Catalogue;

public class ReleaseFiguresTests
{
    private static readonly DateOnly Out = new(2026, 9, 1);

    private static ReleaseFigure Views(int age, int total) => new("views", Out.AddDays(age), total, ToldBy.Outlet);

    private static ReleaseMeasured Release(int number, double value, string group, double? views = null) =>
        new(ReleaseNumber.Of(number), value, views, [group]);

    [Theory]
    [InlineData(1, 40)]
    [InlineData(3, 80)]
    [InlineData(5, 90)]
    [InlineData(7, 100)]
    public void A_figure_at_an_age_is_read_off_the_line_through_what_was_told(int after, double total) =>
        ReleaseFigures.After([Views(7, 100), Views(3, 80), Views(1, 40)], Out, after).ShouldBe(total);

    [Fact]
    public void Nobody_knows_what_was_never_told_at_that_age_or_later()
    {
        ReleaseFigures.After([Views(3, 80)], Out, 7).ShouldBeNull();
        ReleaseFigures.After([], Out, 1).ShouldBeNull();
        // What was told of days before it went out says nothing.
        ReleaseFigures.After([new("views", Out.AddDays(-2), 500, ToldBy.Hand), Views(10, 100)], Out, 5).ShouldBe(50);
    }

    [Theory]
    [InlineData(" Views ", "views")]
    [InlineData("in the   room", "in the room")]
    [InlineData("Gelesen bis zum Schluß", "gelesen bis zum schluß")]
    public void Names_are_kept_in_one_form(string typed, string kept) => ReleaseFigures.CheckedName(typed).ShouldBe(kept);

    [Theory]
    [InlineData("")]
    [InlineData("12")]
    [InlineData("<script>")]
    [InlineData("a name that is much too long to be the name of any figure")]
    public void What_is_no_name_is_refused(string typed)
    {
        Should.Throw<BadInputException>(() => ReleaseFigures.CheckedName(typed)).Field.ShouldBe("name");
        ReleaseFigures.IsName(typed).ShouldBeFalse();
    }

    /// <summary>Values of Wilson's interval from Newcombe, Statistics in Medicine 17 (1998), 857, table I.</summary>
    [Theory]
    [InlineData(81, 263, 0.2553, 0.3662)]
    [InlineData(15, 148, 0.0624, 0.1605)]
    [InlineData(0, 20, 0.0000, 0.1611)]
    [InlineData(1, 29, 0.0061, 0.1718)]
    public void Wilson_s_interval_is_that_of_the_book(int count, int of, double low, double high)
    {
        var interval = Intervals.Wilson(count, of);
        interval.Low.ShouldBe(low, 0.0001);
        interval.High.ShouldBe(high, 0.0001);
    }

    /// <summary>From Newcombe, Statistics in Medicine 17 (1998), 873, table II, method 10.</summary>
    [Theory]
    [InlineData(56, 70, 48, 80, 0.0524, 0.3339)]
    [InlineData(9, 10, 3, 10, 0.1705, 0.8090)]
    [InlineData(10, 10, 0, 20, 0.6791, 1.0000)]
    public void So_is_that_of_a_difference(int a, int n, int b, int m, double low, double high)
    {
        var interval = Intervals.Difference((a, n), (b, m));
        interval.Low.ShouldBe(low, 0.0001);
        interval.High.ShouldBe(high, 0.0001);
    }

    [Fact]
    public void Drawing_anew_holds_the_mean_as_often_as_it_says_and_says_the_same_each_time()
    {
        // 200 samples of 30 from 1 … 100, whose mean is 50.5.
        var state = 12_345u;
        double Next()
        {
            state = state * 1_664_525 + 1_013_904_223;
            return 1 + (state >> 8) % 100;
        }
        var held = 0;
        for (var sample = 0; sample < 200; sample++)
        {
            var values = Enumerable.Range(0, 30).Select(_ => Next()).ToArray();
            var interval = Intervals.Bootstrap(30, places => places.Average(p => values[p]));
            if (sample == 0)
                Intervals.Bootstrap(30, places => places.Average(p => values[p])).ShouldBe(interval);
            if (interval.Low <= 50.5 && interval.High >= 50.5)
                held++;
        }
        held.ShouldBeInRange(178, 199);
    }

    [Fact]
    public void Groups_that_differ_are_told_apart_and_those_that_do_not_are_not()
    {
        var same = Enumerable.Range(0, 24).Select(i => Release(i, 100 + i * 7 % 24, i % 2 == 0 ? "a" : "b")).ToList();
        Comparison.Of(same, MeasuredAs.Middle).ShouldAllBe(g => g.Verdict == Verdict.Same && g.Likely != null);
        var other = Enumerable.Range(0, 24).Select(i => Release(i, (i % 2 == 0 ? 100 : 160) + i * 7 % 24, i % 2 == 0 ? "a" : "b")).ToList();
        Comparison.Of(other, MeasuredAs.Middle).Select(g => (g.Name, g.Verdict)).ShouldBe([("b", Verdict.More), ("a", Verdict.Less)]);
    }

    [Fact]
    public void Too_few_say_nothing()
    {
        var few = Enumerable.Range(0, 12).Select(i => Release(i, i < 4 ? 900 : 10, i < 4 ? "few" : "many")).ToList();
        var groups = Comparison.Of(few, MeasuredAs.Middle);
        groups.Select(g => (g.Name, g.Of, g.Verdict)).ShouldBe([("many", 8, Verdict.TooFew), ("few", 4, Verdict.TooFew)]);
        groups[1].Likely.ShouldBeNull();
        groups[1].Value.ShouldBe(900);
        Comparison.Of([], MeasuredAs.Any).ShouldBeEmpty();
    }

    [Fact]
    public void With_many_groups_chance_alone_seldom_makes_one_stand_out()
    {
        var state = 7u;
        int Next(int below)
        {
            state = state * 1_664_525 + 1_013_904_223;
            return (int)(state >> 8) % below;
        }
        var stood = 0;
        for (var sample = 0; sample < 60; sample++)
            if (
                Comparison
                    .Of([.. Enumerable.Range(0, 60).Select(i => Release(i, Next(200), $"g{i % 6}"))], MeasuredAs.Middle)
                    .Any(g => g.Verdict is Verdict.More or Verdict.Less)
            )
                stood++;
        stood.ShouldBeLessThanOrEqualTo(8);
    }

    [Fact]
    public void Shares_of_views_are_drawn_by_release_and_not_by_view()
    {
        // One release with very many views is one case all the same.
        var groups = Comparison.Of(
            [.. Enumerable.Range(0, 6).Select(i => Release(i, i == 0 ? 5_000 : 10, "a", i == 0 ? 10_000 : 100))],
            MeasuredAs.OfViews
        );
        groups[0].Value!.Value.ShouldBe(100.0 * 5_050 / 10_500, 0.001);
        (groups[0].Likely!.Value.High - groups[0].Likely!.Value.Low).ShouldBeGreaterThan(20);
        Comparison.Of([Release(1, 5, "a", null), Release(2, 5, "a", 0)], MeasuredAs.OfViews).ShouldBeEmpty();
    }

    [Fact]
    public void Shares_with_any_have_the_score_interval()
    {
        var groups = Comparison.Of(
            [.. Enumerable.Range(0, 20).Select(i => Release(i, i < 15 ? 1 : 0, i % 2 == 0 ? "a" : "b"))],
            MeasuredAs.Any
        );
        var a = groups.Single(g => g.Name == "a");
        a.Value.ShouldBe(80);
        a.Likely!.Value.Low.ShouldBe(100 * Intervals.Wilson(8, 10).Low, 0.001);
    }

    [Theory]
    [InlineData("Is the ford where it was?", "asks a question")]
    [InlineData("Letter 39: Nineteen or eighteen", "four words at most")]
    [InlineData("Letter 30: Thirty letters, and the first one of all", "five words and more")]
    [InlineData("7 tolls nobody paid", "has a number")]
    [InlineData("“Who mends it?”", "asks a question")]
    public void Titles_are_of_four_kinds(string title, string kind) => ReleaseGroups.OfTitle(title).ShouldBe(kind);

    [Fact]
    public void Lengths_are_thirds_of_what_is_compared()
    {
        int[] words = [100, 200, 300, 400, 500, 600, 700, 800, 900];
        words.GroupBy(w => ReleaseGroups.OfLength(w, words)).Select(g => g.Count()).ShouldBe([3, 3, 3]);
        ReleaseGroups.OfLength(100, [100]).ShouldBe("any length");
    }
}
