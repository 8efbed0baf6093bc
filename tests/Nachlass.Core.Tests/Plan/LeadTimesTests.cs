using Nachlass.Core.Bench;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Tests.Plan;

public sealed class LeadTimesTests
{
    private static readonly DateTimeOffset Start = new(2026, 1, 1, 9, 0, 0, TimeSpan.Zero);

    private static readonly Format Letter = new()
    {
        Key = "letter",
        Stages = ["Gather", "Draft", "Out"],
        Hours = [2, 5, 0],
    };

    /// <summary>A piece that stood at Draft for some days and was written on there for some hours.</summary>
    private static FinishedWork Work(double days, double hours) =>
        new(
            [new("Gather", Start), new("Draft", Start.AddDays(1)), new("Out", Start.AddDays(1 + days))],
            hours == 0 ? [] : [(Start.AddDays(1.2), Start.AddDays(1.2).AddHours(hours))]
        );

    [Fact]
    public void A_stage_takes_what_its_format_says_until_three_pieces_say_otherwise()
    {
        var two = LeadTimes.Of(Letter, [Work(4, 3), Work(6, 9)]);
        two.Select(s => (s.Stage, s.Hours, s.Took)).ShouldBe([("Gather", 2, null), ("Draft", 5, null), ("Out", 0, null)]);
        var three = LeadTimes.Of(Letter, [Work(4, 3), Work(6, 9), Work(400, 4)]);
        three[1].ShouldBe(new StageLead("Draft", 5, three[1].Took, 3, 6, 3));
        three[1].Hours.ShouldBe(4, 0.001);
        // Nothing was ever written at Gather, so nothing is known of its hours; that it took a day is.
        (three[0].Hours, three[0].Took, three[0].Days).ShouldBe((2, null, 1));
    }

    [Fact]
    public void Only_the_last_ten_count()
    {
        var works = Enumerable.Repeat(Work(2, 8), LeadTimes.Last).Concat(Enumerable.Repeat(Work(90, 80), 50)).ToList();
        var draft = LeadTimes.Of(Letter, works)[1];
        (draft.Of, draft.Days).ShouldBe((10, 2));
        draft.Hours.ShouldBe(8, 0.001);
    }

    [Fact]
    public void A_sitting_belongs_to_the_stage_it_began_at_and_is_ten_minutes_at_least()
    {
        var hours = LeadTimes.HoursIn(
            new(
                [new("Gather", Start), new("Draft", Start.AddHours(5))],
                [
                    (Start.AddHours(-1), Start.AddHours(-1)),
                    (Start.AddHours(4), Start.AddHours(6)),
                    (Start.AddHours(5), Start.AddHours(5).AddMinutes(30)),
                ]
            )
        );
        hours["Gather"].ShouldBe(2 + 1 / 6.0, 0.001);
        hours["Draft"].ShouldBe(0.5, 0.001);
        LeadTimes.HoursIn(new([], [(Start, Start)])).ShouldBeEmpty();
    }

    [Fact]
    public void A_stage_that_was_come_to_twice_counts_both_times() =>
        LeadTimes
            .DaysIn([new("Draft", Start), new("Edit", Start.AddDays(2)), new("Draft", Start.AddDays(3)), new("Out", Start.AddDays(8))])
            .ShouldBe(new Dictionary<string, double> { ["Draft"] = 7, ["Edit"] = 1 });
}
