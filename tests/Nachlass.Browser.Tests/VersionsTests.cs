using System.Text.Json;
using OpenQA.Selenium;
using SeleniumKeys = OpenQA.Selenium.Keys;

namespace Nachlass.Browser.Tests;

/// <summary>Earlier states of a draft: compared word by word, and taken back.</summary>
public sealed class VersionsTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public VersionsTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private string Text => JsonDocument.Parse(writer.Server("/api/pieces/4/draft")).RootElement.GetProperty("text").GetString()!;

    private void Changes(Func<int, bool> so, string what) =>
        writer.Until(() => so(writer.Driver.FindElements(By.CssSelector("[data-change]")).Count), what);

    [Fact]
    public void A_section_and_a_paragraph_are_taken_back_from_last_week_and_the_whole_is_as_it_was_after_two_steps_back()
    {
        writer.Open("/bench/4");
        var was = Text;
        writer.Press("Versions");
        writer.IsAt("/bench/4/versions");
        writer.Press("as Odile read it");
        writer.Sees("words came,");
        // A word by itself is shown as come, not the paragraph.
        writer.Until(
            () => writer.Driver.FindElements(By.CssSelector("[aria-label='Both versions'] ins")).Any(i => i.Text.Contains("ruled in a")),
            "what came"
        );
        var changes = writer.Driver.FindElements(By.CssSelector("[data-change]")).Count;
        writer.Press("take back");
        Changes(now => now == changes - 1, "one change less");
        Text.ShouldContain("It sits to the right of the pence and for most of the year it is empty.");
        writer.Press("take the section back");
        writer.Sees("is as it was.");
        writer.Until(() => Text.Contains("It would be easy to call this barter. But barter", StringComparison.Ordinal), "the section");
        Text.ShouldContain("The longest list in the ferry book");
        writer.Press("Step back");
        writer.Press("Step back");
        writer.Until(() => Text == was, "the draft as it was");
        writer.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void A_version_gets_a_name_is_laid_beside_another_and_comes_back_whole()
    {
        writer.Open("/bench/4/versions");
        writer.Field("Name of a version").SendKeys("for Jonas" + SeleniumKeys.Enter);
        writer.Sees("Kept as “for Jonas”.");
        writer.Press("for Jonas");
        writer.Sees("nothing is different");
        writer.Finds(By.XPath("//section[@aria-label='What changed']//option[contains(., 'as Odile read it')]")).Click();
        writer.Sees("words came,");
        // Between two that are past nothing is taken back in part.
        writer.Driver.FindElements(By.XPath("//button[.='take back']")).ShouldBeEmpty();
        writer.Press("side by side");
        writer.Driver.Navigate().Refresh();
        writer.Sees("words came,");
        writer.Press("in one text");
        writer.Press("as Odile read it");
        writer.Press("Take it back whole");
        writer.Sees("The draft is this version again");
        writer.Until(() => Text.Contains("pounds lie", StringComparison.Ordinal), "the old draft");
        writer.Press("Outline and draft");
        writer.Until(() => writer.Draft.Text.Contains("At the stage", StringComparison.Ordinal), "it in the editor");
        writer.Complaints().ShouldBeEmpty();
    }
}
