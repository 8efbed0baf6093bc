using System.Text.Json.Nodes;
using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>Topics held against an axis of the writer's own, and ideas where something is missing: in a cell, and for an
/// occasion.</summary>
public sealed class MatrixTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public MatrixTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private string Heads =>
        string.Join(", ", writer.Driver.FindElements(By.CssSelector("main thead th")).Skip(1).Select(h => h.Text.ToLowerInvariant()));

    [Fact]
    public void An_axis_is_named_and_ordered_in_place_asks_for_ideas_in_a_cell_and_stands_on_the_desk()
    {
        writer.Open("/topics?as=coverage");
        writer.Select("against", "new");
        // What was typed is held over a reload.
        writer.Fill(writer.Field("Column 4"), "to mourn");
        writer.Driver.Navigate().Refresh();
        writer.Select("against", "new");
        writer.Until(() => writer.Value("Column 4") == "to mourn", "what was typed");
        writer.Press("Keep");
        writer.Sees("intents: to explain, to tell, to argue, to mourn.");
        writer.Until(() => Heads == "to explain, to tell, to argue, to mourn", "the columns");
        // The address holds the axis.
        writer.Driver.Navigate().Refresh();
        writer.Until(() => Heads == "to explain, to tell, to argue, to mourn", "the columns after a reload");
        writer.Press("names and order");
        writer.Press("Move to mourn to the left");
        writer.Press("Leave to explain out");
        writer.Press("another");
        writer.Field("Column 4").SendKeys("to tell");
        writer.Press("Keep");
        writer.Sees("“to tell” is there twice.");
        writer.Fill(writer.Field("Column 4"), "to thank");
        writer.Press("Keep");
        writer.Until(() => Heads == "to tell, to mourn, to argue, to thank", "names and order as they were set");
        writer.UndoOf("intents: to tell, to mourn, to argue, to thank.");
        writer.Until(() => Heads == "to explain, to tell, to argue, to mourn", "them as they were");
        // An empty cell asks for ideas on both of its topics.
        writer.Press("Nothing yet: begin to tell on ferries");
        writer.Press("ask for ideas here");
        writer.Until(
            () =>
                string.Join(", ", writer.Driver.FindElements(By.CssSelector("[aria-label=Topics] [aria-pressed=true]")).Select(t => t.Text))
                == "ferries, to tell",
            "both topics"
        );
        writer.Open("/topics?as=coverage");
        writer.Driver.FindElement(By.XPath("//label[contains(., 'on the Desk')]/input")).Click();
        writer.Open("/desk");
        writer.Part("Topics against").FindElements(By.CssSelector("tbody tr")).Count.ShouldBeGreaterThan(3);
    }

    [Fact]
    public void What_is_in_hand_of_a_topic_stands_under_its_name_and_opens_it()
    {
        writer.Open("/topics?as=coverage");
        var inHand = writer.Finds(By.XPath("//th[a[.='bridges']]/a[contains(., ' in hand')]"));
        var topic = JsonNode.Parse(writer.Server("/api/topics"))!.AsArray().Single(one => one!["name"]!.GetValue<string>() == "bridges")!;
        inHand.Text.ShouldBe($"{topic["kept"]!.GetValue<int>() - topic["used"]!.GetValue<int>()} in hand");
        inHand.Click();
        writer.Until(() => writer.Driver.Url.Contains("used%3Ano", StringComparison.Ordinal), "the library by what is not used");
        writer.Sees("kept");
    }

    [Fact]
    public void An_occasion_has_ideas_of_its_own_that_are_taken_begun_and_refused_where_they_stand()
    {
        var day = DateOnly.FromDateTime(DateTime.Now).AddDays(20).ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        writer.Send(
            "/api/occasions",
            new
            {
                name = "The night of lamps",
                from = day,
                to = day,
                topics = new[] { "ferries" },
            }
        );
        writer.Open("/plan/occasions");
        var name = writer.Finds(By.CssSelector("ul[aria-label^='Ideas for']")).GetDomAttribute("aria-label")!;
        List<string> Ideas() =>
            [.. writer.Driver.FindElements(By.CssSelector($"ul[aria-label=\"{name}\"] .written")).Select(i => i.Text.Split('\n')[0])];
        var first = Ideas()[0];
        // Why it is proposed, and what it was made from.
        writer.Press($"Why: {first}");
        writer.Until(() => writer.Finds(By.CssSelector($"ul[aria-label=\"{name}\"]")).Text.Contains("made from"), "what it was made from");
        writer.Press($"Why: {first}");
        writer.Press($"Take: {first}");
        writer.Sees("Taken as slip");
        writer.Until(() => !Ideas().Contains(first), "it to be gone from there");
        writer.UndoOf("Taken as slip");
        writer.Until(() => Ideas().Contains(first), "it back");
        writer.Press($"No: {first}");
        writer.Sees("It does not come again.");
        writer.Until(() => Ideas().Count > 0 && !Ideas().Contains(first), "others");
        var next = Ideas()[0];
        writer.Press($"Begin for it: {next}");
        writer.Sees("Start a piece");
    }
}
