using OpenQA.Selenium;
using SeleniumKeys = OpenQA.Selenium.Keys;

namespace Nachlass.Browser.Tests;

/// <summary>What is settled before a word is written, and how it comes over into the outline.</summary>
public sealed class BeforeWritingTests : IDisposable
{
    private readonly App app = App.Empty();
    private readonly Writer writer;

    public BeforeWritingTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private void Start(string title) => writer.Send("/api/pieces", new { title, format = "essay" });

    [Fact]
    public void Four_titles_are_compared_and_one_is_taken_and_the_others_stay()
    {
        Start("A bell on the far bank");
        Start("The far bank");
        writer.Open("/bench/2/before");
        foreach (
            var title in (string[])
                ["What it cost to cross when all the money lay under water", "Bell and bank, far and near", "Four loaves"]
        )
        {
            writer.Fill(writer.Field("Another title"), title);
            writer.Press("Lay beside");
            writer.Sees("Title noted.");
            writer.Until(
                () => writer.Part("Titles").Text.Contains("Another", StringComparison.Ordinal) || writer.Value("Another title") == "",
                "room"
            );
        }
        // Side by side: where each is cut, what earlier ones said too, and what is too like them.
        var titles = writer.Part("Titles");
        writer.Until(() => titles.FindElements(By.TagName("article")).Count == 4, "four titles");
        titles.FindElements(By.TagName("s")).Select(s => s.Text).ShouldContain(" lay under water".Trim(), "where the mail cuts it");
        writer.Part("Title: Bell and bank, far and near").Text.ShouldContain("much like A bell on the far bank");
        writer.Part("Title: Four loaves").Text.ShouldContain("all of it, 11 characters");
        var note = writer.Field("Note on “Four loaves”");
        note.SendKeys("says nothing of the river" + SeleniumKeys.Enter);
        writer.Sees("Note kept.");
        writer.Press("call it so", writer.Part("Title: Four loaves"));
        writer.Sees("It is called “Four loaves” now.");
        writer.Until(() => writer.Value("Title") == "Four loaves", "the title above");
        writer.Part("Title: The far bank").Text.ShouldContain("call it so");
        writer.UndoOf("It is called “Four loaves” now.");
        writer.Until(() => writer.Value("Title") == "The far bank", "the title to be back");
    }

    [Fact]
    public void What_is_settled_stays_typed_and_the_call_is_found_in_the_draft()
    {
        Start("The far bank");
        writer.Open("/bench/1/before");
        writer.Field("For whom").SendKeys("people who think crossings are free");
        writer.Driver.Navigate().Refresh();
        writer.Value("For whom").ShouldBe("people who think crossings are free");
        writer.Field("Call to action").SendKeys("Look up what your own river cost." + SeleniumKeys.Control + SeleniumKeys.Enter);
        writer.Sees("no sentence of the draft holds it yet");
        writer.Field("This piece serves it").Click();
        writer.Field("In what way it serves the purpose").SendKeys("it makes one stop" + SeleniumKeys.Enter);
        writer.Press("Outline and draft", writer.Part("Parts of the piece"));
        writer.Draft.Click();
        writer.Draft.SendKeys(SeleniumKeys.Control + SeleniumKeys.End);
        writer.Draft.SendKeys("So look up what your own river cost.");
        writer.Until(() => writer.Server("/api/pieces/1/brief").Contains("So look up", StringComparison.Ordinal), "the draft to hold it");
        writer.Press("Before writing", writer.Part("Parts of the piece"));
        writer.Sees("the draft holds it: So look up what your own river cost.");
        writer.Server("/api/pieces/1/brief").ShouldContain("it makes one stop");
    }

    [Fact]
    public void A_heap_is_emptied_into_the_outline_by_key_and_by_drag()
    {
        Start("The far bank");
        writer.Open("/bench/1/before");
        var heap = writer.Field("Heap of raw words");
        heap.SendKeys("four loaves\nno coin\nthe fog bell");
        writer.Until(() => writer.Server("/api/pieces/1/brief").Contains("fog bell", StringComparison.Ordinal), "the heap to be kept");
        writer.Server("/api/pieces/1/draft").ShouldContain("\"words\":0");
        // The line under the cursor, by key, into the section that is chosen.
        writer.Driver.ExecuteScript("arguments[0].setSelectionRange(14, 14)", heap);
        writer.Finds(By.CssSelector("[aria-label^='Section that lines'] option:nth-child(2)")).Click();
        writer.Driver.ExecuteScript("arguments[0].focus()", heap);
        writer.Chord(SeleniumKeys.Control, SeleniumKeys.Enter);
        writer.Sees("It stands in “What is at stake” now, and is gone from the heap.");
        writer.Until(() => writer.Value("Heap of raw words") == "four loaves\nthe fog bell", "the line to be gone");
        // All that is left, dragged onto another.
        writer.Driver.ExecuteScript(
            """
            const [heap, into] = arguments;
            heap.focus();
            heap.setSelectionRange(0, heap.value.length);
            const data = new DataTransfer();
            data.setData('text/plain', heap.value);
            into.dispatchEvent(new DragEvent('dragover', { bubbles: true, cancelable: true, dataTransfer: data }));
            into.dispatchEvent(new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer: data }));
            """,
            writer.Field("Heap of raw words"),
            writer.Finds(By.CssSelector("[data-into]:nth-child(3)"))
        );
        writer.Sees("It stands in “What changes it” now");
        writer.Until(() => writer.Value("Heap of raw words") == "", "the heap to be empty");
        writer.Press("Outline and draft", writer.Part("Parts of the piece"));
        writer.Until(() => writer.Draft.Text.Contains("fog bell", StringComparison.Ordinal), "the words in the draft");
        writer.Server("/api/pieces/1/draft").ShouldContain("## What is at stake\\n\\nno coin");
        // Back, step by step.
        writer.Press("Step back");
        writer.Press("Before writing", writer.Part("Parts of the piece"));
        writer.Until(() => writer.Value("Heap of raw words") == "four loaves\nthe fog bell", "the lines to be back on the heap");
    }

    [Fact]
    public void Two_tabs_that_write_on_one_heap_keep_what_both_wrote()
    {
        Start("The far bank");
        writer.Open("/bench/1/before");
        writer.Field("Heap of raw words").SendKeys("one\ntwo\nthree");
        writer.Until(() => writer.Server("/api/pieces/1/brief").Contains("three", StringComparison.Ordinal), "the heap to be kept");
        var first = writer.Driver.CurrentWindowHandle;
        writer.Driver.SwitchTo().NewWindow(WindowType.Tab);
        writer.Open("/bench/1/before");
        writer.Field("Heap of raw words").SendKeys(SeleniumKeys.Control + SeleniumKeys.Home);
        writer.Keys("zero, ");
        var second = writer.Driver.CurrentWindowHandle;
        writer.Driver.SwitchTo().Window(first);
        writer.Field("Heap of raw words").SendKeys(" and four");
        writer.Until(
            () =>
                writer.Server("/api/pieces/1/brief") is var kept
                && kept.Contains("zero, one", StringComparison.Ordinal)
                && kept.Contains("three and four", StringComparison.Ordinal),
            "what both wrote"
        );
        writer.Until(() => writer.Value("Heap of raw words").StartsWith("zero, one", StringComparison.Ordinal), "it here");
        writer.Driver.SwitchTo().Window(second);
        writer.Until(() => writer.Value("Heap of raw words").EndsWith("three and four", StringComparison.Ordinal), "it there");
    }

    [Fact]
    public void A_question_is_answered_by_a_passage_and_shows_with_what()
    {
        Start("The far bank");
        writer.Catch("“Only the miller paid in coin, and grumbled.” #tolls");
        writer.Open("/bench/1/before");
        writer.Fill(writer.Field("Something to find out or to get"), "Who of them paid in coin?");
        writer.Press("To find out", writer.Part("To find out"));
        writer.Sees("It is a question now.");
        writer.Fill(writer.Field("Something to find out or to get"), "the second volume");
        writer.Press("To get");
        writer.Sees("It is a move now.");
        writer.Until(() => writer.Part("To find out").Text.Contains("2 OPEN", StringComparison.OrdinalIgnoreCase), "two open");
        writer.Press("answer it");
        writer.Until(
            () => writer.Part("To find out").Text.Contains("Only the miller", StringComparison.Ordinal),
            "a passage that reads like it"
        );
        writer.Finds(By.XPath("//button[contains(., 'Only the miller')]")).Click();
        writer.Sees("Answered with slip 1.");
        writer.Field("the second volume").Click();
        writer.Until(() => writer.Part("To find out").Text.Contains("all of it found", StringComparison.OrdinalIgnoreCase), "all found");
        writer.Server("/api/pieces/1/material").ShouldContain("Only the miller");
    }
}
