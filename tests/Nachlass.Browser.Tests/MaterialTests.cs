using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace Nachlass.Browser.Tests;

/// <summary>Several at once, paragraphs worth using, claims, and what topics invite to.</summary>
public sealed class MaterialTests : IDisposable
{
    private readonly App app = App.Empty();
    private readonly Writer writer;

    public MaterialTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void Several_in_the_list_are_chosen_as_a_range_and_changed_with_one_undo()
    {
        writer.Catch("One", "Two", "Three", "Four");
        writer.Open("/library");
        writer.Press("Choose slip 4");
        writer.Sees("1 chosen");
        new Actions(writer.Driver).KeyDown(Keys.Shift).Click(writer.Button("Choose slip 2")).KeyUp(Keys.Shift).Perform();
        writer.Sees("3 chosen");
        writer.Press("pull of all chosen");
        writer.Press("5");
        writer.Sees("Changed 3 slips.");
        writer.Server("/api/library?query=pull:5").ShouldContain("\"total\":3");
        writer.Press("Choose slip 3");
        writer.Sees("2 chosen");
        writer.Press("Decide about all chosen");
        writer.Press("Drop");
        writer.SeesNot("chosen");
        writer.Server("/api/library?query=state:dropped").ShouldContain("\"total\":2");
        writer.UndoOf("Changed 2 slips.");
        writer.Until(
            () => writer.Server("/api/library?query=state:dropped").Contains("\"total\":0", StringComparison.Ordinal),
            "both back"
        );
        // By key: the arrows walk, with Shift they choose, Escape lets go.
        writer.Open("/library/slip/4");
        writer.Button("Choose slip 3");
        writer.Part("Slip 4");
        writer.Chord(Keys.Shift, Keys.ArrowDown);
        writer.Sees("2 chosen");
        writer.IsAt("/library/slip/3");
        writer.Keys(Keys.Escape);
        writer.SeesNot("chosen");
        writer.Keys(" ");
        writer.Sees("1 chosen");
        // On a button Space is the button's.
        writer.Button("Choose none").SendKeys(" ");
        writer.SeesNot("chosen");
    }

    [Fact]
    public void The_list_is_ordered_and_gathered_as_the_table_is()
    {
        writer.Catch("Why was the bell sunk?", "A thought", "Another thought");
        writer.Send("/api/slips/several", new { slips = new[] { 2 }, pull = 5 });
        writer.Open("/library").Press("Order");
        writer.Press("the highest pull first");
        writer.IsAt("/library?sort=pull");
        writer.Until(
            () => writer.Part("Slips and sources").Text.StartsWith("2\nA thought", StringComparison.Ordinal),
            "the strongest first"
        );
        writer.Press("Gathered by");
        writer.Press("kind");
        writer.Until(
            () =>
                writer
                    .Part("Slips and sources")
                    .Text.Contains("question\n1\n1\nWhy was the bell sunk?", StringComparison.OrdinalIgnoreCase),
            "the question under its heading"
        );
        // It stands in the address, and reloads.
        writer.Open("/library?sort=pull&group=kind").Sees("gathered by kind");
        writer.Part("Slips and sources").Text.ShouldStartWith("idea\n2\n2\nA thought", Case.Insensitive);
    }

    [Fact]
    public void A_paragraph_of_the_days_sheet_is_marked_and_becomes_a_short_post()
    {
        writer.Open("/desk");
        writer.Fill(writer.Field("Loose writing"), "Nothing much today.\n\nEveryone who stops on the bridge looks upstream.");
        writer.Until(() => writer.Server("/api/desk").Contains("looks upstream", StringComparison.Ordinal), "the saved sheet");
        writer.Press("Usable parts");
        writer.Press("Mark “Everyone who stops on the brid");
        writer.Press("A short post");
        writer.Sees("Marked.");
        writer.Open("/bench");
        writer.Part("Usable by themselves").Text.ShouldContain("Everyone who stops on the bridge looks upstream.");
        writer.Press("Use it");
        writer.IsAt("/bench/1");
        writer.Sees("Everyone who stops on the bridge");
        writer.Open("/bench").SeesNot("Usable by themselves");
    }

    [Fact]
    public void An_empty_cell_of_the_map_starts_a_slip_there_in_one_step()
    {
        writer.Catch("Loaves on flood days #tolls");
        writer.Open("/topics?as=coverage");
        writer.Press("Nothing yet: begin Letter on tolls");
        writer.Field("The idea").SendKeys("What a penny was worth");
        writer.Press("Catch it");
        writer.Sees("Slip 2 waits in Sift.");
        writer
            .Server("/api/slips/2")
            .ShouldSatisfyAllConditions(s => s.ShouldContain("\"formats\":[\"letter\"]"), s => s.ShouldContain("\"name\":\"tolls\""));
        writer.UndoOf("Slip 2 waits in Sift.");
        writer.Until(() => writer.Server("/api/tally").Contains("\"sift\":1", StringComparison.Ordinal), "the slip to be gone");
    }

    [Fact]
    public void A_short_slip_becomes_a_claim_that_shows_what_speaks_for_it()
    {
        writer.Catch(
            "The toll was doubled when the river flooded #tolls",
            "The toll was not doubled when the river flooded",
            "Bread was taken for the toll when the river flooded"
        );
        writer.Open("/library/slip/1").Press("Decide");
        writer.Press("Refine it into a claim");
        var claim = writer.Part("Claim");
        writer.Fill(writer.Field("The claim in one line"), "Flood doubled the toll");
        writer.Keys(Keys.Enter);
        writer.Sees("Claim changed.");
        var before = claim.FindElement(By.CssSelector("[aria-label^='How ready']")).Text;
        writer.Press("Against", claim.FindElement(By.XPath(".//div[a[contains(., 'slip 2')]]")));
        writer.Sees("Put against it.");
        writer.Part("Claim").Text.ShouldContain("Speaks against it", Case.Insensitive);
        writer.Until(
            () => writer.Part("Claim").FindElement(By.CssSelector("[aria-label^='How ready']")).Text != before,
            "another readiness"
        );
        writer.Open("/topics/1");
        writer
            .Part("Claims")
            .Text.ShouldSatisfyAllConditions(t => t.ShouldContain("Flood doubled the toll"), t => t.ShouldContain("0 for · 1 against"));
    }

    [Fact]
    public void A_slip_in_hand_is_split_and_refined_and_both_are_taken_back()
    {
        writer.Catch("Bread was money on the Tavle. Who set the price of a loaf?");
        writer.Open("/sift").Sees("1\nwaiting");
        writer.Keys("x");
        writer.Press("Split into 2");
        writer.Sees("its other part waits beside it");
        writer.Sees("2\nwaiting");
        writer.Part("Slip 1").Text.ShouldNotContain("Who set");
        writer.Keys("r");
        writer.Field("The claim in one line").SendKeys("Bread was money");
        writer.Press("Refine it");
        writer.Sees("Slip 1 is a claim now.");
        writer.Part("Claim").Text.ShouldContain("Speaks for it", Case.Insensitive);
        writer.Keys("z");
        writer.Until(
            () => writer.Driver.FindElements(By.CssSelector("section[aria-label=Claim]")).Count == 0,
            "the claim to be taken back"
        );
        writer.Keys("z");
        writer.Sees("1\nwaiting");
        writer.Sees("Who set the price of a loaf?");
    }

    [Fact]
    public void A_draft_says_what_has_become_of_what_it_links_to()
    {
        writer.Catch("The bread column");
        writer.Send("/api/pieces", new { title = "The price" });
        writer.Open("/bench/1");
        writer.Fill(writer.Draft, "## Opening\n\nAs I said. [[slip 1]]\n");
        writer.Until(() => writer.Server("/api/pieces/1/draft").Contains("[[slip 1]]", StringComparison.Ordinal), "the saved draft");
        writer.Send("/api/slips/several", new { slips = new[] { 1 }, decision = new { decision = "drop" } });
        writer.Press("Kept with it");
        writer.Until(() => writer.Part("Links to").Text.Contains("dropped", StringComparison.Ordinal), "what became of the slip");
    }

    [Fact]
    public void A_held_slip_comes_back_once_enough_sources_speak_to_it()
    {
        writer.Catch("Did the parish pay the ferryman in bread on flood days? #tolls");
        writer.Open("/library/slip/1").Press("Decide");
        writer.Press("Hold…");
        writer.Press("Hold", writer.Part("Hold until").FindElement(By.XPath(".//form[.//input[@type='number']]")));
        writer.Sees("held until");
        writer.Open("/desk").SeesNot("back from hold");
        foreach (var title in (string[])["Accounts of the ferry", "The parish book", "Bread and tolls"])
            writer.Send(
                "/api/sources",
                new
                {
                    title,
                    summary = "The parish paid the ferryman in bread on flood days.",
                    topics = new[] { "tolls" },
                }
            );
        writer.Open("/desk").Sees("back from hold");
    }

    [Fact]
    public void What_was_dropped_is_offered_again_when_a_new_source_reads_like_it()
    {
        writer.Catch("The drowned bell of Saint Maudlin under the weir at Quillan", "Another matter");
        writer.Send("/api/slips/several", new { slips = new[] { 1 }, decision = new { decision = "drop" } });
        writer.Open("/sift").SeesNot("another look");
        writer.Send(
            "/api/sources",
            new { title = "The drowned bell", summary = "The drowned bell of Saint Maudlin lies under the weir at Quillan." }
        );
        writer.Open("/sift");
        writer.Part("Worth another look").Text.ShouldContain("The drowned bell of Saint Maudlin");
        writer.Press("bring back");
        writer.Sees("2\nwaiting");
    }

    [Fact]
    public void Words_that_keep_coming_up_and_topics_that_go_together_lead_to_their_slips()
    {
        foreach (var book in (string[])["Accounts", "Register", "Ledger"])
            writer.Send(
                "/api/sources",
                new
                {
                    title = book,
                    summary = "The bread column stands beside the toll.",
                    topics = new[] { "tolls", "bread" },
                }
            );
        writer.Catch("Only tolls #tolls", "Only ice #ice", "Ice again #ice", "Salt #salt");
        writer.Open("/topics?as=words").Press("bread column");
        writer.Sees("3 entries");
        writer.Open("/topics?as=together").Press("3 shared");
        writer.Sees("3 entries");
    }
}
