using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>Moves: when they are due, when they come again, and the guide, with the demo papers.</summary>
public sealed class MovesTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public MovesTests() => writer = new Writer(app).Open("/plan/moves");

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private void When(string move)
    {
        writer.Press($"Date of: {move}");
        writer.Press("Begins, reminds, comes again…");
    }

    private string In(string part) => writer.Part(part).Text;

    [Fact]
    public void A_move_that_comes_again_is_there_for_the_next_day_once_it_is_done_and_gone_again_by_undo()
    {
        writer.Field("New move").SendKeys("row to the gauge" + Keys.Enter);
        writer.Sees("Move written down.");
        When("row to the gauge");
        writer.Field("Again").SendKeys("whenever" + Keys.Enter);
        writer.Sees("“whenever” can't be read");
        writer.Value("Again").ShouldBe("whenever");
        writer.Field("Again").SendKeys(Keys.Control + "a");
        writer.Field("Again").SendKeys("every day");
        writer.Sees("The next appears when this one is done.");
        writer.Press("Keep");
        writer.Sees("again every day");
        writer.Until(() => In("Without a date").Contains("row to the gauge", StringComparison.Ordinal), "it without a date");
        writer.Finds(By.CssSelector("input[aria-label='Done: row to the gauge']")).Click();
        writer.Sees("Done.");
        writer.Until(() => In("Tomorrow").Contains("row to the gauge", StringComparison.Ordinal), "the next one tomorrow");
        writer.UndoOf("Done.");
        writer.Until(() => In("Without a date").Contains("row to the gauge", StringComparison.Ordinal), "it open again");
        writer.Until(() => !In("Tomorrow").Contains("row to the gauge", StringComparison.Ordinal), "the next one to be gone");
    }

    [Fact]
    public void Overdue_moves_stand_first_and_one_key_gives_each_another_day()
    {
        var late = writer.Driver.FindElements(By.CssSelector("section[aria-label=Overdue] li[data-move]"));
        late.Count.ShouldBeGreaterThan(1);
        var (first, second) = (late[0].GetDomAttribute("data-move")!, late[1].GetDomAttribute("data-move")!);
        ((IJavaScriptExecutor)writer.Driver).ExecuteScript("arguments[0].focus()", late[0]);
        writer.Keys("t");
        writer.Sees("Set for today.");
        writer.Until(
            () => writer.Driver.FindElements(By.CssSelector($"section[aria-label=Today] li[data-move='{first}']")).Count == 1,
            "it under today"
        );
        // The next one is chosen, and goes to tomorrow.
        writer.Until(() => writer.Driver.SwitchTo().ActiveElement().GetDomAttribute("data-move") == second, "the next one to be chosen");
        writer.Keys("o");
        writer.Until(
            () => writer.Driver.FindElements(By.CssSelector($"section[aria-label=Tomorrow] li[data-move='{second}']")).Count == 1,
            "it under tomorrow"
        );
        writer.Press("by piece");
        writer.Until(() => writer.Driver.FindElements(By.CssSelector("section[aria-label^='P ']")).Count > 1, "pieces with their moves");
    }

    [Fact]
    public void A_reminder_stands_on_every_screen_until_it_is_seen()
    {
        writer.Field("New move").SendKeys("ring the bell" + Keys.Enter);
        writer.Sees("Move written down.");
        When("ring the bell");
        writer.Press("tomorrow at nine");
        writer.Field("Reminder on").SendKeys(Keys.Control + "a");
        writer.Field("Reminder on").SendKeys("yesterday" + Keys.Tab);
        writer.Press("Keep");
        writer.Until(() => In("Reminders").Contains("ring the bell", StringComparison.Ordinal), "the reminder");
        writer.Open("/bench");
        writer.Until(() => In("Reminders").Contains("ring the bell", StringComparison.Ordinal), "the reminder on the bench");
        writer.Press("seen", writer.Part("Reminders"));
        writer.Until(() => writer.Driver.FindElements(By.CssSelector("section[aria-label=Reminders]")).Count == 0, "it to be gone");
        writer.Server("/api/moves").ShouldContain("ring the bell");
    }

    [Fact]
    public void The_guide_is_written_here_and_ticked_on_the_desk()
    {
        writer.Field("New line for every week").SendKeys("thank somebody" + Keys.Enter);
        writer.Until(() => In("Guide").Contains("thank somebody", StringComparison.Ordinal), "the line");
        writer.Open("/desk");
        writer.Until(() => In("Guide").Contains("thank somebody", StringComparison.Ordinal), "the line on the desk");
        writer.Finds(By.CssSelector("section[aria-label=Guide] input[aria-label='Done: thank somebody']")).Click();
        writer.Until(() => !In("Guide").Contains("thank somebody", StringComparison.Ordinal), "what is done to be out of the way");
        writer.Server("/api/guide").ShouldContain("\"text\":\"thank somebody\",\"isDone\":true");
    }
}
