using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>Deciding what waits, with the demo papers.</summary>
public sealed class SiftTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public SiftTests() => writer = new Writer(app).Open("/sift/86");

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void A_sitting_goes_by_single_keys_and_back_again()
    {
        writer.Sees("14\nwaiting");
        writer.Part("Reads like").Text.ShouldContain("slip 59");
        writer.Keys("k");
        writer.Sees("Kept slip 86.");
        writer.IsAt("/sift/87");
        writer.Keys("d");
        writer.Sees("Dropped slip 87.");
        writer.Sees("12\nwaiting");
        writer.Keys("z", "z");
        writer.Sees("Took back: kept slip 86.");
        writer.Sees("14\nwaiting");
        writer.IsAt("/sift/86");
        writer.Keys(Keys.ArrowDown);
        writer.IsAt("/sift/87");
    }

    [Fact]
    public void Topics_holding_merging_and_putting_into_a_piece()
    {
        writer.Press("Likely topic ferries");
        writer.Until(() => writer.Part("Slip 86").Text.Contains("ferries", StringComparison.Ordinal), "the topic on the slip");
        writer.Keys("h");
        writer.Press("In a week", writer.Part("Hold until"));
        writer.Sees("Held until");
        writer.Keys("m");
        writer.Press("A bridge that only opens for eels", writer.Part("Merge into"));
        writer.Sees("Merged into slip 17.");
        writer.Sees("Why do fords keep saints’ names?");
        writer.Keys("1");
        writer.Sees("Put into P 5, Five fords, five saints.");
        writer.Sees("11\nwaiting");
    }
}

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
        writer.Press("Keep the change");
        writer.Sees("water over the stage.” Indeed.");
    }

    [Fact]
    public void A_source_takes_passages()
    {
        writer.Open("/library/source/2");
        writer.Field("New passage").SendKeys("“No man shall plead the fog”");
        writer.Field("Where in the source").SendKeys("p. 90" + Keys.Enter);
        writer.Sees("Passage kept as slip 91.");
        writer.Part("Passages").Text.ShouldContain("p. 90");
        writer.Fill(writer.Field("Address"), "javascript:alert(1)");
        writer.Keys(Keys.Enter);
        writer.Sees("should begin with http");
        writer.Value("Address").ShouldBe("javascript:alert(1)");
    }

    [Fact]
    public void A_topic_is_renamed_and_merged_and_comes_back()
    {
        writer.Open("/topics");
        writer.Press("eels");
        writer.Fill(writer.Field("Name"), "river eels");
        writer.Keys(Keys.Enter);
        writer.Sees("Renamed to river eels.");
        writer.Press("Merge into another topic");
        writer.Press("bridges", writer.Part("Merge river eels into"));
        writer.Sees("Merged river eels into bridges.");
        writer.IsAt("/topics/2");
        writer.Part("Ideas").Text.ShouldContain("A bridge that only opens for eels");
        writer.UndoOf("Merged river eels");
        writer.Sees("Took back: merged");
        writer.Open("/topics");
        writer.Sees("river eels");
    }
}

/// <summary>A piece on the bench.</summary>
public sealed class PieceTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public PieceTests() => writer = new Writer(app).Open("/bench/4");

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private string Draft => writer.Server("/api/pieces/4/draft");

    [Fact]
    public void Outline_and_draft_move_together_and_come_back()
    {
        writer.Part("Section 2, The bread column");
        writer.Press("Section 2");
        writer.Press("Move up");
        writer.Sees("Section moved.");
        writer.Part("Section 1, The bread column");
        Draft.ShouldContain("\"text\":\"## The bread column");
        writer.Field("Title of section 2").SendKeys(Keys.Alt + Keys.ArrowUp);
        writer.Part("Section 1, At the stage, paying nothing");
        writer.Button("Section 4", writer.Part("Section 4")).ShouldNotBeNull();
        writer.Part("Section 4, Who crossed free").FindElement(By.XPath(".//button[@aria-label='Section 4']")).Click();
        writer.Press("Delete with its text");
        writer.Sees("Deleted “Who crossed free” with its text.");
        Draft.ShouldNotContain("bell-ringers crossed free");
        writer.UndoOf("Deleted");
        writer.Part("Section 4, Who crossed free");
        Draft.ShouldContain("bell-ringers crossed free");
        writer.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void Material_goes_into_the_draft_with_a_reference_back()
    {
        writer.Press("Go to section 5 in the draft");
        writer.Press("What to do with slip 26");
        writer.Press("Insert as text");
        writer.Sees("Slip 26 inserted and placed in “What it would cost now”.");
        writer.Until(() => Draft.Contains("[[slip 26]]", StringComparison.Ordinal), "the reference in the saved draft");
        writer.Keys("]");
        writer.Press("Edit", writer.Driver.FindElement(By.XPath("//*[@role='radiogroup'][@aria-label='Stage']")));
        writer.Sees("Moved to Edit.");
    }

    [Fact]
    public void Nothing_typed_is_lost_when_the_server_stops()
    {
        writer.Press("Go to section 6 in the draft");
        app.Stop();
        writer.Keys("Look down.");
        writer.Sees("kept in this browser");
        writer.Until(() => writer.Text.Contains("not on the server yet", StringComparison.Ordinal), "the warning");
        app.StartAgain();
        writer.Until(() => Draft.Contains("Look down.", StringComparison.Ordinal), "the kept text on the server");
        writer.Sees("saved");
    }

    [Fact]
    public async Task Two_tabs_that_changed_the_same_piece_show_both_texts()
    {
        writer.Press("Go to section 6 in the draft");
        var version = System.Text.Json.Nodes.JsonNode.Parse(Draft)!["version"]!.GetValue<int>();
        writer.Keys("Mine ");
        using (var client = new HttpClient())
        using (var body = new StringContent($"{{\"text\":\"## Theirs\",\"version\":{version}}}", System.Text.Encoding.UTF8, "application/json"))
            (await client.PutAsync(new Uri(app.Url + "/api/pieces/4/draft"), body, TestContext.Current.CancellationToken)).EnsureSuccessStatusCode();
        writer.Keys("text.");
        writer.Sees("This text was changed in two places");
        writer.Part("Saved meanwhile, elsewhere").Text.ShouldContain("## Theirs");
        writer.Part("Written here").Text.ShouldContain("Mine text.");
        writer.Press("Take this one");
        writer.Until(() => Draft.Contains("Mine text.", StringComparison.Ordinal), "the chosen text to be saved");
    }
}
