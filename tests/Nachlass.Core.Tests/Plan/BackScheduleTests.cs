using CsCheck;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Tests.Plan;

public class BackScheduleTests
{
    /// <summary>A Tuesday.</summary>
    private static readonly DateOnly Today = new(2026, 11, 24);

    private static readonly WorkCalendar TwoADay = new(WorkingHours.Usual, []);

    private static DatedWork Work(int key, DateOnly due, params double[] hours) =>
        new(key, due, [.. hours.Select((h, i) => new StageWork($"s{i}", h))]);

    [Fact]
    public void Stages_stand_as_late_as_they_can_one_before_the_other()
    {
        var work = BackSchedule.Of([Work(1, new(2026, 12, 4), 2, 3)], TwoADay, Today).Works.ShouldHaveSingleItem();
        // Friday 4 December has two hours and Thursday one of the second stage's; the other hour of Thursday is the first's.
        work.Stages.ShouldBe([
            new StageDates("s0", new(2026, 12, 2), new(2026, 12, 3), 2),
            new StageDates("s1", new(2026, 12, 3), new(2026, 12, 4), 3),
        ]);
        (work.Missing, work.ReadyOn).ShouldBe((0, null));
    }

    [Fact]
    public void The_earlier_date_has_the_hours_before_it_and_the_later_one_works_around()
    {
        var worked = BackSchedule.Of([Work(2, new(2026, 12, 4), 4), Work(1, new(2026, 12, 3), 4)], TwoADay, Today);
        worked.Works.Select(w => w.Key).ShouldBe([1, 2]);
        worked.Days[new(2026, 12, 3)].ShouldBe(new Dictionary<int, double> { [1] = 2 });
        worked.Days[new(2026, 12, 4)].ShouldBe(new Dictionary<int, double> { [2] = 2 });
        worked.Days[new(2026, 12, 1)].ShouldBe(new Dictionary<int, double> { [2] = 2 });
    }

    [Fact]
    public void What_does_not_fit_is_said_with_the_day_it_could_be_ready()
    {
        // Tuesday to Friday are eight hours.
        var worked = BackSchedule.Of([Work(1, new(2026, 11, 27), 11)], TwoADay, Today);
        var work = worked.Works.ShouldHaveSingleItem();
        (work.Missing, work.ReadyOn).ShouldBe((3, new DateOnly(2026, 12, 1)));
        var week = WeekLoad.Of(worked, TwoADay, Today, Today, Today).ShouldHaveSingleItem();
        (week.Week, week.Hours, week.Load, week.Over).ShouldBe((48, 8, 11, 3));
        week.By.ShouldBe([new LoadOf(1, 11, 3)]);
    }

    [Fact]
    public void A_date_that_is_past_counts_as_today()
    {
        var work = BackSchedule.Of([Work(1, new(2026, 11, 2), 1)], TwoADay, Today).Works.ShouldHaveSingleItem();
        work.Stages.ShouldHaveSingleItem().By.ShouldBe(Today);
        work.Missing.ShouldBe(0);
    }

    [Fact]
    public void A_day_that_the_writer_set_for_a_stage_holds_and_those_before_it_follow()
    {
        var work = new DatedWork(1, new(2026, 12, 11), [new("Gather", 2), new("Draft", 2, new(2026, 12, 2)), new("Edit", 2)]);
        BackSchedule
            .Of([work], TwoADay, Today)
            .Works.Single()
            .Stages.Select(s => s.By)
            .ShouldBe([new DateOnly(2026, 12, 1), new(2026, 12, 2), new(2026, 12, 11)]);
        BackSchedule
            .Of([work with { Stages = [new("Draft", 2, new(2026, 10, 2)), new("Edit", 2)] }], TwoADay, Today)
            .Works.Single()
            .Stages[0]
            .By.ShouldBe(Today);
    }

    private static readonly Gen<(WorkCalendar Calendar, DatedWork[] Works)> Plans =
        from hours in Gen.Double[0, 5].Select(h => Math.Round(h, 1)).Array[7]
        from away in Gen.Select(Gen.Int[-3, 60], Gen.Int[0, 12])
            .Select((at, days) => new Away(default, Today.AddDays(at), Today.AddDays(at + days), "away"))
            .Array[0, 4]
        from works in Gen.Select(
            Gen.Int[-10, 90],
            Gen.Double[0, 9].Select(h => Math.Round(h, 1)).Array[0, 5],
            Gen.Int[-5, 90].Nullable(0.8)
        ).Array[0, 12]
        select (
            new WorkCalendar(new WorkingHours(hours), away),
            works
                .Select(
                    (w, i) =>
                        new DatedWork(
                            i + 1,
                            Today.AddDays(w.Item1),
                            [
                                .. w.Item2.Select(
                                    (h, at) => new StageWork($"s{at}", h, at == 1 && w.Item3 is { } day ? Today.AddDays(day) : null)
                                ),
                            ]
                        )
                )
                .ToArray()
        );

    [Fact]
    public void Nothing_is_done_before_today_on_a_day_away_or_beyond_the_hours_there_are()
    {
        Plans.Sample(plan =>
        {
            var worked = BackSchedule.Of(plan.Works, plan.Calendar, Today);
            foreach (var (day, by) in worked.Days)
            {
                day.ShouldBeGreaterThanOrEqualTo(Today);
                plan.Calendar.IsAway(day).ShouldBeFalse();
                by.Values.Sum().ShouldBeLessThanOrEqualTo(plan.Calendar.On(day) + 1e-6);
            }
            foreach (var work in worked.Works)
            {
                var last = work.Due < Today ? Today : work.Due;
                foreach (var stage in work.Stages)
                    (stage.From >= Today && stage.From <= stage.By && stage.By <= last && !plan.Calendar.IsAway(stage.By)).ShouldBeTrue();
                // In their order.
                work.Stages.Zip(work.Stages.Skip(1)).ShouldAllBe(pair => pair.First.By <= pair.Second.From);
                // Every hour is either on a day or missing.
                var wanted = plan.Works.Single(w => w.Key == work.Key).Stages.Sum(s => s.Hours);
                (worked.Days.Values.Sum(d => d.GetValueOrDefault(work.Key)) + work.Missing).ShouldBe(wanted, 1e-6);
            }
        });
    }

    [Fact]
    public void Something_fits_exactly_when_the_works_up_to_its_date_need_no_more_than_there_is()
    {
        Plans.Sample(plan =>
        {
            // Without days of the writer's own, which may leave hours behind them unused.
            var works = plan.Works.Select(w => w with { Stages = [.. w.Stages.Select(s => s with { By = null })] }).ToList();
            var worked = BackSchedule.Of(works, plan.Calendar, Today);
            foreach (var due in works.Select(w => w.Due < Today ? Today : w.Due).Distinct())
            {
                var hours = Enumerable.Range(0, due.DayNumber - Today.DayNumber + 1).Sum(d => plan.Calendar.On(Today.AddDays(d)));
                var placed = worked.Days.Where(d => d.Key <= due).Sum(d => d.Value.Where(w => Due(w.Key) <= due).Sum(w => w.Value));
                var needed = works.Where(w => Due(w.Key) <= due).Sum(w => w.Stages.Sum(s => s.Hours));
                var missing = worked.Works.Where(w => Due(w.Key) <= due).Sum(w => w.Missing);
                placed.ShouldBe(needed - missing, 1e-6);
                if (missing == 0)
                    needed.ShouldBeLessThanOrEqualTo(hours + 1e-6);
                else
                    worked
                        .Works.Where(w => w.Missing > 1e-6)
                        .Where(w => Due(w.Key) <= due)
                        .Select(w => IsFullBefore(Due(w.Key)))
                        .ShouldAllBe(full => full);
            }

            DateOnly Due(int key) => works.Single(w => w.Key == key).Due is var day && day < Today ? Today : day;
            bool IsFullBefore(DateOnly day) =>
                Enumerable
                    .Range(0, day.DayNumber - Today.DayNumber + 1)
                    .Select(d => Today.AddDays(d))
                    .All(d => Math.Abs(plan.Calendar.On(d) - (worked.Days.GetValueOrDefault(d)?.Values.Sum() ?? 0)) < 1e-6);
        });
    }

    [Fact]
    public void The_order_in_which_works_are_given_changes_nothing()
    {
        Plans.Sample(plan =>
        {
            var one = BackSchedule.Of(plan.Works, plan.Calendar, Today);
            var other = BackSchedule.Of(plan.Works.Reverse(), plan.Calendar, Today);
            one.Works.Select(Said).ShouldBe(other.Works.Select(Said));
        });

        static string Said(WorkedBack w) => $"{w.Key} {string.Join(' ', w.Stages)} {w.Missing:0.000} {w.ReadyOn}";
    }
}
