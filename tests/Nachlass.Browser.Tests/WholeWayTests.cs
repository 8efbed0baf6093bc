using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>From a caught idea to a finished file, on empty papers.</summary>
public sealed class WholeWayTests : IDisposable
{
    private readonly App app = App.Empty();
    private readonly Writer writer;

    public WholeWayTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void A_caught_line_becomes_a_finished_file()
    {
        writer.Open("/");
        writer.IsAt("/desk");
        writer.Sees("This is today’s sheet, and it is empty");

        // Caught from anywhere, without leaving.
        writer.Keys("c");
        writer.Keys("What a crossing cost when coin was no use #tolls");
        writer.Sees("idea");
        writer.Keys(Keys.Enter);
        writer.Sees("Slip 1 caught.");
        writer.IsAt("/desk");
        writer.Sees("What a crossing cost when coin was no use");

        // Sifted: it starts a piece.
        writer.Keys("g", "s");
        writer.Sees("1\nwaiting");
        writer.Keys("s");
        writer.Sees("Started P 1");
        writer.Sees("All settled: 1 today");

        // Written: outline and draft are one.
        writer.Keys("g", "b");
        writer.Press("What a crossing cost when coin was no use");
        writer.Fill(writer.Field("Title of section 1"), "At the stage");
        writer.Keys(Keys.Enter);
        writer.Until(() => writer.Draft.Text.Contains("At the stage", StringComparison.Ordinal), "the new heading in the draft");
        writer.Press("Go to section 1 in the draft");
        writer.Keys("On flood days the ferrymen of Ostrey were paid in bread.");
        writer.Until(() => writer.Part("Section 1").Text.Contains("11/250", StringComparison.Ordinal), "eleven words in the outline");
        writer.Sees("kept ");

        // Out.
        writer.Press("Take out");
        writer.Press("As a file…");
        writer.Finds(By.XPath("//label[contains(., 'Markdown')]")).Click();
        writer.Press("Take it out");
        writer
            .Downloaded("*.md")
            .ShouldBe(
                "# What a crossing cost when coin was no use\n\n## At the stage\n\nOn flood days the ferrymen of Ostrey were paid "
                    + "in bread.\n"
            );
        writer.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void All_papers_go_out_as_a_zip_and_come_into_empty_papers()
    {
        using var full = App.WithDemoPapers();
        using (var there = new Writer(full))
        {
            there.Open("/desk").Press("More");
            there.Press("Take out or bring in papers");
            there.Press("Download all papers");
            there.Downloaded("*.zip");
            writer.Open("/desk").Press("More");
            writer.Press("Take out or bring in papers");
            writer.Finds(OpenQA.Selenium.By.CssSelector("input[type=file]")).SendKeys(Directory.GetFiles(there.Downloads, "*.zip")[0]);
            writer.Sees("Brought in 90 slips, 15 sources, 10 topics and 47 pieces.");
            writer.Sees("14");
            writer.Server("/api/slips?state=all&page=2").ShouldBe(there.Server("/api/slips?state=all&page=2"));
            writer.Server("/api/pieces/4/draft").ShouldBe(there.Server("/api/pieces/4/draft"));
        }
    }
}
