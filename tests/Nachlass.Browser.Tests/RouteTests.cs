using OpenQA.Selenium;
using SeleniumKeys = OpenQA.Selenium.Keys;

namespace Nachlass.Browser.Tests;

/// <summary>A piece as a route: what the material proposes, and what is wrong is mended one after the other.</summary>
public sealed class RouteTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public RouteTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private IWebElement Faults => writer.Part("Where it would lose a reader");

    private IWebElement Fault(string label) => writer.Part(label + ": ");

    private void IsGone(string label) =>
        writer.Until(
            () => writer.Driver.FindElements(By.CssSelector($"article[aria-label^='{label}: ']")).Count == 0,
            $"“{label}” to be mended"
        );

    /// <summary>As if it had been written in another tab.</summary>
    private void Put(string text, int version)
    {
        using var client = new HttpClient { BaseAddress = new Uri(app.Url) };
        using var body = new StringContent(
            System.Text.Json.JsonSerializer.Serialize(new { text, version }),
            System.Text.Encoding.UTF8,
            "application/json"
        );
        client.PutAsync(new Uri("/api/pieces/4/draft", UriKind.Relative), body).GetAwaiter().GetResult().EnsureSuccessStatusCode();
    }

    [Fact]
    public void The_faults_of_a_route_are_mended_one_by_one()
    {
        writer.Open("/bench/4/route");
        writer.Sees("3 says again what 2 said");
        writer.Sees("Hester Lunt stands in 2 and is introduced in 4");
        // Said twice: go there, and cut it.
        writer.Press("go there", Fault("says it twice"));
        writer.IsAt("/bench/4");
        writer.Until(() => writer.Driver.SwitchTo().ActiveElement().GetAttribute("aria-label") == "Draft", "the cursor in the draft");
        var text = System.Text.Json.JsonDocument.Parse(writer.Server("/api/pieces/4/draft")).RootElement;
        var draft = text.GetProperty("text").GetString()!;
        var from = draft.IndexOf("Coin was no use to a man who could not reach a shop: it was", StringComparison.Ordinal);
        var to = draft.IndexOf("Neither looked to the right", StringComparison.Ordinal);
        var cut = draft.Remove(from, to - from);
        // Before its time: she is introduced where she stands first.
        cut = cut.Replace(
            "Hester Lunt, in the margin,",
            "Hester Lunt, who kept the book, calls it in the margin",
            StringComparison.Ordinal
        );
        Put(cut, text.GetProperty("version").GetInt32());
        writer.Press("Route", writer.Part("Parts of the piece"));
        IsGone("says it twice");
        IsGone("before its time");
        // Nothing to say it with: what would fit is laid in.
        writer.Press("lay it in", Fault("nothing to say it with"));
        writer.Sees("laid in.");
        IsGone("nothing to say it with");
        // A beat that is missing: a section for it.
        writer.Press("lay one in", Fault("no such beat"));
        writer.Sees("“Proof” is laid in.");
        IsGone("no such beat");
        writer.UndoOf("“Proof” is laid in.");
        writer.Until(() => Faults.Text.Contains("No section is the proof", StringComparison.Ordinal), "it to be missing again");
        // Meant so: set aside with a reason, seen on request, and taken up again.
        writer.Press("it is meant so", Fault("no such beat"));
        writer.Field("Why it is meant so").SendKeys("the letter after it is the proof" + SeleniumKeys.Enter);
        writer.Sees("Set aside: it is meant so.");
        IsGone("no such beat");
        writer.Press("1 set aside");
        writer.Sees("meant so: the letter after it is the proof");
        writer.Press("not meant so");
        writer.Until(() => Faults.Text.Contains("lay one in", StringComparison.Ordinal), "it to stand again");
    }

    [Fact]
    public void A_proposal_is_taken_by_slip_and_by_section_and_nothing_else_moves()
    {
        writer.Open("/bench/4/route");
        var proposed = writer.Part("What the material proposes");
        IWebElement? made = null;
        writer.Until(
            () =>
                (
                    made = proposed
                        .FindElements(By.TagName("article"))
                        .FirstOrDefault(a => a.Text.Contains("The bread column", StringComparison.Ordinal))
                )
                    is not null,
            "what is proposed for the second section"
        );
        var title = made!.FindElement(By.ClassName("written")).Text;
        // Where each thing lies; its version goes on with every step, also one back.
        string Material() =>
            string.Join(
                ' ',
                System
                    .Text.Json.JsonDocument.Parse(writer.Server("/api/pieces/4/material"))
                    .RootElement.GetProperty("items")
                    .EnumerateArray()
                    .Select(i =>
                        i.GetProperty("slip") is { ValueKind: System.Text.Json.JsonValueKind.Object } slip
                            ? $"{slip.GetProperty("number")}:{i.GetProperty("section")}"
                            : "source"
                    )
            );
        var before = Material();
        made.FindElement(By.CssSelector("button[aria-expanded]")).Click();
        Material().ShouldBe(before);
        writer.Press($"Take “{title}”");
        writer.Sees($"“{title}” is as proposed.");
        writer.Until(() => Material() != before, "its slips to lie there");
        // One slip of another line, by itself.
        var line = writer.Part("Who crossed free, ");
        line.FindElement(By.CssSelector("button[aria-expanded]")).Click();
        writer.Press("Take slip 52 alone");
        writer.Sees("Slip 52 is laid in.");
        writer.Until(
            () => !writer.Part("What the material proposes").Text.Contains("Free at Quillan", StringComparison.Ordinal),
            "it to be taken"
        );
        writer.Press("Step back");
        writer.Press("Step back");
        writer.Until(() => Material() == before, "all as it was");
    }

    [Fact]
    public void Sections_are_moved_on_the_strip_by_key_and_by_drag()
    {
        writer.Open("/bench/4/route");
        IReadOnlyList<string> Strip() =>
            [.. writer.Driver.FindElements(By.CssSelector("[data-strip] button")).Select(b => b.Text.Split('\n')[0])];
        writer.Until(() => Strip().Count == 6, "the strip");
        var second = writer.Driver.FindElements(By.CssSelector("[data-strip] button"))[1];
        second.SendKeys(SeleniumKeys.Alt + SeleniumKeys.ArrowRight);
        writer.Until(() => Strip()[2] == "The bread column", "it to stand third");
        writer.Driver.ExecuteScript(
            """
            const strip = [...document.querySelectorAll('[data-strip]')];
            const data = new DataTransfer();
            strip[2].querySelector('button').dispatchEvent(new DragEvent('dragstart', { bubbles: true, dataTransfer: data }));
            """
        );
        writer.Driver.ExecuteScript(
            """
            const strip = [...document.querySelectorAll('[data-strip]')];
            const box = strip[1].getBoundingClientRect();
            const at = { bubbles: true, cancelable: true, clientX: box.left + 2, dataTransfer: new DataTransfer() };
            strip[1].dispatchEvent(new DragEvent('dragover', at));
            """
        );
        writer.Driver.ExecuteScript(
            "document.querySelectorAll('[data-strip]')[1].dispatchEvent("
                + "new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer: new DataTransfer() }))"
        );
        writer.Until(() => Strip()[1] == "The bread column", "it to stand second again");
        writer.Press("in minutes");
        writer.Sees("minutes, read aloud");
    }
}
