using Nachlass.Core.Bench;
using Nachlass.Core.Bench.Writing;
using Nachlass.Core.Papers;
using Nachlass.Core.Sources;
using Nachlass.Core.Text;

namespace Nachlass.Core.Tests.Bench.Writing;

public sealed class CitationsTests
{
    private static readonly Dictionary<int, Source> Sources = new()
    {
        [1] = Book(1, "High water and small coin", "Brandt, H.", "1998"),
        [2] = Book(2, "Crossing dues", "Marchetti, Odile; Brandt, H.", "2004"),
        [3] = Book(3, "Of rope", "Brandt, H.", "1998"),
        [4] = Book(4, "Accounts of the parish", "", ""),
    };

    private static Source Book(int number, string title, string creators, string date) =>
        new()
        {
            Number = SourceNumber.Of(number),
            Type = SourceType.Book,
            Title = title,
            Creators = creators,
            Date = date,
        };

    private static CitedWork? Work(TextReference reference) =>
        reference.Thing switch
        {
            { Kind: ThingKind.Source } source when Sources.TryGetValue(source.Number, out var found) => new(found, reference.Part),
            { Kind: ThingKind.Slip, Number: 7 } => new(Sources[2], "p. 12"),
            _ => null,
        };

    private static string Out(string draft, Citing citing, string language = "en-GB") =>
        Finished.Markdown(
            "T",
            FormatSet.Ready.Named("essay"),
            draft,
            _ => "a title",
            new FinishedAs
            {
                WithTitle = false,
                Citing = citing,
                Language = Languages.Named(language),
                Work = Work,
            }
        );

    [Fact]
    public void By_author_and_year_with_the_works_that_are_really_cited()
    {
        var text = Out("They paid in bread. [[slip 7]] So says [[source 1, f. 31]]. A trace.[[slip 8]]", Citing.AuthorYear);
        text.ShouldStartWith(
            "They paid in bread. (Marchetti and Brandt 2004, p. 12) So says (Brandt 1998, f. 31). A trace.\n\n## Works cited\n\n"
        );
        text.ShouldContain("- Brandt, H. *High water and small coin*. 1998.\n- Marchetti, Odile and H. Brandt.");
        text.ShouldNotContain("Of rope");
    }

    [Fact]
    public void As_notes_the_first_time_in_full_then_in_short()
    {
        var text = Out("Bread. [[source 1]] Coin. [[source 1, p. 3]] Own.[^own]\n\n[^own]: By hand.", Citing.Notes);
        text.ShouldContain("Bread.[^cited-1] Coin.[^cited-2] Own.[^own]");
        text.ShouldContain("[^cited-1]: Brandt, H. *High water and small coin*. 1998.\n");
        text.ShouldContain("[^cited-2]: Brandt, *High water and small coin*, p. 3.\n");
        text.ShouldContain("[^own]: By hand.");
        text.ShouldContain("## Works cited");
    }

    [Fact]
    public void Where_a_reference_does_the_work_of_a_word_its_title_stands() =>
        Out("See [[source 1]] for it.", Citing.AuthorYear).ShouldStartWith("See *High water and small coin* (Brandt 1998) for it.");

    [Fact]
    public void Works_of_one_author_and_year_are_told_apart()
    {
        var text = Out("One. [[source 1]] Two. [[source 3]]", Citing.AuthorYear);
        text.ShouldContain("(Brandt 1998a)");
        text.ShouldContain("(Brandt 1998b)");
        text.ShouldContain("1998a.");
    }

    [Fact]
    public void A_work_of_nobody_is_cited_by_its_title_and_the_list_speaks_the_text_s_language()
    {
        var text = Out("Brot. [[source 4]]", Citing.AuthorYear, "de");
        text.ShouldContain("(*Accounts of the parish*)");
        text.ShouldContain("## Literatur");
    }

    [Fact]
    public void Nothing_cited_nothing_listed()
    {
        Out("Plain.[[slip 8]]", Citing.Notes).ShouldBe("Plain.\n");
        Out("Bread. [[slip 7]]", Citing.None).ShouldBe("Bread.\n");
    }

    [Fact]
    public void Parts_are_chosen_with_what_is_inside_them_and_with_their_notes()
    {
        const string draft = "Lead.\n\n## One\n\nFirst.\n\n### Inner\n\nIn it.[^1]\n\n## Two\n\nSecond. <!-- check -->\n\n[^1]: Below.\n";
        string Some(HeadingsAs headings, params int[] sections) =>
            Finished.Markdown(
                "T",
                FormatSet.Ready.Named("essay"),
                draft,
                _ => null,
                new FinishedAs
                {
                    WithTitle = false,
                    Headings = headings,
                    Sections = sections.Length == 0 ? null : sections.ToHashSet(),
                }
            );
        Some(HeadingsAs.Kept, 0).ShouldBe("## One\n\nFirst.\n\n### Inner\n\nIn it.[^1]\n\n[^1]: Below.\n");
        Some(HeadingsAs.Left, 2).ShouldBe("Second.\n");
        Some(HeadingsAs.Numbered, 1, 2).ShouldBe("### 1.1 Inner\n\nIn it.[^1]\n\n## 2 Two\n\nSecond.\n\n[^1]: Below.\n");
        Some(HeadingsAs.Kept).ShouldStartWith("Lead.\n\n## One");
    }
}
