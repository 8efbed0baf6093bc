using Nachlass.Core.Papers;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Tests.Plan;

public class CadenceTests
{
    private static readonly Cadence Fortnightly = new("letter", "FREQ=WEEKLY;INTERVAL=2;BYDAY=FR", new(2026, 11, 13));

    [Fact]
    public void Dates_follow_the_rule_from_its_first_day() =>
        Fortnightly.Dates(new(2026, 11, 24)).Take(3).ShouldBe([new(2026, 11, 27), new(2026, 12, 11), new(2026, 12, 25)]);

    [Fact]
    public void A_day_of_the_cadence_itself_counts() => Fortnightly.Dates(new(2026, 11, 27)).First().ShouldBe(new(2026, 11, 27));

    [Fact]
    public void A_month_without_the_day_is_passed_over() =>
        new Cadence("essay", "FREQ=MONTHLY;BYMONTHDAY=31", new(2026, 10, 31))
            .Dates(new(2026, 11, 1))
            .Take(2)
            .ShouldBe([new(2026, 12, 31), new(2027, 1, 31)]);

    [Fact]
    public void The_next_open_date_is_the_first_that_nothing_fills()
    {
        Fortnightly.NextOpen(new(2026, 11, 24), new HashSet<DateOnly> { new(2026, 11, 27) }).ShouldBe(new(2026, 12, 11));
        Fortnightly.NextOpen(new(2026, 11, 24), Fortnightly.Dates(new(2026, 11, 24)).ToHashSet()).ShouldBeNull();
    }

    [Theory]
    [InlineData("FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30")]
    [InlineData("FREQ=YEARLY;INTERVAL=2147483647")]
    [InlineData("FREQ=MONTHLY;BYDAY=MO;BYSETPOS=9")]
    [InlineData("FREQ=WEEKLY;UNTIL=20200101")]
    public void One_that_never_comes_has_no_date_and_stops_nothing(string rule)
    {
        foreach (var from in (DateOnly[])[new(2020, 1, 1), new(1, 1, 1), new(9999, 12, 30)])
            new Cadence("letter", rule, from).NextOpen(new(2026, 11, 24), new HashSet<DateOnly>()).ShouldBeNull();
    }

    [Theory]
    [InlineData("")]
    [InlineData("every friday")]
    [InlineData("FREQ=SECONDLY")]
    [InlineData("INTERVAL=2")]
    [InlineData("FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30")]
    [InlineData("FREQ=MONTHLY;INTERVAL=1000000;BYMONTHDAY=31;BYMONTH=2")]
    [InlineData("FREQ=MONTHLY;BYDAY=MO;BYSETPOS=9")]
    public void What_is_no_cadence_is_refused(string rule) =>
        Should.Throw<BadInputException>(() => new Cadence("letter", rule, new(2026, 11, 24)).Checked()).Field.ShouldBe("rule");
}
