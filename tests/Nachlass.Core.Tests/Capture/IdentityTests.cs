using Nachlass.Core.Capture;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;

namespace Nachlass.Core.Tests.Capture;

public class IdentityTests
{
    private static readonly FoundSource Book = new("Bells over Water")
    {
        Creators = "Osei, Martin",
        Details = new Dictionary<string, string> { ["ISBN"] = "0306406152" },
    };

    [Fact]
    public void White_space_makes_no_other_slip_but_words_and_places_do()
    {
        Identity.OfSlip("a  bell\n rang").ShouldBe(Identity.OfSlip(" a bell rang "));
        Identity.OfSlip("a bell rang").ShouldNotBe(Identity.OfSlip("a bell rings"));
        Identity.Of(new FoundSlip("a") { Source = Book }).ShouldNotBe(Identity.Of(new FoundSlip("a")));
        Identity
            .Of(new FoundSlip("a") { Source = Book, Locator = "p. 1" })
            .ShouldNotBe(Identity.Of(new FoundSlip("a") { Source = Book, Locator = "p. 2" }));
        Identity.Of(new FoundSlip("a"), Book).ShouldBe(Identity.Of(new FoundSlip("a") { Source = Book }));
    }

    [Fact]
    public void A_source_is_known_by_its_number_address_or_name()
    {
        var other = Book with { Title = "Bells over water.", Creators = "M. Osei", Details = new Dictionary<string, string>() };
        Identity.Of(Book).Intersect(Identity.Of(other)).ShouldNotBeEmpty();
        Identity.Of(Book).Intersect(Identity.Of(Book with { Title = "Other title" })).ShouldNotBeEmpty();
        Identity
            .Of(new FoundSource("A") { Address = "https://a.example/x" })
            .Intersect(Identity.Of(new FoundSource("B") { Address = "https://a.example/x/" }))
            .ShouldNotBeEmpty();
    }

    [Fact]
    public void Volumes_and_answers_of_one_title_are_not_one()
    {
        static FoundSource Volume(string number) =>
            new("Collected letters")
            {
                Creators = "Dell, J.",
                Details = new Dictionary<string, string> { ["volume"] = number },
            };
        Identity.Of(Volume("1")).Intersect(Identity.Of(Volume("2"))).ShouldBeEmpty();
        static FoundSource Answer(string date) =>
            new("Re: Letter 40")
            {
                Type = SourceType.Message,
                Creators = "Hanna Brill",
                Date = date,
            };
        Identity.Of(Answer("2026-11-22")).Intersect(Identity.Of(Answer("2026-11-23"))).ShouldBeEmpty();
        static FoundSource Page(string address) => new("Tolls") { Type = SourceType.Page, Address = address };
        Identity.Of(Page("https://a.example/1")).Intersect(Identity.Of(Page("https://a.example/2"))).ShouldBeEmpty();
        Identity.Of(Page("https://a.example/#/one")).Intersect(Identity.Of(Page("https://a.example/#/two"))).ShouldBeEmpty();
        static FoundSource Entry(string pages) => new("Notes") { Details = new Dictionary<string, string> { ["page"] = pages } };
        Identity.Of(Entry("3–9")).Intersect(Identity.Of(Entry("40–44"))).ShouldBeEmpty();
        static FoundSlip Note(string picture) => new("as drawn") { Files = [new FoundFile(picture, "")] };
        Identity.Of(Note("weir.png")).ShouldNotBe(Identity.Of(Note("bell.png")));
    }

    [Theory]
    [InlineData("2026-08-08", "2026-08-08")]
    [InlineData("2026-08-09", "2027-08-08")]
    [InlineData("2030-01-01", "2030-08-08")]
    public void An_occasion_of_every_year_comes_again(string day, string next) =>
        new Occasion(OccasionNumber.Of(1), "St Ine’s day", new(2026, 8, 8), new(2026, 8, 8), true)
            .Next(DateOnly.Parse(day))!
            .Value.From.ShouldBe(DateOnly.Parse(next));

    [Fact]
    public void A_season_over_the_new_year_is_still_on_and_one_that_was_once_is_over()
    {
        var frost = new Occasion(OccasionNumber.Of(1), "Frost", new(2025, 12, 20), new(2026, 1, 10), true);
        frost.Next(new(2027, 1, 5)).ShouldBe((new DateOnly(2026, 12, 20), new DateOnly(2027, 1, 10)));
        (frost with { EveryYear = false }).Next(new(2026, 2, 1)).ShouldBeNull();
    }
}
