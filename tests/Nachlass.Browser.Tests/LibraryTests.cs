using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>The library and the topics.</summary>
public sealed class LibraryTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public LibraryTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void Words_are_found_marked_and_narrowed()
    {
        writer.Open("/library");
        writer.Field("Search the library").SendKeys("loaves");
        writer.Until(() => writer.Driver.FindElements(By.TagName("mark")).Any(m => m.Text == "loaves"), "a marked hit");
        writer.Field("Kind").SendKeys("quote");
        writer.Sees("1 entry");
        writer.Press("“Four");
        writer.IsAt("/library/slip/29?query=loaves&kind=quote");
        writer.Part("Linked from").Text.ShouldContain("Account book of the Ostrey ferry");
        writer.Driver.Navigate().Refresh();
        writer.Part("Slip 29").Text.ShouldContain("Four loaves, no coin");
        writer.Press("Change text");
        writer.Field("Text").SendKeys(" Indeed.");
        writer.Press("Done");
        writer.Sees("water over the stage.” Indeed.");
    }

    [Fact]
    public void A_source_takes_passages()
    {
        writer.Open("/library/source/2");
        writer.Field("New passage").SendKeys("“No man shall plead the fog”");
        writer.Field("Where in the source").SendKeys("page 90" + Keys.Enter);
        writer.Sees("Passage kept as slip 91.");
        writer.Until(() => writer.Part("Passages").Text.Contains("p. 90", StringComparison.Ordinal), "the locator as it is cited");
        writer.Fill(writer.Field("Where in the source"), "");
        writer.Driver.ExecuteScript("arguments[0].focus()", writer.Field("Where in the source"));
        writer.Chord(Keys.Control, "a");
        writer.Keys(Keys.Delete);
        writer.Field("New passage").SendKeys("12:40-13:05: He counts the strokes" + Keys.Enter);
        writer.Sees("Passage kept as slip 92.");
        writer.Until(() => writer.Part("Passages").Text.Contains("12:40–13:05", StringComparison.Ordinal), "the time range");
        writer.Fill(writer.Field("Address"), "javascript:alert(1)");
        writer.Keys(Keys.Enter);
        writer.Sees("should begin with http");
        writer.Value("Address").ShouldBe("javascript:alert(1)");
    }

    [Fact]
    public void A_slip_gets_its_source_and_is_merged_from_its_page()
    {
        writer.Open("/library/slip/26");
        writer.Fill(writer.Field("Source"), "the first one");
        writer.Keys(Keys.Enter);
        writer.Sees("A source is given by its number");
        writer.Value("Source").ShouldBe("the first one");
        writer.Fill(writer.Field("Source"), "source 1");
        writer.Keys(Keys.Enter);
        writer.Sees("Account book of the Ostrey ferry, 1781–94");
        writer.Fill(writer.Field("Where in it"), "f. 40v");
        writer.Keys(Keys.Enter);
        writer.Until(() => writer.Server("/api/slips/26").Contains("f. 40v", StringComparison.Ordinal), "the locator to be saved");
        writer.Press("Decide");
        writer.Press("Merge into another slip");
        writer.Field("Number of a slip", writer.Part("Merge into")).SendKeys("29" + Keys.Enter);
        writer.Sees("merged into slip 29");
        writer.Server("/api/slips/29").ShouldContain("today’s money");
    }

    [Fact]
    public void A_topic_is_renamed_and_merged_and_comes_back()
    {
        writer.Open("/topics");
        writer.Press("eels");
        writer.Fill(writer.Field("Name"), "river eels");
        writer.Keys(Keys.Enter);
        writer.Sees("Renamed to river eels.");
        writer.Press("Merge…");
        writer.Press("bridges", writer.Part("Merge river eels into"));
        writer.Sees("Merged river eels into bridges.");
        writer.IsAt("/topics/2");
        writer.Part("High pull, not used yet").Text.ShouldContain("A bridge that only opens for eels");
        writer.UndoOf("Merged river eels");
        writer.Sees("Took back: merged");
        writer.Open("/topics");
        writer.Sees("river eels");
    }
}
