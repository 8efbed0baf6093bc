using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>Catching, the day's sheet, moves, finding, and the phone's width.</summary>
public sealed class DeskTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public DeskTests() => writer = new Writer(app).Open("/desk");

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void What_is_typed_survives_a_reload_and_a_stopped_server()
    {
        writer.Keys("c");
        writer.Keys("half a thou");
        writer.Open("/library");
        writer.Value("New slip").ShouldBe("half a thou");
        app.Stop();
        writer.Keys("c");
        writer.Keys("ght", Keys.Enter);
        writer.Sees("Kept in this browser");
        app.StartAgain();
        writer.Sees("Slip 91 caught. It had been waiting");
        writer.Server("/api/slips?query=half%20thought").ShouldContain("\"total\":1,");
    }

    [Fact]
    public void Several_pasted_lines_offer_to_become_several_slips()
    {
        writer.Paste(writer.Field("New slip"), "- a first one\n- a second one #fords\n- a third?");
        writer.Press("Make 3 slips");
        writer.Sees("3 caught.");
        writer.UndoOf("3 caught");
        writer.Sees("Took back");
    }

    [Fact]
    public void Every_point_of_a_reading_can_be_overruled()
    {
        writer.Keys("c");
        writer.Keys("Like https://tavle.example/wall but wetter #wall #floods");
        writer.Press("Topic wall");
        writer.Press("with its source");
        writer.Sees("no source");
        writer.Press("What it becomes");
        writer.Press("takeaway");
        writer.Press("Catch");
        writer.Sees("Slip 91 caught.");
        var slip = writer.Server("/api/slips/91");
        slip.ShouldContain("\"kind\":\"takeaway\"");
        slip.ShouldContain("\"source\":null");
        slip.ShouldContain("wetter #wall #floods");
        slip.ShouldNotContain("\"name\":\"wall\"");
        slip.ShouldContain("\"name\":\"floods\"");
    }

    [Fact]
    public void A_longer_text_and_a_move_are_caught_too()
    {
        writer.Keys("c");
        writer.Keys("First line");
        writer.Chord(Keys.Shift, Keys.Enter);
        writer.Keys("and a second", Keys.Enter);
        writer.Sees("Slip 91 caught.");
        writer.Server("/api/slips/91").ShouldContain("First line\\nand a second");
        writer.UndoOf("Slip 91 caught.");
        writer.Sees("Took back: caught slip 91.");
        writer.Keys("c");
        writer.Keys("- [ ] Ring the night bell tomorrow", Keys.Enter);
        writer.Sees("Move written down: Ring the night bell tomorrow");
        writer.Fill(writer.Field("Move: Ring the night bell tomorrow", writer.Part("Moves of the day")), "Ring both bells");
        writer.Keys(Keys.Enter);
        writer.Sees("Move changed.");
        writer.Part("Next moves").Text.ShouldContain("tomorrow");
    }

    [Fact]
    public void The_purpose_line_and_the_light_are_the_writers_own()
    {
        writer.Fill(writer.Field("Purpose"), "To look down.");
        writer.Keys(Keys.Enter);
        writer.Until(() => writer.Server("/api/purpose").Contains("To look down.", StringComparison.Ordinal), "the purpose to be saved");
        writer.Press("More");
        writer.Press("Night light");
        writer.Driver.Navigate().Refresh();
        writer.Until(() => writer.Driver.FindElement(By.TagName("html")).GetDomAttribute("data-theme") == "night", "the night theme after a reload");
        writer.Value("Purpose").ShouldBe("To look down.");
    }

    [Fact]
    public void The_sheet_saves_itself_and_days_can_be_walked()
    {
        writer.Field("Loose writing").SendKeys(" And then the rain stopped.");
        writer.Until(() => writer.Server("/api/desk").Contains("the rain stopped", StringComparison.Ordinal), "the sheet to be saved");
        writer.Press("Back to");
        writer.Until(() => writer.Value("Loose writing").Contains("Read the bread column aloud", StringComparison.Ordinal), "yesterday's sheet");
        writer.Driver.Navigate().Back();
        writer.Until(() => writer.Value("Loose writing").Contains("the rain stopped", StringComparison.Ordinal), "today's sheet again");
        writer.Part("Next moves").FindElement(By.XPath(".//input[@aria-label='Done: Find the loaf price for 1789']")).Click();
        writer.Sees("Done.");
        writer.Until(() => !writer.Part("Next moves").Text.Contains("Find the loaf price", StringComparison.Ordinal), "the move to be gone");
    }

    [Fact]
    public void Find_goes_to_numbers_screens_and_words()
    {
        writer.Keys("/");
        writer.Keys("P 4", Keys.Enter);
        writer.IsAt("/bench/4");
        writer.Open("/desk").Keys("/");
        writer.Keys("topi");
        writer.Sees("Go to Topics");
        writer.Keys(Keys.Enter);
        writer.IsAt("/topics");
        writer.Keys("/");
        writer.Keys("boy with bees");
        writer.Sees("nothing, and glad of it");
        writer.Keys(Keys.ArrowDown, Keys.Enter);
        writer.SeesNot("Nothing has these words");
    }

    [Theory]
    [InlineData("/desk")]
    [InlineData("/sift")]
    [InlineData("/library")]
    public void On_a_phone_nothing_scrolls_sideways(string path)
    {
        writer.View(390, 844);
        writer.Open(path);
        writer.Sees("New slip");
        writer.Driver.ExecuteScript("return document.documentElement.scrollWidth").ShouldBe(390L);
        writer.Complaints().ShouldBeEmpty();
    }
}
