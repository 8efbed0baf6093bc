using CsCheck;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;

namespace Nachlass.Core.Tests.Sources;

public class LocatorTests
{
    [Theory]
    [InlineData("p. 31", LocatorKind.Page, "p. 31")]
    [InlineData("p31", LocatorKind.Page, "p. 31")]
    [InlineData("page 31", LocatorKind.Page, "p. 31")]
    [InlineData("31", LocatorKind.Page, "p. 31")]
    [InlineData("31-33", LocatorKind.Page, "pp. 31–33")]
    [InlineData("pp. 31 to 33", LocatorKind.Page, "pp. 31–33")]
    [InlineData("f. 31r", LocatorKind.Folio, "f. 31r")]
    [InlineData("fol. 31 recto", LocatorKind.Folio, "f. 31r")]
    [InlineData("31r-32v", LocatorKind.Folio, "ff. 31r–32v")]
    [InlineData("chapter 3", LocatorKind.Chapter, "ch. 3")]
    [InlineData("§4", LocatorKind.Section, "§ 4")]
    [InlineData("para 2-3", LocatorKind.Paragraph, "¶¶ 2–3")]
    [InlineData("ll. 12–14", LocatorKind.Line, "ll. 12–14")]
    [InlineData("12:40", LocatorKind.Time, "12:40")]
    [InlineData("12:40–13:05", LocatorKind.Time, "12:40–13:05")]
    [InlineData("at 1:02:03 - 1:02:10", LocatorKind.Time, "1:02:03–1:02:10")]
    [InlineData("75:00", LocatorKind.Time, "1:15:00")]
    [InlineData("the third map, lower left", LocatorKind.Other, "the third map, lower left")]
    [InlineData("12:75", LocatorKind.Other, "12:75")]
    public void A_locator_is_understood_as_it_is_typed(string typed, LocatorKind kind, string text)
    {
        var read = Locator.Read(typed);
        (read.Kind, read.Text).ShouldBe((kind, text));
        Locator.Read(read.Text).ShouldBe(read);
    }

    [Fact]
    public void A_time_range_that_runs_backwards_is_refused() =>
        Should
            .Throw<BadInputException>(() => Locator.Read("13:05–12:40"))
            .ShouldSatisfyAllConditions(e => e.Field.ShouldBe("locator"), e => e.Message.ShouldContain("12:40"));

    [Fact]
    public void What_was_read_reads_the_same_again() =>
        Gen.Select(Gen.Int[0, 90_000], Gen.Int[0, 90_000])
            .Sample(
                (a, b) =>
                {
                    var (from, to) = (Math.Min(a, b), Math.Max(a, b));
                    string Clock(int s) => $"{s / 3600}:{s / 60 % 60:00}:{s % 60:00}";
                    var read = Locator.Read($"{Clock(from)}-{Clock(to)}");
                    (read.From, read.To).ShouldBe((from, to));
                    Locator.Read(read.Text).ShouldBe(read);
                }
            );

    [Theory]
    [InlineData("12:40–13:05", "https://tavle.example/pell", "https://tavle.example/pell#t=760,785")]
    [InlineData("12:40", "https://tavle.example/pell?x=1#old", "https://tavle.example/pell?x=1#t=760")]
    [InlineData("p. 31", "https://tavle.example/book.pdf", "https://tavle.example/book.pdf#page=31")]
    [InlineData("p. 31", "https://tavle.example/book", null)]
    [InlineData("12:40", "", null)]
    [InlineData("12:40", "javascript:alert(1)", null)]
    public void A_place_has_an_address_where_the_source_has_one(string locator, string address, string? place) =>
        Locator.Read(locator).In(address).ShouldBe(place);

    [Theory]
    [InlineData("p. 31: The board says one penny", "The board says one penny", "p. 31")]
    [InlineData("12:40–13:05 “You never asked who it was.”", "“You never asked who it was.”", "12:40–13:05")]
    [InlineData("“No man shall plead the fog” (f. 31 recto)", "“No man shall plead the fog”", "f. 31r")]
    [InlineData("“No man shall plead the fog”, p. 90", "“No man shall plead the fog”", "p. 90")]
    [InlineData("Two fares: one for the water, one for the wait", "Two fares: one for the water, one for the wait", "")]
    [InlineData("He said it (twice)", "He said it (twice)", "")]
    [InlineData("1784: the flood", "1784: the flood", "")]
    public void A_line_gives_a_passage_and_where_it_stands(string line, string text, string locator) =>
        PassageLine.Read(line).ShouldBe((text, locator));

    [Theory]
    [InlineData(
        "“Weir closed till March”",
        "https://tavle.example/weir#x",
        "https://tavle.example/weir#:~:text=Weir%20closed%20till%20March"
    )]
    [InlineData(
        "“The footway over the weir, well-known, is closed until the end of March.” — Trust",
        "https://tavle.example/weir",
        "https://tavle.example/weir#:~:text=The%20footway%20over%20the,the%20end%20of%20March."
    )]
    [InlineData("“well-known”", "https://tavle.example/weir", "https://tavle.example/weir#:~:text=well%2Dknown")]
    [InlineData("“”", "https://tavle.example/weir", null)]
    [InlineData("“words”", "mailto:pell@tavle.example", null)]
    public void A_quotation_of_a_page_has_the_address_of_its_words(string quotation, string address, string? place) =>
        TextFragment.Of(quotation, address).ShouldBe(place);
}
