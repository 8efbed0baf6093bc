using OpenQA.Selenium;
using SeleniumKeys = OpenQA.Selenium.Keys;

namespace Nachlass.Browser.Tests;

/// <summary>The outline by key, tables, marks and series.</summary>
public sealed class OutlineTests : IDisposable
{
    private readonly App app = App.Empty();
    private readonly Writer writer;

    public OutlineTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private string Text =>
        System.Text.Json.JsonDocument.Parse(writer.Server("/api/pieces/1/draft")).RootElement.GetProperty("text").GetString()!;

    private void Start(string title = "The far bank", string format = "essay") => writer.Send("/api/pieces", new { title, format });

    private IWebElement Handle(int at)
    {
        writer.Part($"Section {at + 1}, ");
        return writer.Finds(By.CssSelector($"[data-section='{at}'] [data-handle]"));
    }

    [Fact]
    public void Several_sections_go_together_are_settled_split_joined_and_noted()
    {
        Start();
        writer.Open("/bench/1");
        // Two are chosen by key and go down together, as one step.
        Handle(1).SendKeys(SeleniumKeys.Shift + SeleniumKeys.ArrowDown);
        writer.Part("Chosen sections").Text.ShouldContain("2 sections");
        Handle(2).SendKeys(SeleniumKeys.Alt + SeleniumKeys.ArrowDown);
        writer.Until(
            () => Text.IndexOf("What shows it", StringComparison.Ordinal) < Text.IndexOf("What is at stake", StringComparison.Ordinal),
            "both to stand lower"
        );
        Text.IndexOf("What is at stake", StringComparison.Ordinal)
            .ShouldBeLessThan(Text.IndexOf("What changes it", StringComparison.Ordinal));
        writer.Press("settled", writer.Part("Chosen sections"));
        writer.Sees("2 sections settled.");
        writer.Until(() => writer.Driver.FindElements(By.CssSelector("[aria-label='settled']")).Count == 2, "both marks");
        writer.Press("Step back");
        writer.Press("Step back");
        writer.Until(
            () => Text.IndexOf("What shows it", StringComparison.Ordinal) > Text.IndexOf("What changes it", StringComparison.Ordinal),
            "both to stand as before"
        );
        writer.Press("Choose none");

        // Split at the cursor; the new heading is named at once.
        writer.Press("Go to section 1 in the draft");
        writer.Draft.SendKeys("first words");
        writer.Draft.SendKeys(SeleniumKeys.Enter + SeleniumKeys.Enter + "second words");
        writer.Draft.SendKeys(SeleniumKeys.Home);
        writer.Draft.SendKeys(SeleniumKeys.Alt + SeleniumKeys.Enter);
        writer.Sees("Split; the rest is a section of its own.");
        writer.Until(() => Text.Contains("first words\n\n## New section\n\nsecond words", StringComparison.Ordinal), "the split");
        writer.Finds(By.XPath("//*[@data-section='1']//button[@aria-label='Section 2']")).Click();
        writer.Press("A note on it");
        writer.Field("Note on section 2").SendKeys("from the other book");
        writer.Field("Note on section 2").SendKeys(SeleniumKeys.Control + SeleniumKeys.Enter);
        writer.Until(() => writer.Server("/api/pieces/1/outline").Contains("from the other book", StringComparison.Ordinal), "the note");
        Text.ShouldNotContain("from the other book");
        writer.Finds(By.XPath("//*[@data-section='1']//button[@aria-label='Section 2']")).Click();
        writer.Press("Join to the one before");
        writer.Until(() => Text.Contains("first words\n\nsecond words", StringComparison.Ordinal), "them to be one");
    }

    [Fact]
    public void Several_sections_are_dragged_and_carried_by_key_as_one()
    {
        Start();
        writer.Open("/bench/1");
        Handle(4);
        string[] Titles() => [.. Text.Split('\n').Where(line => line.StartsWith('#')).Select(line => line.TrimStart('#'))];
        var titles = Titles();
        string[] Order(params int[] places) => [.. places.Select(place => titles[place])];
        // Two that do not stand together: they land together, in their order.
        writer.Driver.ExecuteScript("arguments[0].focus()", Handle(4));
        new OpenQA.Selenium.Interactions.Actions(writer.Driver)
            .KeyDown(SeleniumKeys.Control)
            .Click(Handle(2))
            .Click(Handle(4))
            .KeyUp(SeleniumKeys.Control)
            .Perform();
        writer.Part("Chosen sections").Text.ShouldContain("2 sections");
        writer.Drag(Handle(4), Handle(0));
        writer.Sees("2 sections moved.");
        writer.Until(() => Titles().SequenceEqual(Order(2, 4, 0, 1, 3)), "both to stand first");
        // By key both go on to the end, and are put back by one step.
        writer.Driver.ExecuteScript("arguments[0].focus()", Handle(0));
        foreach (var key in (string[])[" ", SeleniumKeys.ArrowDown, SeleniumKeys.ArrowDown, SeleniumKeys.ArrowDown])
            writer.Keys(key);
        writer.Driver.FindElements(By.CssSelector("[data-landing]")).Count.ShouldBe(1);
        writer.Keys(SeleniumKeys.Enter);
        writer.Until(() => Titles().SequenceEqual(Order(0, 1, 3, 2, 4)), "both to stand last");
        writer.Press("Step back");
        writer.Until(() => Titles().SequenceEqual(Order(2, 4, 0, 1, 3)), "both to stand first again");
        // One that is not chosen goes alone.
        writer.Drag(Handle(2), writer.Field("New section"));
        writer.Until(() => Titles().SequenceEqual(Order(2, 4, 1, 3, 0)), "only it to go");
        writer.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void One_jumps_to_sections_and_marks_by_a_few_letters()
    {
        Start();
        writer.Open("/bench/1");
        writer.Press("Go to section 3 in the draft");
        writer.Draft.SendKeys("a place to come back to");
        writer.Draft.SendKeys(SeleniumKeys.Alt + "m");
        writer.Sees("Marked; it stands in the list");
        writer.Until(() => writer.Driver.FindElements(By.CssSelector(".cm-place")).Count == 1, "the sign of the mark");
        writer.Draft.SendKeys(" later");
        writer.Until(() => Text.Contains("a place to come back to later", StringComparison.Ordinal), "the text without a sign");
        writer.Draft.SendKeys(SeleniumKeys.Control + SeleniumKeys.Home);
        writer.Draft.SendKeys(SeleniumKeys.Alt + "g");
        writer.Field("Section or mark").SendKeys("remains" + SeleniumKeys.Enter);
        writer.Until(
            () => writer.Finds(By.CssSelector("[data-section][aria-current=true]")).GetAttribute("data-section") == "4",
            "the cursor in the last section"
        );
        writer.Keys(SeleniumKeys.Escape);
        writer.Draft.SendKeys(SeleniumKeys.Alt + "g");
        writer.Field("Section or mark").SendKeys("come back" + SeleniumKeys.Enter);
        writer.Until(
            () => writer.Finds(By.CssSelector("[data-section][aria-current=true]")).GetAttribute("data-section") == "2",
            "the cursor at the mark"
        );
    }

    [Fact]
    public void A_shot_list_is_typed_as_a_table_changed_and_pasted_into_and_stays_Markdown()
    {
        Start("The rope walk", "film");
        writer.Open("/bench/1");
        writer.Press("Go to section 1 in the draft");
        writer.Press("at the cursor");
        writer.Press("A table…");
        writer.Field("Name of column 1");
        foreach (var cell in (string[])["shot", "one sees", "seconds", "1", "the bell, wide", "4", "2", "hands | rope", "9"])
            writer.Driver.SwitchTo().ActiveElement().SendKeys(cell + SeleniumKeys.Tab);
        writer.Press("Into the text");
        const string table =
            "| shot | one sees       | seconds |\n| ---- | -------------- | ------- |\n| 1    | the bell, wide | 4       |\n"
            + "| 2    | hands \\| rope  | 9       |";
        writer.Until(() => Text.Contains(table, StringComparison.Ordinal), "the table in the draft");
        // Opened again at the cursor, with cells from a spreadsheet pasted in.
        writer.Until(() => writer.Driver.SwitchTo().ActiveElement().GetAttribute("aria-label") == "Draft", "the cursor in the draft");
        writer.Draft.SendKeys(SeleniumKeys.ArrowUp);
        writer.Press("at the cursor");
        writer.Press("A table…");
        writer.Value("Row 2, one sees").ShouldBe("hands | rope");
        writer.Press("another row");
        writer.Paste(writer.Field("Row 3, shot"), "3\tfeet on gravel\t5\n4\tthe keel\t7\n");
        writer.Until(() => writer.Value("Row 4, one sees") == "the keel", "the cells");
        writer.Driver.SwitchTo().ActiveElement().SendKeys(SeleniumKeys.Control + SeleniumKeys.Enter);
        writer.Until(() => Text.Contains("| 4    | the keel       | 7       |", StringComparison.Ordinal), "the longer table");
        writer.Press("Step back");
        writer.Until(
            () => !Text.Contains("keel", StringComparison.Ordinal) && Text.Contains("hands", StringComparison.Ordinal),
            "the table as before"
        );
        writer.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void A_series_has_its_pieces_in_order_and_names_the_next()
    {
        Start("The bell", "letter");
        Start("The rope", "letter");
        writer.Open("/bench");
        writer.Press("series");
        writer.Fill(writer.Field("Name of a new series"), "Crossings");
        writer.Press("Make it");
        writer.IsAt("/bench/series/1");
        foreach (var piece in (string[])["The bell", "The rope"])
        {
            writer.Finds(By.XPath($"//select[@aria-label='Take a piece into the series']/option[contains(., '{piece}')]")).Click();
            writer.Until(() => writer.Part("Pieces of the series").Text.Contains(piece, StringComparison.Ordinal), piece);
        }
        writer.Finds(By.CssSelector("[aria-label^='Move “Letter 2'][aria-label$='up']")).Click();
        writer.Until(
            () => writer.Part("Pieces of the series").FindElement(By.TagName("li")).Text.Contains("The rope", StringComparison.Ordinal),
            "the rope first"
        );
        writer.Finds(By.CssSelector("select[aria-label='Format of the next one'] option[value=letter]")).Click();
        writer.Sees("Letter 3:");
        writer.Fill(writer.Field("Title of number 3"), "The oar");
        writer.Press("Start it");
        writer.Sees("3 of 3 in Crossings");
        writer.Value("Title").ShouldBe("Letter 3: The oar");
    }
}
