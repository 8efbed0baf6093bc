using System.Globalization;
using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Plan;

namespace Nachlass.Core.Tests.Plan;

public sealed class OccasionDatesTests
{
    private static DateOnly Day(string day) => DateOnly.Parse(day, CultureInfo.InvariantCulture);

    [Theory]
    [InlineData("Good Friday", "EASTER-2", "Good Friday", "2027-03-26")]
    [InlineData("39 days after easter", "EASTER+39", "Ascension", "2027-05-06")]
    [InlineData("a day before Easter", "EASTER-1", "a day before Easter", "2027-03-27")]
    [InlineData("Easter", "EASTER+0", "Easter", "2027-03-28")]
    [InlineData("the second Sunday of May", "FREQ=MONTHLY;BYDAY=2SU;BYMONTH=5", "the second Sunday of May", "2027-05-09")]
    [InlineData("FREQ=YEARLY;BYMONTH=11;BYDAY=4TH", "FREQ=MONTHLY;BYDAY=4TH;BYMONTH=11", "the fourth Thursday of November", "2026-11-26")]
    [InlineData("every year on 24 December", "FREQ=YEARLY;BYMONTHDAY=24;BYMONTH=12", "every year on 24 December", "2026-12-24")]
    [InlineData("FREQ=YEARLY;BYMONTHDAY=24;BYMONTH=12", "FREQ=YEARLY;BYMONTHDAY=24;BYMONTH=12", "every year on 24 December", "2026-12-24")]
    public void What_moves_from_year_to_year_is_read_kept_said_and_dated(string said, string kept, string words, string next)
    {
        OccasionDates.Read(said).ShouldBe(kept);
        OccasionDates.Say(kept).ShouldBe(words);
        // What is kept, and what is said, is read again as the same.
        OccasionDates.Read(kept).ShouldBe(kept);
        OccasionDates.Read(words).ShouldBe(kept);
        OccasionDates.From(kept, Day("2026-11-24"), Day("2026-11-24")).First().ShouldBe(Day(next));
    }

    [Theory]
    [InlineData("sometime in spring")]
    [InlineData("900 days after Easter")]
    [InlineData("")]
    public void What_cannot_be_read_is_said_at_its_field(string said) =>
        Should.Throw<BadInputException>(() => OccasionDates.Read(said)).Field.ShouldBe("recurs");

    [Fact]
    public void A_season_that_moves_is_on_for_all_of_its_days()
    {
        // Lent: from Ash Wednesday for forty-six days.
        var lent = new Occasion(OccasionNumber.Of(1), "Lent", new(2026, 2, 18), new(2026, 4, 4), false) { Recurs = "EASTER-46" };
        lent.Next(new(2026, 4, 4)).ShouldBe((new DateOnly(2026, 2, 18), new(2026, 4, 4)));
        lent.Next(new(2026, 4, 5)).ShouldBe((new DateOnly(2027, 2, 10), new(2027, 3, 27)));
        lent.NextStart(new(2026, 2, 18)).ShouldBe(new DateOnly(2027, 2, 10));
    }

    [Fact]
    public void Holidays_are_those_of_the_chosen_countries_in_order()
    {
        Holidays.Between([], new(2026, 1, 1), new(2026, 12, 31)).ShouldBeEmpty();
        var days = Holidays.Between(["GB", "FR"], new(2026, 12, 20), new(2027, 1, 5));
        days.Select(h => (h.Country, h.On))
            .ShouldBe(
                [
                    ("FR", new DateOnly(2026, 12, 25)),
                    ("GB", new(2026, 12, 25)),
                    ("GB", new(2026, 12, 26)),
                    ("FR", new(2027, 1, 1)),
                    ("GB", new(2027, 1, 1)),
                ],
                ignoreOrder: true
            );
        days.ShouldBe(days.OrderBy(h => h.On).ToList());
        Holidays.Between(["UN"], new(2027, 3, 22), new(2027, 3, 22)).ShouldHaveSingleItem().Name.ShouldBe("World Water Day");
        foreach (var country in Holidays.Countries)
            Holidays.Between([country.Code], new(2026, 1, 1), new(2026, 12, 31)).Count.ShouldBeGreaterThan(3, country.Name);
    }
}
