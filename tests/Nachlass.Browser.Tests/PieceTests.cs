using OpenQA.Selenium;
using SeleniumKeys = OpenQA.Selenium.Keys;

namespace Nachlass.Browser.Tests;

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

    private List<string> Titles =>
        [
            .. System.Text.Json.Nodes.JsonNode.Parse(Draft)!["sections"]!
                .AsArray()
                .Select(s => new string('-', s!["depth"]!.GetValue<int>() - 1) + s["title"]),
        ];

    private string Footer => writer.Part("Draft").FindElement(By.TagName("footer")).Text.ReplaceLineEndings(" ");

    private IWebElement Handle(string section) => writer.Button("Go to section", writer.Part(section));

    [Fact]
    public void Sections_and_slips_are_dragged_by_mouse()
    {
        writer.Part("Section 2, The bread column");
        // Between two rows it lands there; the line says so while it is carried.
        writer.Drag(Handle("The bread column"), Handle("What it would cost now"));
        writer.Until(() => Titles[3] == "The bread column", "the section before the one it was carried over");
        Draft
            .IndexOf("bell-ringers crossed free", StringComparison.Ordinal)
            .ShouldBeLessThan(Draft.IndexOf("has a column nobody explains", StringComparison.Ordinal));
        writer.Drag(Handle("Twice over the same water"), Handle("Twice over the same water"), right: 40);
        writer.Until(() => Titles[1] == "-Twice over the same water", "the section nested by a pull to the right");
        // Below the last row is a place too.
        writer.Drag(Handle("Who crossed free"), writer.Field("New section"));
        writer.Until(() => Titles[^1].EndsWith("Who crossed free", StringComparison.Ordinal), "the section at the end");
        writer.Drag(writer.Button("Drag slip 26"), writer.Part("What it would cost now"));
        writer.Sees("Slip 26 placed in “What it would cost now”.");
    }

    [Fact]
    public void Sections_and_slips_are_carried_by_key()
    {
        writer.Field("Title of section 3").SendKeys(Keys.Alt + Keys.ArrowRight);
        writer.Until(() => Titles[2] == "-Twice over the same water", "the nested section");
        Draft.ShouldContain("### Twice over the same water");
        writer.Field("Title of section 2").SendKeys(Keys.Alt + Keys.ArrowDown);
        writer.Until(
            () => Titles is [_, "Who crossed free", "The bread column", "-Twice over the same water", ..],
            "the section moved with what is nested in it"
        );
        writer.Driver.ExecuteScript("arguments[0].focus()", writer.Button("Drag slip 33"));
        writer.Keys(" ");
        writer.Until(() => writer.Button("Drag slip 33").GetDomAttribute("aria-pressed") == "true", "the slip to be lifted");
        writer.Keys(Keys.ArrowDown);
        writer.Sees("Slip 33 is over “At the");
        writer.Keys(Keys.ArrowDown);
        writer.Sees("Slip 33 is over “Who crossed free”.");
        writer.Keys(" ");
        writer.Sees("Slip 33 placed in");
    }

    [Fact]
    public void The_finished_text_is_copied_without_brackets_and_numbers()
    {
        writer.Driver.ExecuteCdpCommand(
            "Browser.grantPermissions",
            new() { ["permissions"] = (string[])["clipboardReadWrite", "clipboardSanitizedWrite"] }
        );
        writer.Press("Take out");
        writer.Press("Copy as formatted text");
        writer.Press("Go on as it is");
        writer.Sees("Copied as formatted text.");
        var html = (string)
            writer.Driver.ExecuteAsyncScript(
                "const done = arguments[0]; navigator.clipboard.read().then(async items => done(await (await "
                    + "items[0].getType('text/html')).text()), e => done(String(e)))"
            )!;
        html.ShouldContain("<h2>The bread column</h2>");
        html.ShouldNotContain("[[");
        html.ShouldNotContain("slip 29");
        writer.Press("Take out");
        writer.Press("As a file…");
        writer.Press("Go on as it is");
        writer.Finds(By.XPath("//label[contains(., 'One HTML file')]")).Click();
        writer.Press("Take it out");
        writer
            .Downloaded("*.html")
            .ShouldSatisfyAllConditions(
                file => file.ShouldStartWith("<!doctype html>"),
                file => file.ShouldNotContain("<link"),
                file => file.ShouldNotContain("[[")
            );
    }

    [Fact]
    public void The_selection_is_counted_and_a_stage_is_chosen_by_mouse()
    {
        writer.Press("Go to section 6 in the draft");
        writer.Keys("Look down, and then up.");
        writer.Chord(Keys.Shift, Keys.Home);
        writer.Until(
            () => Footer.Contains("selection 5 words 23 characters reads 0:01 aloud 0:02", StringComparison.Ordinal),
            "the counts of the selection"
        );
        writer.Keys(Keys.End);
        writer.Until(() => Footer.Contains("section 5 of 200 words 23 characters", StringComparison.Ordinal), "the counts of the section");
        Footer.ShouldContain("text 1,1");
        writer.Press("Ready", writer.Finds(By.XPath("//*[@role='radiogroup'][@aria-label='Stage']")));
        writer.Sees("Moved to Ready.");
        writer.Open("/bench").Sees("Ready");
    }

    [Fact]
    public void Material_goes_into_the_draft_with_a_reference_back()
    {
        writer.Press("Go to section 5 in the draft");
        writer.Press("What to do with slip 26");
        writer.Press("Insert as text");
        writer.Sees("Slip 26 stands in “What it would cost now”.");
        writer.Until(() => Draft.Contains("[[slip 26]]", StringComparison.Ordinal), "the reference in the saved draft");
        writer.Keys("]");
        writer.Press("Edit", writer.Finds(By.XPath("//*[@role='radiogroup'][@aria-label='Stage']")));
        writer.Sees("Moved to Edit.");
    }

    [Fact]
    [Trait(App.Server, App.IsKilled)]
    public void Nothing_typed_is_lost_when_the_server_stops()
    {
        writer.Press("Go to section 6 in the draft");
        app.Stop();
        writer.Keys("Look down.");
        writer.Sees("in this browser, not on the server yet");
        app.StartAgain();
        writer.Until(() => Draft.Contains("Look down.", StringComparison.Ordinal), "the kept text on the server");
        writer.Sees("kept ");
    }

    [Fact]
    public void What_is_written_is_sent_as_changes_and_the_server_comes_to_the_same_text()
    {
        const string listening = """
            window.sent = [];
            const real = window.fetch;
            window.fetch = async (asked, init) => {
              const request = new Request(asked, init);
              const size = (await request.clone().text()).length;
              if (request.method !== 'GET') window.sent.push(`${request.method} ${new URL(request.url).pathname} ${size}`);
              return real(request);
            };
            """;
        writer.Driver.ExecuteCdpCommand("Page.addScriptToEvaluateOnNewDocument", new() { ["source"] = listening });
        writer.Open("/bench/4");
        writer.Press("Go to section 2 in the draft");
        writer.Paste(writer.Draft, "😀😀");
        writer.Draft.SendKeys(SeleniumKeys.ArrowLeft + SeleniumKeys.Backspace);
        writer.Paste(writer.Draft, "😁");
        writer.Draft.SendKeys(SeleniumKeys.ArrowRight + " in the column. ");
        writer.Until(
            () =>
                writer
                    .Server("/api/pieces/4/draft")
                    .Contains("\\uD83D\\uDE01\\uD83D\\uDE00 in the column", StringComparison.OrdinalIgnoreCase),
            "both signs"
        );
        writer.Until(
            () => writer.Server("/api/pieces/4/draft").Contains("in the column. The account", StringComparison.Ordinal),
            "the words"
        );
        writer.Keys(SeleniumKeys.Backspace);
        writer.Until(
            () => writer.Server("/api/pieces/4/draft").Contains("in the column.The account", StringComparison.Ordinal),
            "the rest"
        );
        var sent = ((IEnumerable<object>)writer.Driver.ExecuteScript("return window.sent")!).Cast<string>().ToList();
        sent.ShouldNotBeEmpty();
        sent.ShouldAllBe(line => line.StartsWith("PATCH /api/pieces/4/draft "));
        sent.ShouldAllBe(line => int.Parse(line.Split(' ')[2]) < 600);
    }

    [Fact]
    public void A_piece_is_taken_out_as_a_Word_file_a_book_and_subtitles_at_a_pace()
    {
        void Take(string kind)
        {
            writer.Press("Take out");
            writer.Press("As a file…");
            writer.Press("Go on as it is");
            writer.Finds(By.XPath($"//label[contains(., '{kind}')]")).Click();
        }
        Take("Word file");
        writer.Press("Take it out");
        writer.Downloaded("*.docx").ShouldStartWith("PK");
        Take("Book");
        writer.Press("Take it out");
        writer.Downloaded("*.epub").ShouldStartWith("PK");
        Take(".srt");
        var pace = writer.Finds(By.CssSelector("[role=dialog] input[type=number]"));
        writer.Fill(pace, "5");
        writer.Press("Take it out");
        writer.Sees("A pace is between 60 and 400 words a minute.");
        writer.Fill(pace, "150");
        writer.Press("Take it out");
        writer.Downloaded("*.srt").ShouldStartWith("1\n00:00:00,000 --> ");
        writer.Complaints().ShouldBeEmpty();
    }
}
