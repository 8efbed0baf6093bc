using System.Text.Json;
using OpenQA.Selenium;
using SeleniumKeys = OpenQA.Selenium.Keys;

namespace Nachlass.Browser.Tests;

/// <summary>An hour over a draft: what a writer has at hand, and how it comes out.</summary>
public sealed class WritingHourTests : IDisposable
{
    private readonly App app = App.Empty();
    private readonly Writer writer;

    public WritingHourTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private void Start(string title, string format, string text)
    {
        writer.Send("/api/pieces", new { title, format });
        var number = JsonDocument
            .Parse(writer.Server("/api/pieces"))
            .RootElement.EnumerateArray()
            .Max(p => p.GetProperty("number").GetInt32());
        Write(number, text);
    }

    private void Write(int piece, string text)
    {
        var version = JsonDocument.Parse(writer.Server($"/api/pieces/{piece}/draft")).RootElement.GetProperty("version").GetInt32();
        using var client = new HttpClient { BaseAddress = new Uri(app.Url) };
        using var body = new StringContent(JsonSerializer.Serialize(new { text, version }), System.Text.Encoding.UTF8, "application/json");
        client.PutAsync(new Uri($"/api/pieces/{piece}/draft", UriKind.Relative), body).GetAwaiter().GetResult().EnsureSuccessStatusCode();
    }

    private string Text(int piece = 1) =>
        JsonDocument.Parse(writer.Server($"/api/pieces/{piece}/draft")).RootElement.GetProperty("text").GetString()!;

    private void Beside(string view) => writer.Select("What stands beside the text", view);

    private void Open(int piece, string words)
    {
        writer.Open($"/bench/{piece}");
        writer.Sees(words);
        writer.Draft.Click();
        writer.Chord(SeleniumKeys.Control, SeleniumKeys.Home);
    }

    private void Until(string words, int piece = 1) =>
        writer.Until(() => Text(piece).Contains(words, StringComparison.Ordinal), $"“{words}” in the draft, which is: {Text(piece)}");

    /// <summary>Takes keys to the end of the draft, whatever is in it.</summary>
    private void ToEnd() => writer.Chord(SeleniumKeys.Control, SeleniumKeys.End);

    private void PastePicture(string base64) =>
        writer.Driver.ExecuteScript(
            """
            const bytes = Uint8Array.from(atob(arguments[1]), (c) => c.charCodeAt(0));
            const data = new DataTransfer();
            data.items.add(new File([bytes], 'stage.png', { type: 'image/png' }));
            arguments[0].dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
            """,
            writer.Draft,
            base64
        );

    [Fact]
    public void An_hour_of_writing_with_notes_a_pasted_page_a_picture_and_a_replaced_name()
    {
        Start("The far bank", "letter", "Pell rowed here.\n");
        Open(1, "Pell rowed here.");

        // Signs are set as the language sets them, and one Backspace gives what was typed.
        ToEnd();
        writer.Keys("\"Home's free\" -- he said...");
        Until("“Home’s free” – he said…");
        writer.Keys(SeleniumKeys.Backspace);
        Until("– he said...");

        // A note stands below its paragraph; the cursor is in it.
        writer.Chord(SeleniumKeys.Alt, "n");
        writer.Keys("Account book, f. 31.");
        Until("he said...[^1]\n\n[^1]: Account book, f. 31.");

        // A remark is never counted and never goes out.
        writer.Keys(SeleniumKeys.Enter, SeleniumKeys.Enter, "TK the price. ");
        writer.Chord(SeleniumKeys.Alt, "r");
        writer.Keys("ask Pell");
        Until("TK the price. <!-- ask Pell -->");
        ToEnd();

        // A page is pasted as clean Markdown, and counted as pasted.
        writer.Driver.ExecuteScript(
            """
            const field = arguments[0]; field.focus();
            const data = new DataTransfer();
            data.setData('text/html', '<h2>The toll</h2><p>Paid in <b>bread</b> by Pell.</p><ul><li>four loaves</li></ul>');
            data.setData('text', 'plain');
            field.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
            """,
            writer.Draft
        );
        Until("Paid in **bread** by Pell.\n\n- four loaves");

        // A picture dropped onto the draft lies with the piece, with what is said of it.
        ToEnd();
        // What only calls itself one is refused before it is kept, and what was said of it stays.
        PastePicture("bm90IGEgcGljdHVyZQ==");
        writer.Field("What it shows").SendKeys("nothing at all");
        writer.Press("Put it in");
        writer.Sees("stage.png is no picture that can be read.");
        writer.Press("Leave it");
        PastePicture("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==");
        writer.Field("What it shows").SendKeys("a landing stage");
        writer.Field("Caption").SendKeys("The \"stage\" at Quillan");
        writer.Press("Put it in");
        Until("![a landing stage](/api/attachments/1/content \"The \\\"stage\\\" at Quillan\")");

        // A name is replaced; every place is seen before.
        writer.Chord(SeleniumKeys.Control, "f");
        writer.Field("Find").SendKeys("Pell");
        writer.Field("Put in its place").SendKeys("Brandt");
        writer.Sees("3 places");
        writer.Finds(By.XPath("(//input[@aria-label='Replace “Pell” here'])[2]")).Click();
        writer.Press("Replace 2");
        Until("Brandt rowed here.");
        Text().ShouldContain("by Brandt.");
        Text().ShouldContain("<!-- ask Pell -->");
        // Back in one step.
        writer.UndoOf("Replaced 2 times");
        Until("Pell rowed here.");

        // The remark is listed, and gone when it is done.
        Beside("remarks");
        writer.Press("done");
        writer.Until(() => !Text().Contains("<!--", StringComparison.Ordinal), "the remark to be gone");

        // Before it goes out, what is unfinished is said, each a press from its place.
        writer.Press("Take out");
        writer.Press("As a file…");
        writer.Sees("is still to come");
        writer.Sees("Nobody says whose the picture");
        writer.Press("go there");
        writer.Until(() => writer.Driver.FindElements(By.CssSelector("[role=dialog]")).Count == 0, "the list to be gone");

        // What it did is told, pasted words apart.
        Beside("sitting");
        writer.Sees("pasted");
        writer.Press("End the sitting");
        writer.Sees("The sitting is over");
        writer.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void Words_are_on_hand_and_one_goes_in_by_Enter()
    {
        Start("The far bank", "letter", "The wierd bread of Ostrey. It was very dear.\n");
        Open(1, "bread of Ostrey");
        writer.Until(
            () => writer.Driver.FindElements(By.CssSelector(".cm-misspelt")).Select(e => e.Text).Contains("wierd"),
            "the wrong word to be marked"
        );
        for (var i = 0; i < 6; i++)
            writer.Keys(SeleniumKeys.ArrowRight);
        writer.Chord(SeleniumKeys.Alt, "w");
        writer.Sees("Not in the word list");
        writer.Until(() => writer.Driver.SwitchTo().ActiveElement().Text == "weird", "the first suggestion to have the keys");
        writer.Keys(SeleniumKeys.Enter);
        Until("The weird bread");

        // A word that is right is right from then on.
        writer.Chord(SeleniumKeys.Control, SeleniumKeys.ArrowRight);
        writer.Chord(SeleniumKeys.Alt, "w");
        writer.Sees("usually raised with yeast");
        writer.Button("breadstuff");

        Beside("check");
        writer.Press("Look it over");
        writer.Sees("Does the sentence need it?");
        writer.Sees("LIX");
        writer.Finds(By.XPath("//label[contains(., 'fillers')]/input")).Click();
        writer.Press("Look");
        writer.SeesNot("Does the sentence need it?");
        writer.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void A_thread_is_cut_to_fit_put_in_order_and_copied_with_ticks()
    {
        var over = string.Join(' ', Enumerable.Range(1, 14).Select(i => $"Loaf number {i} went over the water."));
        Start("Five fords", "thread", $"First of all.\n\n---\n\n{over}\n");
        writer.Open("/bench/1/thread");
        writer.Sees("1 over");
        writer.Part("Part 2").FindElement(By.TagName("mark")).Text.ShouldStartWith(over[300..330].Trim());
        writer.Press("Cut to fit");
        writer.SeesNot("1 over");
        var parts = JsonDocument.Parse(writer.Server("/api/pieces/1/thread")).RootElement.GetProperty("parts").GetArrayLength();
        parts.ShouldBeGreaterThan(2);
        writer.Press("down", writer.Part("Part 1"));
        writer.Until(() => writer.Part("Part 2").Text.Contains("First of all.", StringComparison.Ordinal), "the part in its place");
        writer.Finds(By.XPath("//input[@aria-label='Part 2 is out']")).Click();
        writer.Sees("1 copied");
        writer.Finds(By.XPath("//label[contains(., 'numbered')]/input")).Click();
        writer.Sees($"First of all. 2/{parts}");
        writer.Sees("changed since it was copied");
        writer.Press("join to the next", writer.Part("Part 1"));
        writer.Sees("Joined to the next one.");
        writer.Press("Step back");
        writer.Until(
            () => JsonDocument.Parse(writer.Server("/api/pieces/1/thread")).RootElement.GetProperty("parts").GetArrayLength() == parts,
            "the parts again"
        );
    }

    [Fact]
    public void A_standing_text_changed_in_one_place_is_changed_in_every_draft()
    {
        writer.Open("/bench/short");
        writer.Press("make one");
        writer.Fill(writer.Field("Words of New standing text"), "Yours, by the water.");
        writer.Field("Name of the standing text").Click();
        writer.Sees("Changed.");
        Start("One", "letter", "Dear all.\n");
        Start("Two", "letter", "Dear all. [[standing text 1]]\n");
        Open(1, "Dear all.");
        ToEnd();
        writer.Chord(SeleniumKeys.Alt, "p");
        writer.Field("Patterns, bits and standing texts").SendKeys("by the water" + SeleniumKeys.Enter);
        Until("[[standing text 1]]");
        writer.Chord(SeleniumKeys.Control, SeleniumKeys.Home);
        writer.Until(() => writer.Draft.Text.Contains("Yours, by the water.", StringComparison.Ordinal), "the text at its place");
        writer.Server("/api/pieces/1/export?as=markdown").ShouldContain("Yours, by the water.");

        writer.Open("/bench/short");
        writer.Fill(writer.Field("Words of New standing text"), "Yours, on the far bank.");
        writer.Field("Name of the standing text").Click();
        writer.Sees("Changed, and with it in P 1, P 2.");
        foreach (var piece in (int[])[1, 2])
            writer.Server($"/api/pieces/{piece}/export?as=markdown").ShouldContain("Yours, on the far bank.");

        // A pattern is put in with its places; Tab goes from one to the next.
        Open(1, "Dear all.");
        ToEnd();
        writer.Keys(SeleniumKeys.Enter, SeleniumKeys.Enter);
        writer.Chord(SeleniumKeys.Alt, "p");
        writer.Field("Patterns, bits and standing texts").SendKeys("price of" + SeleniumKeys.Enter);
        Until("The price of what");
        writer.Until(() => writer.Driver.SwitchTo().ActiveElement().GetDomAttribute("aria-label") == "Draft", "the cursor in the draft");
        writer.Keys("a crossing");
        Until("The price of a crossing");
    }

    [Fact]
    public void Three_pieces_are_read_aloud_from_a_phone_s_width_one_after_the_other()
    {
        for (var i = 1; i <= 3; i++)
            Start(
                $"Walk {i}",
                "audio",
                $"## Stop\n\n{string.Join(' ', Enumerable.Repeat($"Word{i} by word.", 60))}\n\n## Next stop\n\nOn.\n"
            );
        writer.View(390, 800);
        writer.Open("/shooting");
        for (var i = 1; i <= 3; i++)
        {
            writer.Select("Another piece for the list", $"{i}");
            writer.Sees($"P {i} is on the list.");
        }
        writer.Fill(writer.Field("May last", writer.Part("Walk 1")), "0:30" + SeleniumKeys.Enter);
        writer.Sees("of 0:30");
        writer.Press("Read all 3 aloud");
        writer.Sees("1 of 3");
        var left = writer.Finds(By.CssSelector("[role=timer]")).Text;
        writer.Keys(SeleniumKeys.Space);
        writer.Until(() => writer.Finds(By.CssSelector("[role=timer]")).Text != left, "the time to count down");
        writer.Keys(SeleniumKeys.Space);
        writer.Keys(SeleniumKeys.ArrowRight);
        writer.Sees("188 words a minute");
        writer.Keys("m");
        writer.Until(
            () => writer.Finds(By.TagName("main")).GetDomAttribute("style")?.Contains("scaleX(-1)", StringComparison.Ordinal) == true,
            "the text mirrored"
        );
        writer.Keys("m", "n");
        writer.Sees("2 of 3");
        writer.Sees("Walk 2");
        writer.Keys("n");
        writer.Sees("3 of 3");
        // Nothing is cut off at the side.
        ((long)writer.Driver.ExecuteScript("return document.documentElement.scrollWidth")!).ShouldBeLessThanOrEqualTo(390);
        writer.Keys(SeleniumKeys.Escape);
        writer.Finds(By.XPath("//input[@aria-label='Walk 3 is recorded']")).Click();
        writer.Sees("1 recorded");
        writer.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void Short_posts_of_the_day_are_counted_and_wait_until_they_are_sent()
    {
        writer.Open("/desk");
        writer.Press("begin one");
        writer.Until(() => writer.Driver.SwitchTo().ActiveElement().GetDomAttribute("aria-label") == "Text of post 1", "the field");
        writer.Keys("Four loaves for a crossing.");
        writer.Sees("27 of 300");
        writer.Finds(By.XPath("//article[@aria-label='Post 1']//label[contains(., 'ready')]/input")).Click();
        writer.Sees("Ready; it waits to be sent.");
        writer.Open("/desk/2026-01-02");
        writer.Sees("Ready from other days");
        writer.Finds(By.XPath("//article[@aria-label='Post 1']//label[contains(., 'sent')]/input")).Click();
        writer.SeesNot("Ready from other days");
    }

    [Fact]
    public void The_pages_for_paper_are_printed_as_a_PDF_that_an_independent_reader_reads()
    {
        var paragraphs = Enumerable.Range(1, 60).Select(i => $"Paragraph {i} of bread, of rope and of water over the stage.[^{i}]");
        var notes = Enumerable.Range(1, 60).Select(i => $"[^{i}]: Note {i}.");
        Start("The far bank", "essay", string.Join("\n\n", paragraphs.Concat(notes)) + "\n");
        writer.Driver.Navigate().GoToUrl(app.Url + "/api/pieces/1/export?as=pdf-html");
        writer.Sees("Paragraph 60");
        var printed =
            (Dictionary<string, object>)
                writer.Driver.ExecuteCdpCommand(
                    "Page.printToPDF",
                    new() { ["preferCSSPageSize"] = true, ["displayHeaderFooter"] = false }
                )!;
        var pdf = Path.Combine(writer.Downloads, "far.pdf");
        File.WriteAllBytes(pdf, Convert.FromBase64String((string)printed["data"]));
        string read;
        try
        {
            using var reader = System.Diagnostics.Process.Start(
                new System.Diagnostics.ProcessStartInfo("pdftotext", ["-layout", pdf, "-"]) { RedirectStandardOutput = true }
            )!;
            read = reader.StandardOutput.ReadToEnd();
        }
        catch (System.ComponentModel.Win32Exception)
        {
            // Where that reader is not installed, the pages were at least printed.
            return;
        }
        var pages = read.Split('\f', StringSplitOptions.RemoveEmptyEntries);
        pages.Length.ShouldBeGreaterThan(2);
        pages[0].ShouldContain("Paragraph 1 of bread");
        // The running head stands from the second page on, and each page has its number.
        pages[1].TrimStart().ShouldStartWith("The far bank");
        pages[1].TrimEnd().ShouldEndWith("2");
        read.ShouldContain("Note 60.");
    }

    [Fact]
    public void What_goes_out_is_chosen_and_what_is_beside_the_text_is_put_in()
    {
        writer.Send(
            "/api/sources",
            new
            {
                title = "High water and small coin",
                creators = "Brandt, H.",
                type = "book",
                date = "1998",
            }
        );
        Start("The far bank", "essay", "Lead.\n\n## One\n\nBread.\n\n## Two\n\nCoin.\n");
        Open(1, "Lead.");
        writer.Keys(SeleniumKeys.End);
        Beside("find");
        writer.Field("Find in all papers").SendKeys("water");
        writer.Press("refer to it");
        Until("[[source 1]]");
        writer.Keys(SeleniumKeys.Escape);
        writer.Press("Take out");
        writer.Press("As a file…");
        writer.Sees("“High water and small coin” will stand");
        writer.Press("Go on as it is");
        writer.Press("What of it, and how");
        writer.Select("How works are cited", "authorYear");
        writer.Sees("How works are cited is changed.");
        writer.Select("Headings", "numbered");
        writer.Finds(By.XPath("//label[contains(., 'Markdown')]")).Click();
        writer.Press("Take it out");
        var all = writer.Downloaded("*.md");
        all.ShouldContain("Lead. (Brandt 1998)");
        all.ShouldContain("## 2 Two");
        all.ShouldContain("## Works cited");
        var two = JsonDocument.Parse(writer.Server("/api/pieces/1/outline")).RootElement[1].GetProperty("number").GetInt32();
        writer.Server($"/api/pieces/1/export?as=markdown&title=false&headings=left&citing=none&sections={two}").ShouldBe("Coin.\n");
    }
}
