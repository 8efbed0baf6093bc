using CsCheck;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Tests.Plan;

public sealed class MoveRepeatTests
{
    private static readonly DateOnly Wednesday = new(2026, 11, 25);

    private static readonly string[] Said =
    [
        "every day",
        "weekdays",
        "every second Thursday",
        "the second to last Monday of the month",
        "every three months on the last Friday",
    ];

    private static string Rule(string said) => MoveRepeat.Read(said, Wednesday);

    [Theory]
    [InlineData("every Wednesday", "2026-11-25", "2026-12-02")]
    [InlineData("every Wednesday", "2026-11-23", "2026-12-02")]
    [InlineData("every Wednesday", "2026-12-20", "2026-12-23")]
    [InlineData("every second Wednesday", "2026-12-20", "2026-12-23")]
    [InlineData("every second Wednesday", "2026-12-24", "2027-01-06")]
    [InlineData("every day", "2026-11-28", "2026-11-28")]
    [InlineData("the 1st of the month", "2026-11-25", "2026-12-01")]
    public void It_comes_again_after_the_day_it_was_due_and_not_before_today(string said, string today, string next) =>
        MoveRepeat
            .NextDue(Rule(said), Wednesday, DateOnly.Parse(today, System.Globalization.CultureInfo.InvariantCulture))
            .ShouldBe(DateOnly.Parse(next, System.Globalization.CultureInfo.InvariantCulture));

    [Fact]
    public void A_rule_that_ends_comes_no_more() =>
        MoveRepeat.NextDue("FREQ=DAILY;UNTIL=20261126", Wednesday, new(2026, 11, 27)).ShouldBeNull();

    [Fact]
    public void The_next_keeps_its_distance_to_beginning_and_reminder_over_a_change_of_the_clocks()
    {
        var zone = TimeZoneInfo.FindSystemTimeZoneById("Europe/Paris");
        var done = new Move
        {
            Number = MoveNumber.Of(3),
            Text = "read the gauge",
            Due = new(2026, 3, 27),
            Start = new(2026, 3, 25),
            RemindAt = new(2026, 3, 27, 8, 0, 0, TimeSpan.Zero),
            Repeats = "FREQ=WEEKLY;BYDAY=FR",
            DoneAt = new(2026, 3, 27, 12, 0, 0, TimeSpan.Zero),
        };
        var next = MoveRepeat.Next(done, new(2026, 3, 27), zone)!;
        (next.Due, next.Start, next.DoneAt, next.Follows).ShouldBe((new DateOnly(2026, 4, 3), new DateOnly(2026, 4, 1), null, done.Number));
        // Nine in the morning before and after.
        next.RemindAt.ShouldBe(new DateTimeOffset(2026, 4, 3, 7, 0, 0, TimeSpan.Zero));
    }

    [Theory]
    [InlineData("now and then")]
    [InlineData("FREQ=SOMETIMES")]
    public void What_cannot_be_read_is_said_at_its_field(string said) =>
        Should.Throw<BadInputException>(() => MoveRepeat.Read(said, Wednesday)).Field.ShouldBe("repeats");

    /// <summary>Law: whatever the rule and however late it is done, the next is later than the last and never in the past.</summary>
    [Fact]
    public void The_next_is_always_later_and_never_past() =>
        Gen.Select(Gen.Int[0, Said.Length - 1].Select(i => Said[i]), Gen.Int[-400, 400], Gen.Int[-400, 400])
            .Sample(
                (said, due, today) =>
                {
                    var (was, now) = (Wednesday.AddDays(due), Wednesday.AddDays(today));
                    var next = MoveRepeat.NextDue(MoveRepeat.Read(said, was), was, now)!.Value;
                    next.ShouldBeGreaterThan(was);
                    next.ShouldBeGreaterThanOrEqualTo(now);
                }
            );
}
