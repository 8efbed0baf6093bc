using Nachlass.Core.Papers;
using Nachlass.Core.Sources;

namespace Nachlass.Core.Tests.Sources;

public class CitationTests
{
    private static Source Of(
        SourceType type,
        string title,
        string creators = "",
        string container = "",
        string date = "",
        string address = "",
        params (string Key, string Value)[] details
    ) =>
        new()
        {
            Number = SourceNumber.Of(1),
            Type = type,
            Title = title,
            Creators = creators,
            Container = container,
            Date = date,
            Address = address,
            Details = details.ToDictionary(d => d.Key, d => d.Value),
        };

    public static TheoryData<Source, string> Cited =>
        new()
        {
            {
                Of(
                    SourceType.Book,
                    "Bells over Water",
                    "Osei, Martin",
                    date: "2015",
                    details: [("publisher", "Foundry Trust"), ("publisher-place", "Harnsby"), ("edition", "2nd"), ("ISBN", "0306406152")]
                ),
                "Osei, Martin. *Bells over Water*. 2nd ed. Harnsby: Foundry Trust, 2015. ISBN 0306406152."
            },
            {
                Of(
                    SourceType.Article,
                    "Two crossings on one line",
                    "Marchetti, Odile; H. Brandt",
                    "River Record",
                    "2016",
                    details: [("volume", "22"), ("issue", "1"), ("page", "3–19"), ("DOI", "10.5555/rr.22")]
                ),
                "Marchetti, Odile and H. Brandt. “Two crossings on one line”. In: *River Record*. 2016. vol. 22(1), pp. 3–19. DOI "
                    + "10.5555/rr.22."
            },
            {
                Of(SourceType.Page, "Gauge at St Wistan’s", address: "https://gauges.example/w", details: [("accessed", "2026-11-24")]),
                "*Gauge at St Wistan’s*. Available from: <https://gauges.example/w> [seen 2026-11-24]."
            },
            {
                Of(
                    SourceType.Podcast,
                    "Ice on the Tavle",
                    "Adeyemi, Ruth",
                    "Slow Water",
                    "2024",
                    details: [("number", "12"), ("dimensions", "48 min")]
                ),
                "Adeyemi, Ruth. “Ice on the Tavle”. In: *Slow Water*. 2024. episode 12, 48 min."
            },
            {
                Of(
                    SourceType.Archive,
                    "Ferry book",
                    "Lunt, Hester",
                    date: "1823",
                    details: [("archive", "Record Office"), ("archive_location", "FB 9"), ("genre", "account book")]
                ),
                "Lunt, Hester. *Ferry book* [account book]. 1823. Record Office, FB 9."
            },
            {
                Of(SourceType.Interview, "Jonas Pell, ferryman", "Pell, Jonas", date: "2025-08", details: [("interviewer", "Varga, Ines")]),
                "Pell, Jonas. *Jonas Pell, ferryman*. Asked by Ines Varga. 2025-08."
            },
            {
                Of(
                    SourceType.Message,
                    "The bell on the wrong bank",
                    "Tom Ashby",
                    date: "2026-11-16",
                    details: [("recipient", "Ines Varga")]
                ),
                "Ashby, Tom. *The bell on the wrong bank*. To Ines Varga. 2026-11-16."
            },
            {
                Of(SourceType.Observation, "An hour on the bridge", details: [("event-place", "Quillan")]),
                "*An hour on the bridge*. Quillan."
            },
            { Of(SourceType.Book, "Is a ford a road?"), "*Is a ford a road?*" },
        };

    [Theory]
    [MemberData(nameof(Cited))]
    public void A_source_is_cited_with_what_its_type_needs(Source source, string line) => Citation.Of(source).ShouldBe(line);

    [Fact]
    public void A_bibliography_is_sorted_by_name_whatever_accents_and_articles() =>
        Bibliography
            .Of([
                Of(SourceType.Book, "The zebra"),
                Of(SourceType.Book, "B", "Östlund, A"),
                Of(SourceType.Book, "A", "Osei, M", date: "2016"),
                Of(SourceType.Book, "C", "Osei, M", date: "2015"),
                Of(SourceType.Book, "An adder"),
            ])
            .Select(line => line.Source.Title)
            .ShouldBe(["An adder", "C", "A", "B", "The zebra"]);

    [Theory]
    [InlineData("Brandt, H.", "Brandt", "H.")]
    [InlineData("Odile Marchetti", "Marchetti", "Odile")]
    [InlineData("Anna van der Velde", "van der Velde", "Anna")]
    [InlineData("Parish of Low Ostrey", "Parish of Low Ostrey", "")]
    [InlineData("Homer", "Homer", "")]
    public void Names_are_taken_apart(string typed, string family, string given) =>
        PersonName.Read(typed).ShouldBe(new PersonName(family, given));

    [Fact]
    public void Names_that_were_written_read_the_same()
    {
        const string names = "Brandt, H.; van der Velde, Anna; Parish of Low Ostrey";
        PersonName.Write(PersonName.ReadAll(names)).ShouldBe(names);
    }

    [Theory]
    [InlineData("978-1-4028-9462-6", "9781402894626")]
    [InlineData("0 306 40615 2", "0306406152")]
    [InlineData("ISBN 0-8044-2957-x", "080442957X")]
    public void An_isbn_is_kept_without_its_hyphens(string typed, string kept) => Identifiers.Isbn(typed).ShouldBe(kept);

    [Theory]
    [InlineData("978-1-4028-9462-7", "check digit would be 6, not 7")]
    [InlineData("0306406153", "check digit would be 2, not 3")]
    [InlineData("12345", "has 5")]
    [InlineData("97814028X4626", "something else than digits")]
    public void A_mistyped_isbn_is_refused_with_its_reason(string typed, string reason) =>
        Should
            .Throw<BadInputException>(() => Identifiers.Isbn(typed))
            .ShouldSatisfyAllConditions(e => e.Field.ShouldBe("ISBN"), e => e.Message.ShouldContain(reason));

    /// <summary>The check digit is there for this: any one digit mistyped, or two neighbours swapped, is noticed (ISBN-10: all, ISBN-13:
    /// single digits).</summary>
    [Fact]
    public void One_wrong_digit_never_passes()
    {
        foreach (var isbn in (string[])["9781402894626", "0306406152", "080442957X"])
            for (var i = 0; i < isbn.Length - 1; i++)
            for (var digit = '0'; digit <= '9'; digit++)
                if (isbn[i] != digit)
                    Should.Throw<BadInputException>(() => Identifiers.Isbn(isbn[..i] + digit + isbn[(i + 1)..]));
    }

    [Fact]
    public void Doi_and_issn_are_checked_by_their_form_and_digit()
    {
        Identifiers.Doi("https://doi.org/10.5555/abc.1").ShouldBe("10.5555/abc.1");
        Should.Throw<BadInputException>(() => Identifiers.Doi("5555/abc"));
        Identifiers.Issn("03178471").ShouldBe("0317-8471");
        Should.Throw<BadInputException>(() => Identifiers.Issn("0317-8472")).Message.ShouldContain("would be 1");
    }

    [Fact]
    public void Fields_are_merged_checked_and_cleared()
    {
        var first = SourceDetails.Merge(
            new Dictionary<string, string>(),
            new Dictionary<string, string> { ["ISBN"] = "0-306-40615-2", ["publisher"] = " Trust " }
        );
        first.ShouldBe(new Dictionary<string, string> { ["ISBN"] = "0306406152", ["publisher"] = "Trust" }, ignoreOrder: true);
        SourceDetails.Merge(first, new Dictionary<string, string> { ["publisher"] = "" }).Keys.ShouldBe(["ISBN"]);
        Should
            .Throw<BadInputException>(() => SourceDetails.Merge(first, new Dictionary<string, string> { ["shoe-size"] = "9" }))
            .Field.ShouldBe("shoe-size");
    }

    [Fact]
    public void Every_type_has_a_form_that_comes_back_from_its_csl_name()
    {
        SourceForms.All.Select(f => f.Type).ShouldBe(Enum.GetValues<SourceType>());
        foreach (var form in SourceForms.All)
            SourceForms.TypeOf(form.Csl).ShouldBe(form.Type);
    }
}
