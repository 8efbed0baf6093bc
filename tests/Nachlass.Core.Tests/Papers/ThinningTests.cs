using CsCheck;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Tests.Papers;

public class ThinningTests
{
    private static readonly DateTime Now = new(2026, 11, 26, 14, 0, 0);

    [Fact]
    public void Copies_thin_out_from_all_to_one_a_day_a_week_a_month_and_a_year()
    {
        // Two a day for three years.
        var copies = Enumerable.Range(0, 2 * 3 * 365).Select(i => Now.AddHours(-12 * i)).ToList();
        var left = copies.Except(Thinning.Gone(copies, Now)).ToList();
        left.Count(c => Now - c <= TimeSpan.FromDays(2)).ShouldBe(5);
        left.Count(c => Now - c > TimeSpan.FromDays(2) && Now - c <= TimeSpan.FromDays(14)).ShouldBeInRange(12, 13);
        left.Count(c => Now - c > TimeSpan.FromDays(14) && Now - c <= TimeSpan.FromDays(70)).ShouldBeInRange(8, 10);
        left.Count.ShouldBeInRange(45, 60);
        left.Min().Year.ShouldBe(2023);
    }

    [Fact]
    public void The_newest_always_stays_and_thinning_again_takes_nothing_more() =>
        Gen.Int[0, 2_000_000]
            .Select(minutes => Now.AddMinutes(-minutes))
            .List[1, 60]
            .Sample(made =>
            {
                var copies = made.Distinct().ToList();
                var gone = Thinning.Gone(copies, Now);
                gone.ShouldNotContain(copies.Max());
                var left = copies.Except(gone).ToList();
                Thinning.Gone(left, Now).ShouldBeEmpty();
            });

    [Theory]
    [InlineData("03:30", "2026-11-26T03:30:00")]
    [InlineData("14:00", "2026-11-26T14:00:00")]
    [InlineData("23:15", "2026-11-25T23:15:00")]
    public void What_was_due_last_lies_at_or_before_now(string at, string due) =>
        Thinning.LastDue(TimeOnly.Parse(at), Now).ShouldBe(DateTime.Parse(due));
}
