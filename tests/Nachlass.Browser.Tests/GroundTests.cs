using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>The steps of the ground, each walked to its end.</summary>
public sealed class GroundTests : IDisposable
{
    private App app = App.WithDemoPapers();
    private Writer writer;
    private readonly string folder = Directory.CreateTempSubdirectory("nachlass-ground-").FullName;

    public GroundTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
        Directory.Delete(folder, recursive: true);
    }

    private void Begin(App other)
    {
        writer.Dispose();
        app.Dispose();
        (app, writer) = (other, new Writer(other));
    }

    private string Written(string name, string content)
    {
        var path = Path.Combine(folder, name);
        File.WriteAllText(path, content);
        return path;
    }

    [Fact]
    public void Readers_messages_go_from_a_file_to_sorted_asks()
    {
        var messages = Written(
            "readers.csv",
            "From,Channel,Date,Message\nMarta Brenn,postcard,2026-11-02,How does one date a chart?\n"
                + "Ole Vasser,letter,2026-11-03,Walk the tow path\n"
        );
        var other = Written("list.csv", "idea,where\nA weir is a sentence,bench\n");
        writer.Open("/bring-in");
        writer.Choose("Files to bring in", messages, other);
        writer.Sees("How it is read");
        writer.Part("How it is read").Text.ShouldContain("readers.csv");
        writer.Value("Column From is").ShouldBe("sender");
        writer.Field("Column where is").FindElements(By.TagName("option")).Single(o => o.Text == "topics").Click();
        writer.Until(
            () => writer.Value("Column where is") == "topics" && writer.Value("Column From is") == "sender",
            "each table with its own columns"
        );
        writer.Field("Kind").FindElements(By.TagName("option")).Single(o => o.Text == "ask").Click();
        writer.Until(() => writer.Part("The first of each").Text.Contains("ask", StringComparison.Ordinal), "all to be asks");
        writer.Fill(writer.Field("Topics for all"), "voices");
        writer.Keys(Keys.Enter);
        writer.Until(() => writer.Part("The first of each").Text.Contains("#voices", StringComparison.Ordinal), "the topic on all");
        writer.Fill(writer.Field("Their pile in Sift"), "Letters of the autumn");
        writer.Keys(Keys.Enter);
        writer.Until(
            () => writer.Server("/api/imports").Length >= 0 && writer.Text.Contains("Bring in 5", StringComparison.Ordinal),
            "what it makes"
        );
        writer.Press("Bring in 5");
        writer.Press("Sift what came in");
        writer.Sees("Letters of the autumn");
        writer.Sees("3\nwaiting");
        writer.Sees("Message from Marta Brenn, postcard, 2 Nov 2026");
        writer.Sees("voices");
        writer.Keys("k");
        writer.Sees("Kept slip");
        writer.Sees("2\nwaiting");
        writer.Open("/bring-in");
        writer.Part("Came in before").Text.ShouldContain("2 files");
    }

    [Fact]
    public void A_morning_at_the_desk()
    {
        var today = DateTime.Now.Date;
        string Day(int away) => today.AddDays(away).ToString("yyyy-MM-dd");
        Begin(App.Empty());
        writer.Send("/api/pieces", new { title = "The letter of the week", format = "letter" });
        writer.Server("/api/pieces");
        writer.Open("/bench/1");
        writer.Fill(writer.Field("Due date"), "today");
        writer.Keys(Keys.Enter);
        writer.Sees("Due date set.");
        writer.Open("/bring-in");
        writer.Choose(
            "Files to bring in",
            Written(
                "fair.ics",
                $"BEGIN:VCALENDAR\nVERSION:2.0\nBEGIN:VEVENT\nUID:1@a\nDTSTART;VALUE=DATE:{today:yyyyMMdd}\n"
                    + "SUMMARY:The bridge fair\nEND:VEVENT\nEND:VCALENDAR\n"
            )
        );
        writer.Press("Bring in 1");
        writer.Sees("To the library");
        writer.Open($"/desk/{Day(-1)}");
        writer.Field("Loose writing").SendKeys("Yesterday the bell would not be moved.");
        writer.Sees("kept ");
        writer.Open("/desk");
        writer.Part("Days of the month").Text.ShouldContain("The letter of the week");
        writer.Sees("The bridge fair");
        writer.Keys("w");
        writer.Keys("Today it was.");
        writer.Until(
            () => writer.Value("Loose writing").EndsWith("Today it was.", StringComparison.Ordinal),
            "the cursor in the writing at once"
        );
        writer.Chord(Keys.Control, "a");
        writer.Sees("selected: 3 words");
        writer.Value("Most characters of a selection").ShouldBe("300");
        writer.Press("The days before, below one another");
        writer.Sees("Yesterday the bell would not be moved.");
        writer.Keys(Keys.Escape);
        writer.Press("a day…");
        writer.Keys("no such day", Keys.Enter);
        writer.Sees("is no date that can be read");
        writer.Fill(writer.Field("Go to a day"), Day(-1));
        writer.Keys(Keys.Enter);
        writer.IsAt($"/desk/{Day(-1)}");
        writer.Keys("/");
        writer.Sees("Changed last");
        writer.Sees("The letter of the week");
        writer.Keys("today", Keys.Enter);
        writer.Until(() => writer.Driver.Url.Contains("/desk", StringComparison.Ordinal), "the sheet of the day that was typed");
    }

    [Fact]
    public void A_reading_hour_over_what_waits_to_be_looked_up()
    {
        writer.Open("/sift/86");
        writer.Part("Slip 86");
        writer.Keys("h");
        writer.Field("To look something up first").SendKeys("the ferry leases before 1790" + Keys.Enter);
        writer.Sees("Held to look up: the ferry leases before 1790.");
        writer.Open("/library?state=held");
        writer.Press("looking something up", writer.Part("What it waits for"));
        writer.Sees("held to look up: the ferry leases before 1790");
        writer.Text.ShouldNotContain("held until");
        writer.Open("/sift?lookUp=true");
        writer.Sees("3\nwaiting");
        writer.Part("Slip 86").Text.ShouldContain("Held to look up: the ferry leases before 1790");
        writer.Keys("k");
        writer.Sees("Kept slip 86.");
        writer.Sees("2\nwaiting");
    }

    [Fact]
    public void A_claim_becomes_a_piece_with_its_evidence()
    {
        writer.Open("/library/slip/34");
        writer.Press("Start a piece from this claim");
        writer.Sees("with what speaks for it and against it");
        writer.Until(() => writer.Driver.Url.Contains("/bench/", StringComparison.Ordinal), "the new piece");
        writer.Value("Title").ShouldBe("Flood was a closing hour and not a price");
        var piece = writer.Driver.Url.Split("/bench/")[1];
        var material = writer.Server($"/api/pieces/{piece}/material");
        foreach (var number in new[] { 34, 4, 35 })
            material.ShouldContain($"\"number\":{number},");
        writer.Open("/library/slip/35");
        writer.Part("Stands in").Text.ShouldContain("loose material");
    }

    [Fact]
    public void A_key_is_changed_with_its_clash_said_and_goes_with_the_papers()
    {
        writer.Open("/sift/86");
        writer.Part("Slip 86");
        writer.Keys("?");
        writer.Press("Key for: keep. Now K");
        writer.Keys("d");
        writer.Sees("D is already for “drop”.");
        writer.Press("Let them change keys");
        writer.Sees("The two have changed keys.");
        writer.Keys(Keys.Escape);
        writer.Keys("d");
        writer.Sees("Kept slip 86.");
        writer.Open("/sift/87");
        writer.Button("Drop").Text.ShouldContain("K");
        writer.Press("More");
        writer.Press("Take out or bring in papers");
        writer.Finds(By.LinkText("Download all papers")).Click();
        var zip = Path.Combine(folder, "papers.zip");
        writer.Downloaded("*.zip");
        File.Copy(Directory.GetFiles(writer.Downloads, "*.zip")[0], zip);
        Begin(App.Empty());
        writer.Open("/desk");
        writer.Press("More");
        writer.Press("Take out or bring in papers");
        writer.Choose("A zip of papers", zip);
        writer.Sees("Brought in");
        writer.Open("/sift/87");
        writer.Part("Slip 87");
        writer.Keys("d");
        writer.Sees("Kept slip 87.");
    }

    [Fact]
    [Trait(App.Server, App.IsKilled)]
    public void A_copy_is_made_opened_and_restored_and_the_mirror_stands_beside()
    {
        var (copies, mirror) = (Path.Combine(folder, "copies"), Path.Combine(folder, "mirror"));
        writer.Open("/papers");
        writer.Fill(writer.Field("Folder of the copies"), copies);
        writer.Press("Set", writer.Part("Copies"));
        writer.Sees("A copy is made every day at 03:30.");
        writer.Fill(writer.Field("Folder of the mirror"), mirror);
        writer.Press("Set", writer.Part("Mirror"));
        writer.Sees("In step since");
        writer.Press("Make a copy now");
        writer.Sees("could be opened");
        writer.Part("All copies").Text.ShouldContain("90 slips");
        writer.Catch("Something that was written after the copy");
        writer.Until(() => File.Exists(Path.Combine(mirror, "slips", "0091.md")), "the mirror in step");
        writer.Press("Restore the copy of", writer.Part("All copies"));
        writer.Press("Restore it");
        writer.IsAt("/desk");
        writer.Server("/api/find?query=written%20after%20the%20copy").ShouldNotContain("Something that was written");
        writer.Open("/papers");
        writer.Until(() => writer.Part("All copies").Text.Contains("91 slips", StringComparison.Ordinal), "the copy of what stood before");
    }

    [Fact]
    public void A_weeks_work_is_told_day_by_day_and_copied_as_text()
    {
        writer.Open("/sift/86");
        writer.Part("Slip 86");
        writer.Keys("k");
        writer.Sees("Kept slip 86.");
        writer.Open("/bench/4");
        writer.Draft.Click();
        writer.Chord(Keys.Control, Keys.End);
        writer.Keys(" Seven words more stand here at last.");
        writer.Until(
            () => writer.Server("/api/pieces/4/draft").Contains("Seven words more stand here at last.", StringComparison.Ordinal),
            "the draft to be kept"
        );
        writer.Open("/desk/done");
        writer.Until(() => writer.Text.Contains("+7", StringComparison.Ordinal), "the words that were written");
        writer.Part("decided").Text.ShouldContain("kept");
        writer.Press("Copy as text");
        writer.Sees("Copied as text.");
        writer.Server("/api/work-log").ShouldContain("The price of the far bank: +7 words");
        writer.Press("The days before");
        writer.Until(() => writer.Driver.Url.Contains("from=", StringComparison.Ordinal), "the week before");
    }

    [Fact]
    public void Fill_ins_read_as_words_are_put_in_from_a_list_and_open_to_their_settings()
    {
        writer.Open("/desk/plan");
        var block = writer.Part("Block A text with fill-ins");
        writer.Until(() => block.Text.Contains("put in…", StringComparison.Ordinal), "the fill-ins to be known");
        block.Text.ShouldContain("the next due date");
        block.Text.ShouldNotContain("{{");
        writer.Press("Fill-in: the next due date", block);
        writer.Field("else", writer.Part("What is filled in")).SendKeys("none");
        writer.Press("Set", writer.Part("What is filled in"));
        writer.Press("as it is written", block);
        writer.Value("Text of A text with fill-ins").ShouldContain("{{ next_due | default: \"none\" }}");
        writer.Press("as words", block);
        writer.Press("Put in: Text of A text with fill-ins", block);
        writer.Press("the weekday");
        writer.Until(
            () => writer.Part("Block A text with fill-ins").Text.Contains("the weekday", StringComparison.Ordinal),
            "the weekday in the text"
        );
        writer.Press("Keep this plan");
        writer.Until(() => writer.Server("/api/desk/plan").Contains("{{ weekday }}", StringComparison.Ordinal), "the plan to be kept");
    }

    [Fact]
    public void Moves_are_noted_put_in_order_and_folded()
    {
        Begin(App.Empty());
        foreach (var text in new[] { "call the printer", "mend the boat", "ask Pell" })
            writer.Send("/api/moves", new { text });
        writer.Open("/desk");
        string Order() =>
            string.Join(
                '|',
                writer.Part("Moves").FindElements(By.CssSelector("[aria-label^='Done: ']")).Select(b => b.GetAttribute("aria-label")![6..])
            );
        writer.Until(() => Order() == "call the printer|mend the boat|ask Pell", "the order they were written in");
        writer.Field("Move: ask Pell", writer.Part("Moves")).Click();
        writer.Chord(Keys.Alt, Keys.ArrowUp);
        writer.Until(() => Order() == "call the printer|ask Pell|mend the boat", "one place up");
        writer.Press("Date of: ask Pell", writer.Part("Moves"));
        writer.Press("Note something to it…");
        writer.Field("Note to: ask Pell").SendKeys("about the chalk on the door");
        writer.Driver.Navigate().Refresh();
        writer.Until(
            () => writer.Server("/api/moves").Contains("about the chalk on the door", StringComparison.Ordinal),
            "what was typed before the reload to be kept"
        );
        writer.Part("Moves").FindElement(By.CssSelector("[aria-label='Done: mend the boat']")).Click();
        writer.Sees("1 done");
        Order().ShouldBe("call the printer|ask Pell");
        writer.Press("Next moves");
        writer.Until(() => !writer.Part("Next moves").Text.Contains("ask Pell", StringComparison.Ordinal), "the next moves to be folded");
    }

    [Fact]
    public void A_topic_searches_itself_sifts_its_pile_and_its_cells_open()
    {
        writer.Catch("A ferry that only runs at night #ferries");
        writer.Open("/topics/1");
        writer.Field("Search in ferries").SendKeys("bread");
        writer.Until(() => writer.Part("Search in ferries").Text.Contains("in the library", StringComparison.Ordinal), "what it finds");
        writer.Press("Pass over them");
        writer.Sees("Passed over");
        writer.Sees("Nothing new to go through");
        writer.Press("Sift the ");
        writer.Sees("Waits on ferries");
        writer.Open("/library?state=all&query=in%3Apieces%20bank");
        writer.Sees("The price of the far bank");
        writer.Keys("/", "ferries", Keys.Enter);
        writer.IsAt("/topics/1");
        writer.Open("/topics");
        writer.Press("Coverage");
        writer.Press("Essay on ferries: 2 in work");
        writer.Sees("Begin another");
        writer.Press("Begin another");
        writer.Field("The idea").SendKeys("A second essay on the far bank" + Keys.Enter);
        writer.Sees("waits in Sift.");
    }

    [Fact]
    public void A_refused_take_back_stays_on_its_page_and_past_imports_are_taken_back_later()
    {
        writer.Open("/bring-in");
        writer.Choose("Files to bring in", Written("list.txt", "one thought\nanother thought\n"));
        writer.Press("Bring in 2");
        writer.Sees("Sift what came in");
        var page = new Uri(writer.Driver.Url).PathAndQuery;
        writer.Send("/api/slips/91/decision", new { decision = "keep" });
        writer.Press("Take it all back");
        writer.Sees("slip 91");
        writer.IsAt(page);
        writer.Open("/sift?from=list.txt");
        writer.Sees("1\nwaiting");
        writer.Open("/bring-in");
        writer.Choose("Files to bring in", Written("other.txt", "a third thought\n"));
        writer.Press("Bring in 1");
        writer.Sees("Sift what came in");
        writer.Open("/bring-in");
        writer.Press("Take it back", writer.Part("Came in before"));
        writer.Until(() => writer.Part("Came in before").Text.Contains("taken back", StringComparison.Ordinal), "it to be taken back");
    }

    [Fact]
    public void Sift_shows_a_slip_as_it_reads_with_its_purpose_and_a_key_for_strong()
    {
        writer.Send("/api/slips", new { text = "**The weir** is a sentence.\n\n- one\n- two", topics = new[] { "weir" } });
        writer.Open("/sift/91");
        var slip = writer.Part("Slip 91");
        slip.FindElement(By.CssSelector("strong")).Text.ShouldBe("The weir");
        slip.FindElements(By.CssSelector("li")).Count.ShouldBe(2);
        writer.Sees("To make people stop in the middle of a bridge and look down.");
        writer.Keys("f");
        writer.Until(() => writer.Server("/api/slips/91").Contains("\"pull\":5", StringComparison.Ordinal), "its pull to be the strongest");
        writer.Press("As: open");
        writer.Press("essay");
        writer.Press("talk");
        writer.Until(() => writer.Server("/api/slips/91").Contains("[\"essay\",\"talk\"]", StringComparison.Ordinal), "both formats");
        writer.Keys(Keys.Escape);
        writer.Sees("essay, talk");
    }
}
