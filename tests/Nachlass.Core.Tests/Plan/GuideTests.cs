using Nachlass.Core.Plan;

namespace Nachlass.Core.Tests.Plan;

public sealed class GuideTests
{
    [Theory]
    [InlineData(GuideEvery.Day, "2026-11-25", true)]
    [InlineData(GuideEvery.Day, "2026-11-24", false)]
    [InlineData(GuideEvery.Week, "2026-11-23", true)]
    [InlineData(GuideEvery.Week, "2026-11-22", false)]
    [InlineData(GuideEvery.Month, "2026-11-01", true)]
    [InlineData(GuideEvery.Month, "2026-10-31", false)]
    [InlineData(GuideEvery.Month, null, false)]
    public void A_tick_holds_until_the_next_day_week_or_month_begins(GuideEvery every, string? done, bool isDone) =>
        new GuideLine(
            GuideLineNumber.Of(1),
            every,
            "read the gauge",
            done is null ? null : DateOnly.Parse(done, System.Globalization.CultureInfo.InvariantCulture)
        )
            .IsDone(new(2026, 11, 25))
            .ShouldBe(isDone);
}
