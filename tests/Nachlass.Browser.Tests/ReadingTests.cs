using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace Nachlass.Browser.Tests;

/// <summary>Reading a source: its fields, transcript, questions, files; and going through new ones.</summary>
public sealed class ReadingTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public ReadingTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void Lines_of_a_transcript_become_a_passage_and_the_search_finds_the_moment()
    {
        writer.Open("/library/source/10");
        writer.Press("Meanwhile the keeper");
        new Actions(writer.Driver).KeyDown(Keys.Shift).Click(writer.Button("You cannot hang a gate on ice")).KeyUp(Keys.Shift).Perform();
        writer.Sees("2 lines from 1:01");
        writer.Press("Keep as a passage");
        writer.Sees("Passage kept as slip 91, 1:01–1:27.");
        writer.Until(() => writer.Part("Passages").Text.Contains("1:01–1:27", StringComparison.Ordinal), "the passage with its time range");
        writer.Button("Open the place of slip 91").GetDomAttribute("href").ShouldBe("https://slowwater.example/12#t=61,87");
        writer.Until(() => writer.Part("Transcript").Text.Contains("slip 91", StringComparison.Ordinal), "the mark at the lines");

        writer.Keys("/");
        writer.Field("Find").SendKeys("paid on purpose");
        writer.Press("at 1:40");
        writer.IsAt("/library/source/10?at=100");
        writer.Sees("for the pleasure of it");

        writer.Open("/library/source/4");
        writer.Press("add one", writer.Part("Transcript"));
        writer.Paste(writer.Field("The transcript"), "no times at all");
        writer.Press("Take it in");
        writer.Sees("There is no time in it");
        writer.Fill(writer.Field("The transcript"), "0:04 You said the bell was wrong.");
        writer.Press("Take it in");
        writer.Sees("1 line taken in");
        writer.UndoOf("1 line taken in");
        writer.SeesNot("You said the bell was wrong.");
    }

    [Fact]
    public void A_type_has_its_fields_a_citation_and_numbers_that_are_checked()
    {
        writer.Open("/library/source/2");
        writer.Part("Citation").Text.ShouldContain("Ostrey: Valley Antiquarian Press");
        writer.Fill(writer.Field("ISBN"), "978-1-4028-9462-7" + Keys.Enter);
        writer.Sees("its check digit would be 6, not 7");
        writer.Value("ISBN").ShouldBe("978-1-4028-9462-7");
        writer.Fill(writer.Field("ISBN"), "978-1-4028-9462-6" + Keys.Enter);
        writer.Until(
            () => writer.Part("Citation").Text.Contains("ISBN 9781402894626", StringComparison.Ordinal),
            "the ISBN in the citation"
        );
        writer.Field("Type").SendKeys("podcast");
        writer.Field("Episode");
        writer.Field("Show");
        writer.Open("/topics/4");
        writer.Press("bibliography");
        writer.Until(
            () => writer.Part("Bibliography").Text.Contains("Brandt, H. Crossing Dues of the Tavle Valley", StringComparison.Ordinal),
            "the work in the bibliography"
        );
        writer.Part("Bibliography").Text.ShouldContain("CSL-JSON");
    }

    [Fact]
    public void Questions_prompt_comments_and_are_the_writers_own()
    {
        writer.Open("/library/source/10");
        writer.Field("What does it change?").SendKeys("The ice was a commons." + Keys.Enter);
        writer.Sees("Comment kept.");
        writer.Until(() => writer.Part("Comments").Text.Contains("The ice was a commons.", StringComparison.Ordinal), "the comment");
        writer.Field("What does it contradict?");
        writer.Press("another question");
        writer.Field("Where would it be used?");
        writer.Press("my questions");
        writer.Fill(writer.Field("My questions, one a line"), "Who went round?");
        writer.Press("Keep them");
        writer.Field("Who went round?");
    }

    [Fact]
    public void Files_and_pictures_are_attached_shown_small_and_large_and_found()
    {
        writer.Open("/library/slip/26");
        writer.Choose(
            "Attach files",
            Path.Combine(App.Root, "docs", "examples", "tariff.png"),
            Path.Combine(App.Root, "docs", "examples", "survey.pdf")
        );
        writer.Sees("survey.pdf");
        writer.Until(
            () =>
                (long)
                    writer.Driver.ExecuteScript(
                        "return document.querySelector('section[aria-label=\"Files and pictures\"] img')?.naturalWidth ?? 0"
                    )! == 64,
            "the picture itself"
        );
        writer.Fill(writer.Field("Why tariff.png matters"), "the older lettering" + Keys.Enter);
        writer.Until(
            () => writer.Server("/api/attachments/slip/26").Contains("the older lettering", StringComparison.Ordinal),
            "the line to be kept"
        );
        writer.Press("Show tariff.png large");
        writer.Part("the older lettering");
        writer.Keys(Keys.Escape);
        writer.Keys("/");
        writer.Field("Find").SendKeys("bristle boards midnight");
        writer.Press("survey.pdf");
        writer.IsAt("/library/slip/26");
        writer.Press("Take away survey.pdf");
        writer.Sees("Taken away.");
        writer.UndoOf("Taken away.");
        writer.Button("Take away survey.pdf");
        writer.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void New_sources_are_kept_or_dropped_by_key()
    {
        writer.Open("/bring-in");
        writer.Choose("Files to bring in", Path.Combine(App.Root, "docs", "examples", "letters.mbox"));
        writer.Press("Bring in 8");
        writer.Press("Go through the new sources");
        writer.Sees("New sources · 1 of 4");
        writer.Sees("My grandfather rang that bell");
        writer.Keys("1");
        writer.Sees("without 1 of its passages");
        writer.Keys("k");
        writer.Sees("Tolls and bread");
        writer.Keys("d");
        writer.Sees("Please do the ice next");
        writer.Keys("z");
        writer.Sees("New sources · 1 of 3");
        writer.Sees("Tolls and bread");
        writer.Keys("k", "k", "k");
        writer.Sees("No new source waits");
        writer.Server("/api/slips?state=dropped&query=grandfather").ShouldContain("\"total\":1");
        writer.Server("/api/slips?state=kept&query=loaf").ShouldContain("weigh");
    }
}
