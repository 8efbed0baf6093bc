using System.Text.Json.Nodes;
using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>What is written stays, what is pressed happens: walked by real keys and a real clipboard.</summary>
public sealed class TrustTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public TrustTests()
    {
        writer = new Writer(app).Open("/bench/4");
        writer.Part("Section 2, The bread column");
    }

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private JsonNode Draft => JsonNode.Parse(writer.Server("/api/pieces/4/draft"))!;
    private string Text => Draft["text"]!.GetValue<string>();

    /// <summary>Everything that hangs on the sections.</summary>
    private string Sections =>
        string.Join('\n', Draft["sections"]!.AsArray().Select(s => $"{s!["number"]} {s["title"]} {s["aim"]} {s["beat"]} {s["material"]}"));

    private void Chord(string key) => writer.Chord(Keys.Control, key);

    private void UntilText(Func<string, bool> isSo, string what) => writer.Until(() => isSo(Text), what);

    [Fact]
    public void What_is_written_has_what_hangs_on_it_read_anew_and_not_all_of_the_papers()
    {
        writer.Press("Go to section 6 in the draft");
        Thread.Sleep(1_000);
        writer.Driver.ExecuteScript("performance.clearResourceTimings()");
        writer.Keys("Look down.");
        long Asked(string path) =>
            (long)
                writer.Driver.ExecuteScript(
                    "return performance.getEntriesByType('resource').filter((e) => new URL(e.name).pathname === arguments[0]).length",
                    path
                )!;
        writer.Until(() => Asked("/api/pieces/4/marks") > 0 && Asked("/api/pieces/4/material") > 0, "what hangs on the draft");
        Asked("/api/formats").ShouldBe(0);
        Asked("/api/own-keys").ShouldBe(0);
        Text.ShouldContain("Look down.");
    }

    [Fact]
    public void A_writing_hour_goes_back_and_forward_over_draft_and_outline_and_nothing_is_lost()
    {
        var (first, sections) = (Text, Sections);
        // The first key of all leads nowhere, not to an empty draft.
        writer.Draft.Click();
        Chord("z");
        writer.Sees("Nothing further back");
        Text.ShouldBe(first);

        writer.Press("Go to section 6 in the draft");
        writer.Keys("Look down.");
        UntilText(
            t => t.EndsWith("Look down.", StringComparison.Ordinal) || t.Contains("Look down.", StringComparison.Ordinal),
            "the first step"
        );
        // Catching in between, and back at the very cursor.
        new OpenQA.Selenium.Interactions.Actions(writer.Driver)
            .KeyDown(Keys.Control)
            .KeyDown(Keys.Shift)
            .SendKeys(" ")
            .KeyUp(Keys.Shift)
            .KeyUp(Keys.Control)
            .Perform();
        writer.Field("lay it beside P 4").Click();
        writer.Driver.ExecuteScript("document.getElementById('strip').focus()");
        writer.Keys("A rope for the bell #ropes", Keys.Enter);
        writer.Sees("Slip 91 caught.");
        writer.Until(
            () => writer.Server("/api/pieces/4/material").Contains("A rope for the bell", StringComparison.Ordinal),
            "the slip beside the piece"
        );
        writer.Press("Go to section 6 in the draft");
        writer.Keys(Keys.End);
        writer.Keys(" And up.");
        UntilText(t => t.Contains("Look down. And up.", StringComparison.Ordinal), "the second step, at the cursor");

        writer.Field("Title of section 2").SendKeys(Keys.Alt + Keys.ArrowUp);
        UntilText(t => t.StartsWith("## The bread column", StringComparison.Ordinal), "the section moved");
        writer.IsAt("/bench/4");

        // Back over the outline and the draft, in the order in which it happened; the caught slip is a step too.
        writer.Draft.Click();
        Chord("z");
        UntilText(t => t.StartsWith("## At the stage", StringComparison.Ordinal), "the move taken back");
        Chord("z");
        UntilText(
            t => t.Contains("Look down.", StringComparison.Ordinal) && !t.Contains("And up.", StringComparison.Ordinal),
            "the second step taken back"
        );
        Chord("z");
        writer.Sees("Took back: caught slip 91");
        Chord("z");
        UntilText(t => t == first, "the text as it was");
        Sections.ShouldBe(sections);
        for (var i = 0; i < 4; i++)
            Chord("y");
        UntilText(
            t =>
                t.StartsWith("## The bread column", StringComparison.Ordinal) && t.Contains("Look down. And up.", StringComparison.Ordinal),
            "all of it again"
        );

        // The same walk after a reload, from its place in the page.
        writer.Open("/bench/4/kept");
        writer.Part("History").Text.ShouldContain("moved a section of P 4");
        writer.Part("History").Text.ShouldNotContain("again");
        writer.Press("Step back");
        UntilText(t => t.StartsWith("## At the stage", StringComparison.Ordinal), "a step back from the history");
    }

    [Fact]
    public void A_heading_cut_retyped_or_undone_is_the_section_it_was()
    {
        var sections = Sections;
        var titles = Draft["sections"]!.AsArray().Select(s => s!["title"]!.GetValue<string>()).ToList();
        // Cut for a while and pasted somewhere else.
        writer.Draft.Click();
        Chord(Keys.Home);
        writer.Chord(Keys.Shift, Keys.End);
        Chord("x");
        writer.Until(() => Draft["gone"]!.AsArray().Count == 1, "the heading to be gone, and kept");
        writer.Open("/bench/4/kept");
        writer.Part("Sections that are gone").Text.ShouldContain(titles[0]);
        writer.Open("/bench/4");
        writer.Part("Section 1, The bread column");
        writer.Draft.Click();
        Chord(Keys.Home);
        Chord("v");
        writer.Until(() => Sections == sections, "the section with all that hung on it");

        // Deleted, and typed anew letter by letter with a rest between.
        writer.Draft.Click();
        Chord(Keys.Home);
        writer.Chord(Keys.Shift, Keys.End);
        writer.Keys(Keys.Delete);
        writer.Until(() => Draft["gone"]!.AsArray().Count == 1, "the heading to be gone again");
        writer.Keys("## At");
        writer.Until(() => Draft["sections"]!.AsArray()[0]!["title"]!.GetValue<string>() == "At", "a first rest");
        writer.Keys(" the stage, paying nothing");
        writer.Until(() => Sections == sections, "the section as it was");

        // Another title over the old one: it is the section still, also under another hand's eyes.
        writer.Chord(Keys.Shift, Keys.Home);
        writer.Keys("## Where it cost nothing");
        writer.Until(
            () => Sections.StartsWith(sections.Split(' ')[0] + " Where it cost nothing 250 opening 3", StringComparison.Ordinal),
            "the same section under another title"
        );
    }

    [Fact]
    public void Two_tabs_that_take_turns_never_clash_and_at_once_they_merge()
    {
        writer.Press("Go to section 6 in the draft");
        writer.Keys("From here.");
        UntilText(t => t.Contains("From here.", StringComparison.Ordinal), "the first tab's words");
        var here = writer.Driver.CurrentWindowHandle;
        writer.Driver.SwitchTo().NewWindow(WindowType.Tab);
        writer.View(1280, 800);
        writer.Open("/bench/4");
        writer.Press("Go to section 6 in the draft");
        writer.Keys(Keys.End);
        writer.Keys(" From there.");
        UntilText(t => t.Contains("From here. From there.", StringComparison.Ordinal), "the second tab's words");
        var there = writer.Driver.CurrentWindowHandle;
        writer.Driver.SwitchTo().Window(here);
        writer.Until(() => writer.Draft.Text.Contains("From here. From there.", StringComparison.Ordinal), "the first tab to see them");
        writer.Keys(Keys.End);
        writer.Keys(" Again here.");
        UntilText(t => t.Contains("From there. Again here.", StringComparison.Ordinal), "words after words");

        // One walk: the other tab takes back what this one wrote.
        writer.Driver.SwitchTo().Window(there);
        writer.Until(() => writer.Draft.Text.Contains("Again here.", StringComparison.Ordinal), "the second tab to see those too");
        Chord("z");
        UntilText(t => !t.Contains("Again here.", StringComparison.Ordinal), "the step of the first tab taken back in the second");

        // Someone else saves while this one is typing, elsewhere in the text: both are in.
        var now = Draft;
        writer.Keys(" Mine");
        Put(now["text"]!.GetValue<string>().Replace("If you had come", "Theirs: If you had come", StringComparison.Ordinal), now);
        writer.Keys(" too.");
        UntilText(
            t => t.Contains("Theirs: If you had come", StringComparison.Ordinal) && t.Contains("Mine too.", StringComparison.Ordinal),
            "both changes in one text"
        );
        writer.Driver.FindElements(By.CssSelector("[role=dialog]")).ShouldBeEmpty();

        // In the same line: the words that differ are shown, and nothing is doubled.
        writer.Sees("Both changes are in the text.");
        writer.Sees("kept ");
        now = Draft;
        writer.Keys(" meadow");
        Put(now["text"]!.GetValue<string>().Replace("Mine too.", "Mine too. way", StringComparison.Ordinal), now);
        writer.Keys(" end");
        writer.Sees("This text was changed in two places");
        writer.Part("Place 1").FindElement(By.TagName("ins")).Text.ShouldContain("meadow");
        writer.Part("Place 1").FindElement(By.TagName("del")).Text.ShouldContain("way");
        writer.Press("All as saved elsewhere");
        writer.Press("Keep it so");
        UntilText(
            t => t.Contains("Mine too. way", StringComparison.Ordinal) && !t.Contains("meadow", StringComparison.Ordinal),
            "what was chosen"
        );
        Text.Split("Theirs: If you had come").Length.ShouldBe(2);
    }

    private void Put(string text, JsonNode based)
    {
        using var client = new HttpClient();
        using var body = new StringContent(
            new JsonObject { ["text"] = text, ["version"] = based["version"]!.GetValue<int>() }.ToJsonString(),
            System.Text.Encoding.UTF8,
            "application/json"
        );
        client.PutAsync(new Uri(app.Url + "/api/pieces/4/draft"), body).GetAwaiter().GetResult().EnsureSuccessStatusCode();
    }

    [Fact]
    [Trait(App.Server, App.IsKilled)]
    public void The_last_letters_before_a_reload_or_a_killed_server_are_there()
    {
        for (var round = 0; round < 3; round++)
        {
            writer.Press("Go to section 6 in the draft");
            writer.Keys(Keys.End);
            writer.Keys($" round{round}end");
            writer.Driver.Navigate().Refresh();
            writer.Part("Section 2, The bread column");
            UntilText(t => t.Contains($"round{round}end", StringComparison.Ordinal), "what was typed just before the reload");
        }
        writer.Press("Go to section 6 in the draft");
        app.Stop();
        writer.Keys("while it was away ");
        writer.Sees("not on the server yet");
        app.StartAgain();
        UntilText(t => t.Contains("while it was away", StringComparison.Ordinal), "what was typed without a server");
    }

    [Fact]
    public void A_slip_goes_where_it_is_placed_and_what_is_pasted_is_markdown()
    {
        var first = Text;
        var placed = JsonNode.Parse(writer.Server("/api/pieces/4/material"))!["items"]!
            .AsArray()
            .First(i => i!["section"] is not null && i["slip"] is not null && !i["referred"]!.GetValue<bool>())!;
        var number = placed["slip"]!["number"]!.GetValue<int>();
        writer.Press("placed");
        writer.Press($"What to do with slip {number}");
        writer.Press("Insert as text");
        writer.Sees($"Slip {number} stands in");
        Text.ShouldStartWith("## At the stage, paying nothing\n");
        JsonNode.Parse(writer.Server("/api/pieces/4/material"))!["items"]!
            .AsArray()
            .First(i => i!["slip"]?["number"]?.GetValue<int>() == number)!["section"]!
            .GetValue<int>()
            .ShouldBe(placed["section"]!.GetValue<int>());
        writer.Draft.Click();
        Chord("z");
        UntilText(t => t == first, "the insertion taken back");

        writer.Driver.ExecuteCdpCommand(
            "Browser.grantPermissions",
            new() { ["permissions"] = (string[])["clipboardReadWrite", "clipboardSanitizedWrite"] }
        );
        writer.Driver.ExecuteAsyncScript(
            """
            const done = arguments[0];
            const html = '<h1>Tolls</h1><p>A <b>bold</b> and <span style="font-style:italic">slanted</span> '
              + '<a href="https://tavle.example/a">link</a>.</p><ul><li>one<ul><li>two</li></ul></li></ul>'
              + '<table><tr><th>k</th><th>v</th></tr><tr><td>1</td><td>2</td></tr></table><script>steal()</script>';
            const blob = (words, type) => new Blob([words], { type });
            const item = { 'text/html': blob(html, 'text/html'), 'text/plain': blob('plain', 'text/plain') };
            navigator.clipboard.write([new ClipboardItem(item)]).then(done, done);
            """
        );
        writer.Press("Go to section 6 in the draft");
        Chord("v");
        UntilText(
            t => t.Contains("## Tolls\n\nA **bold** and *slanted* [link](https://tavle.example/a).\n\n- one\n", StringComparison.Ordinal),
            "Markdown"
        );
        Text.ShouldContain("| k | v |\n| --- | --- |\n| 1 | 2 |");
        Text.ShouldNotContain("steal");
    }

    [Fact]
    public void Going_to_an_empty_section_leaves_the_lines_around_it_and_all_of_the_text_counts_as_all_of_it()
    {
        writer.Press("Go to section 5 in the draft");
        writer.Keys("Minutes of a ploughman.");
        UntilText(
            t => t.Contains("## What it would cost now\n\nMinutes of a ploughman.\n\n## The far bank", StringComparison.Ordinal),
            "the words with an empty line on either side"
        );
        writer.Until(() => Footer.Contains("section 4 of 300 words", StringComparison.Ordinal), "the counts after the save");
        var whole = System.Text.RegularExpressions.Regex.Match(Footer, @"text ([\d,]+) words").Groups[1].Value;
        Chord("a");
        writer.Until(() => Footer.Contains($"selection {whole} words", StringComparison.Ordinal), "as many words in all as in the text");

        // Enter on a title goes there, and Alt with an arrow is never the browser's.
        writer.Field("Title of section 2").SendKeys(Keys.Enter);
        writer.Until(() => writer.Part("Section 2, The bread column").GetDomAttribute("aria-current") == "true", "the section");
        writer.Field("Title of section 1").SendKeys(Keys.Alt + Keys.ArrowLeft);
        writer.IsAt("/bench/4");
        writer.Part("Section 1, At the stage, paying nothing");
    }

    private string Footer => writer.Part("Draft").FindElement(By.TagName("footer")).Text.ReplaceLineEndings(" ");

    [Fact]
    public void A_move_and_an_idea_written_in_a_draft_are_a_move_and_a_slip()
    {
        writer.Press("Go to section 6 in the draft");
        writer.Keys("- [ ] ask Pell about the bell tomorrow", Keys.Enter);
        writer.Keys(Keys.Enter);
        writer.Keys(Keys.Backspace);
        writer.Keys(Keys.Enter);
        writer.Keys("Bells were a timetable #bells");
        writer.Field("Title of section 1").Click();
        writer.Sees("Slip 91 waits in Sift. A move was written down.");
        writer.Server("/api/moves").ShouldContain("ask Pell about the bell");
        // Ticked at the desk, it is ticked in the text.
        var move = JsonNode
            .Parse(writer.Server("/api/moves"))!
            .AsArray()
            .First(m => m!["text"]!.GetValue<string>().StartsWith("ask Pell about the bell", StringComparison.Ordinal))!;
        move["piece"]!.GetValue<int>().ShouldBe(4);
        writer.Open("/desk");
        var tick = By.XPath($"//input[contains(@aria-label,'{move["text"]}')][@type='checkbox']");
        writer.Until(() => writer.Driver.FindElements(tick).Count > 0, "the move at the desk");
        writer.Finds(tick).Click();
        UntilText(t => t.Contains("- [x] ask Pell about the bell", StringComparison.Ordinal), "the tick in the draft");
    }

    [Fact]
    public void Nothing_goes_out_unseen_that_would_leave_a_hole()
    {
        writer.Press("Go to section 6 in the draft");
        writer.Keys("See [[P 99]] and [[source 1]].");
        UntilText(t => t.Contains("See [[P 99]]", StringComparison.Ordinal), "the saved text");
        writer.Press("Out", writer.Finds(By.XPath("//*[@role='radiogroup'][@aria-label='Stage']")));
        writer.Sees("[[P 99]] leads to nothing, and leaves a hole where it stands.");
        writer.Sees("“Account book of the Ostrey ferry");
        writer.Press("Back to the draft");
        writer.Server("/api/pieces/4").ShouldContain("\"outOn\":null");
        writer.Press("Out", writer.Finds(By.XPath("//*[@role='radiogroup'][@aria-label='Stage']")));
        writer.Press("Go on as it is");
        writer.Press("It is out");
        writer.Sees("is out.");
    }

    [Fact]
    [Trait(App.Server, App.IsKilled)]
    public void Every_kind_of_field_keeps_what_is_typed_through_a_reload_a_killed_server_and_an_escape()
    {
        (string Path, Action Open, string Field, Func<string> Kept, bool IsMade)[] fields =
        [
            ("/library/source/1", () => writer.Press("Change comments"), "Comments", () => writer.Server("/api/sources/1"), false),
            ("/library/source/1", () => writer.Press("Change summary"), "Summary", () => writer.Server("/api/sources/1"), false),
            ("/library/slip/29", () => writer.Press("Change text"), "Text", () => writer.Server("/api/slips/29"), false),
            ("/bench/4", () => writer.Part("Section 2, The bread column"), "Title of section 3", () => Text, false),
            ("/bench/4", () => writer.Part("Section 2, The bread column"), "New section", () => "", true),
            ("/library/source/1", () => { }, "New passage", () => "", true),
            ("/desk", () => { }, "Purpose", () => writer.Server("/api/purpose"), false),
            ("/desk", () => { }, "Loose writing", () => writer.Server("/api/desk"), false),
        ];
        var round = 0;
        foreach (var (path, open, label, kept, isMade) in fields)
        {
            var word = $"kept{++round}word";
            writer.Open(path);
            open();
            writer.Field(label).SendKeys(Keys.End + $" {word}");
            writer.Driver.Navigate().Refresh();
            writer.Until(() => writer.Driver.FindElements(By.CssSelector("nav[aria-label=Screens]")).Count > 0, "the page again");
            if (isMade)
                writer.Until(() => writer.Value(label).Contains(word, StringComparison.Ordinal), $"{label} to hold what was begun");
            else
                writer.Until(() => kept().Contains(word, StringComparison.Ordinal), $"{label} to be on the server");
        }
        // A server that is killed meanwhile.
        writer.Open("/library/source/1");
        writer.Press("Change comments");
        app.Stop();
        writer.Field("Comments").SendKeys(" whileitwasaway");
        writer.Sees("not on the server yet");
        app.StartAgain();
        writer.Until(
            () => writer.Server("/api/sources/1").Contains("whileitwasaway", StringComparison.Ordinal),
            "the comment on the server"
        );
        // Escape puts back what was there, and can be undone.
        writer.Open("/library/source/1");
        writer.Press("Change summary");
        writer.Field("Summary").SendKeys(" escaped");
        writer.Keys(Keys.Escape);
        writer.Sees("Put back as it was.");
        writer.UndoOf("Put back as it was.");
        writer.Until(() => writer.Server("/api/sources/1").Contains("escaped", StringComparison.Ordinal), "what Escape took away");
    }

    [Fact]
    public void The_first_click_after_typing_a_query_is_taken()
    {
        writer.Open("/sift/flow");
        writer.Press("New rule");
        writer.Finds(By.XPath("//form//input[@maxlength='120']")).SendKeys("Long ones");
        writer.Field("Which slips").SendKeys("topic:tolls pull>=4 ");
        writer.Button("Show what it would have done").Click();
        writer.Sees("would have met it");
        writer.Open("/bench/4");
        writer.Press("find more");
        writer.Field("Words").SendKeys("topic:tolls ");
        var entry = "//div[@role='dialog']//button[not(@disabled)][.//span[contains(@class,'written')]]";
        writer.Until(() => writer.Driver.FindElements(By.XPath(entry)).Count > 0, "something to add");
        var before = JsonNode.Parse(writer.Server("/api/pieces/4/material"))!["items"]!.AsArray().Count;
        // The list may just have been answered anew; a click that lands is one click.
        writer.Until(
            () =>
            {
                writer.Driver.FindElements(By.XPath(entry))[^1].Click();
                return true;
            },
            "an entry to click"
        );
        writer.Until(
            () => JsonNode.Parse(writer.Server("/api/pieces/4/material"))!["items"]!.AsArray().Count == before + 1,
            "the click to be taken"
        );
    }
}
