using System.Text.Json;
using OpenQA.Selenium;
using SeleniumKeys = OpenQA.Selenium.Keys;

namespace Nachlass.Browser.Tests;

/// <summary>The draft as it is written: it reads as it will read, and it is quiet round it.</summary>
public sealed class WritingTests : IDisposable
{
    private const string Rich = """
        ## The bell

        Some *slanted* and some **heavy words** and [a page](http://127.0.0.1:9/page) too.

        > No man will pay to come home.

        - a rope
        - an oar

        | shot | one sees |
        | ---- | -------- |
        | 1    | the bell |

        The first sentence is here. The second one follows it. The third ends it.

        ## The rope

        Another section.

        """;

    private readonly App app = App.Empty();
    private readonly Writer writer;

    public WritingTests()
    {
        writer = new Writer(app);
        writer.Send("/api/pieces", new { title = "The far bank", format = "essay" });
        var version = JsonDocument.Parse(writer.Server("/api/pieces/1/draft")).RootElement.GetProperty("version").GetInt32();
        using var client = new HttpClient { BaseAddress = new Uri(app.Url) };
        using var body = new StringContent(
            JsonSerializer.Serialize(new { text = Rich, version }),
            System.Text.Encoding.UTF8,
            "application/json"
        );
        client.PutAsync(new Uri("/api/pieces/1/draft", UriKind.Relative), body).GetAwaiter().GetResult().EnsureSuccessStatusCode();
        writer.Open("/bench/1");
        writer.Sees("Another section.");
    }

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private string Text => JsonDocument.Parse(writer.Server("/api/pieces/1/draft")).RootElement.GetProperty("text").GetString()!;

    private IWebElement Line(string words) =>
        writer.Finds(By.XPath($"//*[contains(concat(' ', @class, ' '), ' cm-line ')][contains(., '{words}')]"));

    private int Count(string css) => writer.Driver.FindElements(By.CssSelector(css)).Count;

    [Fact]
    public void The_draft_reads_as_it_will_read_and_its_marks_come_back_under_the_cursor()
    {
        var shown = writer.Draft.Text;
        foreach (var mark in (string[])["**", "*slanted", "](", "http", "> No", "- a rope", "| shot", "----"])
            shown.ShouldNotContain(mark);
        shown.ShouldContain("• a rope");
        writer.Finds(By.CssSelector(".cm-table th")).Text.ShouldBe("shot");
        Count(".cm-quotation").ShouldBe(1);

        Line("heavy words").FindElement(By.XPath(".//*[contains(text(), 'heavy')]")).Click();
        writer.Until(() => Line("heavy words").Text.Contains("**heavy words**", StringComparison.Ordinal), "the marks under the cursor");
        Line("heavy words").Text.ShouldNotContain("*slanted*");
        Line("heavy words").Text.ShouldNotContain("](");
        Line("a rope").Click();
        writer.Until(() => Line("a rope").Text.StartsWith("- a rope", StringComparison.Ordinal), "the mark of the item");
        writer.Keys(SeleniumKeys.End + SeleniumKeys.Enter + "a keel");
        writer.Until(() => Text.Contains("- a rope\n- a keel\n- an oar", StringComparison.Ordinal), "the list to go on by itself");

        // A table is bars again when one goes into it, and a table when one leaves it.
        writer.Finds(By.CssSelector(".cm-table td")).Click();
        writer.Until(() => Count(".cm-table") == 0, "the bars of the table");
        Line("Another section.").Click();
        writer.Until(() => Count(".cm-table") == 1, "the table again");
        Text.ShouldBe(Rich.Replace("- a rope\n", "- a rope\n- a keel\n", StringComparison.Ordinal));
        writer.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void It_gets_quiet_by_degrees_and_stays_so_until_it_is_left()
    {
        Line("second one").Click();
        Count(".cm-away").ShouldBe(0);
        writer.Draft.SendKeys(SeleniumKeys.Alt + "a");
        writer.Until(() => Line("Another section.").GetAttribute("class")!.Contains("cm-away"), "the other section to recede");
        Line("heavy words").GetAttribute("class")!.ShouldNotContain("cm-away");
        writer.Draft.SendKeys(SeleniumKeys.Alt + "a");
        writer.Until(() => Line("heavy words").GetAttribute("class")!.Contains("cm-away"), "the other paragraphs to recede");
        writer.Draft.SendKeys(SeleniumKeys.Alt + "a");
        writer.Until(() => Line("second one").FindElements(By.CssSelector(".cm-away")).Count == 2, "the other sentences to recede");
        writer.Draft.SendKeys(SeleniumKeys.Alt + "l");
        writer.Draft.SendKeys(SeleniumKeys.Alt + "s");
        writer.Until(() => !writer.Finds(By.CssSelector("nav[aria-label=Screens]")).Displayed, "nothing but the sheet");
        writer.Finds(By.CssSelector("[aria-label='New slip']")).Displayed.ShouldBeFalse();

        // The line one writes in stays at one height.
        long Height() => (long)writer.Driver.ExecuteScript("return Math.round(getSelection().getRangeAt(0).getBoundingClientRect().top)")!;
        writer.Keys(SeleniumKeys.End);
        writer.Keys(SeleniumKeys.Enter + SeleniumKeys.Enter + "quietly");
        writer.Until(() => Text.Contains("quietly", StringComparison.Ordinal), "the words");
        var held = Height();
        writer.Keys(SeleniumKeys.Enter + SeleniumKeys.Enter + "and on");
        writer.Until(() => Text.Contains("and on", StringComparison.Ordinal), "more words");
        Height().ShouldBeInRange(held - 3, held + 3);
        Axe.Found(writer, "nothing but the sheet").ShouldBeEmpty();

        writer.Driver.Navigate().Refresh();
        writer.Sees("leave the sheet");
        writer.Finds(By.CssSelector("nav[aria-label=Screens]")).Displayed.ShouldBeFalse();
        Count(".cm-away").ShouldBeGreaterThan(0);
        writer.Keys(SeleniumKeys.Escape);
        writer.Until(() => writer.Finds(By.CssSelector("nav[aria-label=Screens]")).Displayed, "everything round it");
        writer.Press("quiet");
        writer.Press("Attend to the whole text");
        writer.Until(() => Count(".cm-away") == 0, "the whole text");
        writer.Until(() => writer.Driver.SwitchTo().ActiveElement().GetAttribute("aria-label") == "Draft", "the cursor in the draft again");
        writer.Complaints().ShouldBeEmpty();
    }
}
