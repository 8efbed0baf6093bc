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
    [Trait(App.Server, App.IsKilled)]
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
        writer.Fill(writer.Field("Move: Ring the night bell tomorrow", writer.Part("Moves")), "Ring both bells");
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
        writer.Until(() => writer.Finds(By.TagName("html")).GetDomAttribute("data-theme") == "night", "the night theme after a reload");
        writer.Value("Purpose").ShouldBe("To look down.");
    }

    [Fact]
    public void The_sheet_saves_itself_and_days_can_be_walked()
    {
        writer.Field("Loose writing").SendKeys(" And then the rain stopped.");
        writer.Until(() => writer.Server("/api/desk").Contains("the rain stopped", StringComparison.Ordinal), "the sheet to be saved");
        writer.Press("‹", writer.Part("Days"));
        writer.Until(
            () => writer.Value("Loose writing").Contains("Read the bread column aloud", StringComparison.Ordinal),
            "yesterday's sheet"
        );
        writer.Driver.Navigate().Back();
        writer.Until(() => writer.Value("Loose writing").Contains("the rain stopped", StringComparison.Ordinal), "today's sheet again");
        writer.Part("Next moves").FindElement(By.XPath(".//input[@aria-label='Done: Find the loaf price for 1789']")).Click();
        writer.Sees("Done.");
        writer.Until(
            () => !writer.Part("Next moves").Text.Contains("Find the loaf price", StringComparison.Ordinal),
            "the move to be gone"
        );
    }

    [Fact]
    public void A_friday_sheet_follows_the_plan_and_its_lines_become_slips()
    {
        writer.Open("/desk/plan");
        writer.Press("Add a block");
        writer.Press("A question");
        writer.Fill(writer.Field("Heading of A question"), "Before the weekend");
        writer.Fill(writer.Field("Text of Before the weekend"), "What did the river do this week?");
        writer.Press("friday", writer.Part("Block Before the weekend"));
        var friday = DateOnly.FromDateTime(DateTime.Now);
        do friday = friday.AddDays(1);
        while (friday.DayOfWeek != DayOfWeek.Friday);
        for (var day = DateOnly.FromDateTime(DateTime.Now); day < friday; day = day.AddDays(1))
            writer.Press("The day after");
        writer.Until(
            () => writer.Part("The sheet on a day").Text.Contains("What did the river do this week?", StringComparison.Ordinal),
            "the question in the preview of a Friday"
        );
        writer.Press("The day before");
        writer.Until(
            () => !writer.Part("The sheet on a day").Text.Contains("What did the river do", StringComparison.Ordinal),
            "a Thursday without it"
        );
        writer.Press("Keep this plan");
        writer.Sees("The plan is kept");
        writer.Open($"/desk/{friday:yyyy-MM-dd}");
        writer.Field("Before the weekend").SendKeys("It rose a hand.");
        writer.Until(
            () => writer.Server($"/api/desk?day={friday:yyyy-MM-dd}").Contains("It rose a hand.", StringComparison.Ordinal),
            "the answer to be saved"
        );
        writer.Field("First thoughts, line 1").SendKeys("A ford is a promise #fords");
        writer.Press("more", writer.Part("First thoughts"));
        writer.Field("First thoughts, line 1: working title").SendKeys("Promises");
        writer.Field("First thoughts, line 1").Click();
        writer.Keys(Keys.Enter);
        writer.Sees("Slip 91 caught.");
        writer.Part("First thoughts").Text.ShouldContain("Promises");
        writer.Server("/api/slips/91").ShouldContain("Promises\\n\\nA ford is a promise");
    }

    [Fact]
    public void A_wrong_fill_in_says_where_and_breaks_nothing()
    {
        writer.Open("/desk/plan");
        writer.Press("as it is written");
        var text = writer.Field("Text of A text with fill-ins");
        writer.Fill(text, "Today is {{ weekdy }}");
        writer.Sees("Line 1, place 10: There is no fill-in “weekdy”");
        writer.Fill(text, "Today is {{ weekday }}, ");
        writer.Until(
            () => writer.Part("The sheet on a day").Text.Contains($"Today is {DateTime.Now:dddd},", StringComparison.Ordinal),
            "the day filled in"
        );
        writer.Driver.Navigate().Refresh();
        writer.Press("as it is written");
        writer.Value("Text of A text with fill-ins").ShouldBe("Today is {{ weekday }}, ");
        writer.Press("Leave it as it was");
        writer.Value("Text of A text with fill-ins").ShouldContain("days_since_release");
    }

    [Fact]
    public void Free_writing_is_quiet_and_a_sentence_is_lifted_out()
    {
        writer.Open($"/desk/{DateTime.Now.AddDays(-9):yyyy-MM-dd}");
        writer.Field("Loose writing").SendKeys("The bell rang. Whoever names the far bank lives near.");
        writer.Until(() => writer.Finds(By.TagName("html")).GetDomAttribute("data-quiet") == "on", "the rest to step back");
        writer.Sees("10 words");
        writer.Chord(Keys.Shift, Keys.Home);
        writer.Chord(Keys.Control, Keys.Enter);
        writer.Sees("Lifted out; it waits in Sift.");
        writer.Server("/api/slips/91").ShouldContain("The bell rang. Whoever names");
        writer.Keys(Keys.End);
        writer.Keys(Keys.Enter, Keys.Enter, "Ropes remember hands #ropes", Keys.Escape);
        writer.Until(
            () => writer.Server("/api/slips?query=remember%20hands").Contains("\"total\":1,", StringComparison.Ordinal),
            "the tagged paragraph in Sift by itself"
        );
        writer.Until(() => writer.Finds(By.TagName("html")).GetDomAttribute("data-quiet") is null, "the page to come back");
    }

    [Fact]
    public async Task A_key_lets_another_program_add()
    {
        writer.Press("More");
        writer.Press("Keys for other programs");
        writer.Field("What the key is for").SendKeys("script" + Keys.Enter);
        writer.Sees("This is the only time it is shown");
        var secret = writer.Part("The new key").FindElement(By.TagName("code")).Text;
        using var client = new HttpClient { DefaultRequestHeaders = { Authorization = new("Bearer", secret) } };
        using var body = new StringContent("{\"text\":\"Ask Pell about the night bell\"}", System.Text.Encoding.UTF8, "application/json");
        (await client.PostAsync(new Uri(app.Url + "/api/capture"), body, TestContext.Current.CancellationToken)).EnsureSuccessStatusCode();
        writer.Press("Withdraw script");
        writer.Sees("withdrawn today");
        writer.Open("/sift");
        writer.Sees("FROM A PROGRAM: SCRIPT");
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
