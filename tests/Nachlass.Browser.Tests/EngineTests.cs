using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>The pile turned into material: sitting after sitting, views, rules, topics, digests and links.</summary>
public sealed class EngineTests : IDisposable
{
    private readonly App app = App.Empty();
    private readonly Writer writer;

    public EngineTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private void Keep(params IEnumerable<int> slips) =>
        writer.Send("/api/slips/several", new { slips, decision = new { decision = "keep" } });

    [Fact]
    public void An_hour_of_sifting_fifty_mixed_slips_with_undo_across_several()
    {
        string[] forms =
        [
            "The toll of day {0} was a loaf #tolls",
            "Why was bell {0} sunk?",
            "“Nobody crossed on day {0}”",
            "Ice on day {0} #ice",
            "A word for the far bank, number {0}",
        ];
        writer.Catch(Enumerable.Range(1, 50).Select(i => string.Format(forms[i % 5], i)));
        writer.Open("/sift");
        writer.Sees("50\nwaiting");
        for (var i = 0; i < 10; i++)
            writer.Keys("kkdkd");
        writer.Sees("All settled: 50 today");
        // Seven steps back, over keeps and drops alike, and on from there.
        for (var i = 0; i < 7; i++)
            writer.Keys("z");
        writer.Sees("7\nwaiting");
        writer.Keys("h");
        writer.Press("Next month", writer.Part("Hold until"));
        writer.Sees("6\nwaiting");
        writer.Keys("s");
        writer.Sees("Started P 1.");
        writer.Keys("kkkkk");
        writer.Sees("All settled: 50 today");
        writer.Server("/api/tally").ShouldContain("\"sift\":0");
        writer.Server("/api/slips?state=held").ShouldContain("\"total\":1");
        writer.Server("/api/slips?state=dropped").ShouldContain("\"total\":17");
        // Dropping many is said to be a good sign.
        writer.Open("/sift/flow").Sees("healthy flow");
    }

    [Fact]
    public void A_topic_is_gone_through_a_second_time_and_then_only_the_new()
    {
        writer.Catch("Paid in bread #tolls", "Paid in eels #tolls", "Paid in rope #tolls");
        Keep(1, 2, 3);
        writer.Open("/topics/1");
        writer.Press("Go through 3 kept slips again");
        writer.Sees("Again: tolls");
        writer.Keys("n");
        writer.Sees("Left slip 1 as it is.");
        writer.Keys("d");
        writer.Sees("Dropped slip 2.");
        writer.Keys("n");
        writer.Sees("Nothing new for tolls");
        writer.Catch("Paid in cheese #tolls");
        Keep(4);
        writer.Open("/topics/1").Press("Go through 1 kept slip again");
        writer.IsAt("/sift?topic=1");
        writer.Part("Slip 4").Text.ShouldContain("Paid in cheese");
        writer.Part("Waiting slips").Text.ShouldNotContain("Paid in bread");
    }

    [Fact]
    public void Two_topics_that_are_one_are_merged_with_every_text()
    {
        writer.Catch("The night bell #bells", "The fog bell #bell", "See [[bell]] for this");
        writer.Open("/topics");
        var offer = writer.Part("Perhaps one topic");
        offer.Text.ShouldContain("changes the name in 1 text");
        writer.Press("Merge into bells", offer);
        writer.Sees("Merged bell into bells.");
        writer.Until(
            () => writer.Server("/api/slips/3").Contains("See [[bells]] for this", StringComparison.Ordinal),
            "the name in the text"
        );
        writer.SeesNot("Perhaps one topic");
        writer.UndoOf("Merged bell");
        writer.Part("Perhaps one topic");
        writer.Server("/api/slips/3").ShouldContain("See [[bell]] for this");
    }

    private void Source(string title, string by, params string[] passages)
    {
        writer.Send(
            "/api/sources",
            new
            {
                title,
                creators = by,
                topics = new[] { "tolls" },
            }
        );
        var number =
            title == "Crossing Dues" ? 1
            : title == "High Water" ? 2
            : 3;
        foreach (var text in passages)
            writer.Send($"/api/sources/{number}/passages", new { text, locator = "p. 31" });
    }

    [Fact]
    public void A_digest_follows_its_sources_and_keeps_an_edit()
    {
        Source("Crossing Dues", "Brandt, H.", "The toll was doubled when the river flooded above the stage.");
        Source("High Water", "Marchetti, Odile", "The toll was not doubled when the river flooded, for the ferry was closed.");
        writer.Open("/topics/1").Press("digest");
        writer.Sees("speaks against it");
        var line = writer.Field("Line of slip 1");
        writer.Fill(line, "Brandt has it doubled in flood.");
        writer.Chord(Keys.Control, Keys.Enter);
        writer.Sees("in your words");
        Source("Third Book", "Lunt, Hester", "When the river flooded the toll was waived.");
        writer.Sees("3 passages of 3 sources");
        writer.Until(() => writer.Value("Line of slip 1") == "Brandt has it doubled in flood.", "the edit to stay");
        writer.Press("Into a piece");
        writer.Press("A new piece…");
        writer.Part("What comes along").Text.ShouldContain("3 of 3");
        writer.Press("Start", writer.Part("Start a piece"));
        writer.Sees("Started P 1.");
        writer.Part("Material").Text.ShouldContain("3 loose");
    }

    [Fact]
    public void A_rule_is_tried_switched_on_and_what_it_did_is_taken_back()
    {
        writer.Catch("An essay on bread #tolls", "A note on rope");
        Keep(1, 2);
        writer.Open("/sift/flow").Press("New rule");
        writer.Field("Name").SendKeys("Kept tolls start a piece");
        writer.Field("Which slips").SendKeys("topic:tolls ");
        writer.Press("Show what it would have done");
        writer.Sees("Of the last 2 slips you kept, 1 would have met it.");
        writer.Part("What it would have done").Text.ShouldContain("An essay on bread");
        writer.Press("Switch on");
        writer.Sees("The rule is on.");
        writer.Catch("The price of the far bank #tolls");
        writer.Open("/sift/3").Part("Slip 3");
        writer.Keys("k");
        writer.Until(
            () => writer.Server("/api/pieces").Contains("The price of the far bank", StringComparison.Ordinal),
            "the piece the rule started"
        );
        writer.Server("/api/commands").ShouldContain("by the rule “Kept tolls start a piece” started P 1 from slip 3");
        writer.Keys("z");
        writer.Sees("1\nwaiting");
        writer.Server("/api/pieces").ShouldBe("[]");
    }

    [Fact]
    public void A_view_is_built_saved_and_stands_on_the_desk()
    {
        writer.Catch("Why was the bell sunk? #bells", "What is a ford? #fords", "The bell loft #bells");
        writer.Open("/library");
        writer.Field("Search the library").SendKeys("kind:ques");
        writer.Keys(Keys.Tab);
        writer.Sees("a question");
        writer.Sees("2 entries");
        // What can't be read is said at its place, and the list stays.
        writer.Field("Search the library").SendKeys("pul:4");
        writer.Sees("There is no field “pul”; is “pull” meant?");
        writer.Sees("2 entries");
        writer.Fill(writer.Field("Search the library"), "kind:question topic:bells");
        writer.Sees("1 entry");
        writer.Press("as table");
        writer.Press("About this view");
        writer.Press("Keep this as a view");
        writer.Field("Name").SendKeys("Bell questions");
        writer.Field("Show it on the Desk").Click();
        writer.Press("Keep", writer.Part("Keep as a view"));
        writer.Sees("Kept as “Bell questions”.");
        writer.Open("/desk");
        writer.Part("Bell questions").Text.ShouldContain("Why was the bell sunk?");
        writer.Catch("Who rang it last? #bells");
        writer.Until(
            () => writer.Part("Bell questions").Text.Contains("Who rang it last?", StringComparison.Ordinal),
            "the new one on the Desk"
        );
        writer.Press("open", writer.Part("Bell questions"));
        writer.Sees("Bell questions");
        // Two rows are chosen by key and get a pull at once.
        writer.Until(
            () =>
            {
                writer.Finds(By.CssSelector("[data-cell='0-0']")).Click();
                return true;
            },
            "the first row"
        );
        writer.Chord(Keys.Shift, Keys.ArrowDown);
        writer.Sees("2 chosen");
        writer.Press("pull of all chosen");
        writer.Press("4");
        writer.Sees("Changed 2 slips.");
        writer.Server("/api/library?query=pull:4%20").ShouldContain("\"total\":2");
    }

    [Fact]
    public void A_name_without_a_link_is_linked_and_a_link_is_completed_as_it_is_typed()
    {
        writer.Catch("The bells of Quillan are out of tune #craft", "One #bells", "Another thought");
        var bells = writer.Server("/api/topics").Contains("\"number\":2,\"name\":\"bells\"", StringComparison.Ordinal) ? 2 : 1;
        writer.Open($"/topics/{bells}");
        writer.Press("Link");
        writer.Sees("Linked.");
        writer.Until(
            () => writer.Server("/api/slips/1").Contains("The [[bells]] of Quillan", StringComparison.Ordinal),
            "the link in the text"
        );
        writer.Part("Linked from").Text.ShouldContain("slip 1");
        writer.Open("/library/slip/3").Press("Change text");
        writer.Field("Text").SendKeys(" of [[bel");
        writer.Until(
            () => writer.Driver.FindElements(By.CssSelector("[aria-label='Link to'] [role=option]")).Count > 0,
            "what could be linked"
        );
        writer.Keys(Keys.Enter);
        writer.Until(() => writer.Value("Text").Contains("of [[bells]]", StringComparison.Ordinal), "the completed link");
        writer.Press("Done");
        writer.Part("Links to").Text.ShouldContain("bells");
    }

    [Fact]
    public void A_section_is_linked_followed_and_renamed_with_its_links()
    {
        writer.Catch("What the bread column leaves out", "Against");
        writer.Send("/api/pieces", new { title = "The price" });
        writer.Open("/bench/1");
        writer.Fill(writer.Draft, "## Opening\n\nA board.\n\n## The bread column\n\nLoaves.\n");
        writer.Until(() => writer.Server("/api/pieces/1/draft").Contains("The bread column", StringComparison.Ordinal), "the saved draft");
        // Completed behind a comma, and followed to its place.
        writer.Open("/library/slip/2").Press("Change text");
        writer.Field("Text").SendKeys(" [[P 1, bread");
        writer.Until(
            () => writer.Driver.FindElements(By.CssSelector("[aria-label='Link to'] [role=option]")).Count > 0,
            "what could be linked"
        );
        // At once: it is the section that is taken, not what was offered for half of it.
        writer.Keys(Keys.Enter);
        writer.Until(() => writer.Value("Text").Contains("[[P 1, The bread column]]", StringComparison.Ordinal), "the completed section");
        writer.Press("Done");
        writer.Sees("Slip 2 changed.");
        writer.Press("The bread column, in The price", writer.Part("Links to"));
        writer.IsAt("/bench/1?section=The%20bread%20column");
        writer.Until(
            () => writer.Part("Section 2, The bread column").GetDomAttribute("aria-current") == "true",
            "the section the link leads to"
        );
        // Named without a link, it is linked from the outline.
        writer.Press("1 link here: what leads to section 2");
        writer.Press("Link");
        writer.Sees("Linked.");
        writer.Keys(Keys.Escape);
        writer.Sees("2 links here");
        // Its links follow a new heading.
        writer.Fill(writer.Field("Title of section 2"), "Loaves");
        writer.Keys(Keys.Enter);
        writer.Until(
            () => writer.Server("/api/slips/2").Contains("[[P 1, Loaves]]", StringComparison.Ordinal),
            "the new heading in the link"
        );
        writer.Server("/api/slips/1").ShouldContain("What the bread column [[P 1, Loaves]] leaves out");
    }

    [Fact]
    public void One_passage_stands_in_two_places_and_is_edited_in_one()
    {
        writer.Catch("Flood is not a price.");
        writer.Send("/api/slips", new { text = "My note on it:\n\n[[slip 1]]" });
        writer.Send("/api/slips", new { text = "For the letter:\n\n[[slip 1]]" });
        writer.Open("/library/slip/2").Sees("from slip 1");
        writer.Part("Slip 2").Text.ShouldContain("Flood is not a price.");
        writer.Open("/library/slip/1").Press("Change text");
        writer.Fill(writer.Field("Text"), "Flood is a closing hour.");
        writer.Press("Done");
        writer.Sees("Slip 1 changed.");
        foreach (var slip in (int[])[2, 3])
        {
            writer.Open($"/library/slip/{slip}");
            writer.Until(
                () => writer.Part($"Slip {slip}").Text.Contains("Flood is a closing hour.", StringComparison.Ordinal),
                $"the new wording in slip {slip}"
            );
        }
        // The other way round it would never end.
        writer.Open("/library/slip/1").Press("Change text");
        writer.Fill(writer.Field("Text"), "Flood is a closing hour.");
        writer.Field("Text").SendKeys(Keys.Enter + Keys.Enter + "[[slip 2]]");
        writer.Press("Done");
        writer.Sees("would stand inside itself");
    }
}
