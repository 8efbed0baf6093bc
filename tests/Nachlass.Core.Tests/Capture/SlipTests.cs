using Nachlass.Core.Capture;

namespace Nachlass.Core.Tests.Capture;

public class SlipTests
{
    [Theory]
    [InlineData(SlipState.Waiting, null, true)]
    [InlineData(SlipState.Held, "2026-11-24", true)]
    [InlineData(SlipState.Held, "2026-11-25", false)]
    [InlineData(SlipState.Held, "2026-01-01", true)]
    [InlineData(SlipState.Kept, null, false)]
    [InlineData(SlipState.Dropped, null, false)]
    public void What_waits_is_undecided_or_back_from_hold(SlipState state, string? until, bool waits) =>
        Slip.Waits(
                state,
                until is null ? null : DateOnly.Parse(until, System.Globalization.CultureInfo.InvariantCulture),
                new DateOnly(2026, 11, 24)
            )
            .ShouldBe(waits);
}
