using System.Globalization;
using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>Dates: outlets and their cadences, weeks, hours, and filling what is open.</summary>
public sealed class PlanTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public PlanTests() => writer = new Writer(app).Open("/plan");

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private static DateOnly Today => DateOnly.FromDateTime(DateTime.Now);

    private static string Day(int days) => Today.AddDays(days).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private IWebElement On(int days) => writer.Finds(By.CssSelector($"[data-day='{Day(days)}']"));

    private bool Stands(string title, int days) =>
        writer
            .Driver.FindElements(By.CssSelector($"[data-day='{Day(days)}'] a[data-entry^='due ']"))
            .Any(e => e.Text.Contains(title, StringComparison.Ordinal));

    private IWebElement Card(string title) =>
        writer.Finds(By.XPath($"//*[@data-day]//a[starts-with(@data-entry, 'due ')][contains(., \"{title}\")]"));

    [Fact]
    public void A_letter_is_set_in_words_with_a_fallback_and_what_was_missed_comes_again()
    {
        writer.Open("/plan/outlets");
        writer.Field("A new outlet").SendKeys("The far letter" + Keys.Enter);
        writer.Sees("Made the outlet “The far letter”.");
        var part = writer.Part("The far letter");
        writer.Press("a cadence for", part);
        writer.Press("Talk");
        var cadence = writer.Field("How often Talk goes out", part);
        cadence.SendKeys("every now and then");
        writer.Sees("Not a cadence yet.");
        cadence.SendKeys(Keys.Enter);
        writer.Sees("“every now and then” can't be read as a cadence.");
        // What was typed stays, and its next dates are seen before it is set.
        cadence.GetAttribute("value").ShouldBe("every now and then");
        cadence.SendKeys(Keys.Control + "a");
        cadence.SendKeys("the second to last monday of the month");
        writer.Until(() => writer.Driver.FindElements(By.CssSelector("[aria-label='Next dates'] li")).Count == 12, "a dozen dates");
        cadence.SendKeys(Keys.Enter);
        writer.Sees("Cadence of Talk set.");
        writer.Server("/api/cadences").ShouldContain("FREQ=MONTHLY;BYDAY=-2MO");
        writer.Until(() => cadence.GetAttribute("value") == "the second to last Monday of the month", "it said in our words");
        writer.UndoOf("Cadence of Talk set.");
        writer.Until(() => !writer.Server("/api/cadences").Contains("BYDAY=-2MO", StringComparison.Ordinal), "the cadence to be gone");

        // One whose date was three days ago, and which comes again a week after that.
        var outlet = System
            .Text.Json.JsonDocument.Parse(writer.Server("/api/outlets"))
            .RootElement.EnumerateArray()
            .Single(o => o.GetProperty("name").GetString() == "The far letter")
            .GetProperty("number")
            .GetInt32();
        writer.Put($"/api/outlets/{outlet}/cadences/talk", new { said = "every 20 days", from = Day(-3) });
        writer.Open("/plan/outlets");
        var fallback = writer.Field("When a missed Talk comes again");
        fallback.SendKeys("some day" + Keys.Enter);
        writer.Sees("“some day” can't be read");
        writer.Fill(fallback, "a week later" + Keys.Enter);
        writer.Sees("Missed dates come again.");
        writer.Open("/plan");
        writer.Until(() => On(4).Text.Contains("open: Talk", StringComparison.Ordinal), "the date that comes again");
        On(4).Text.ShouldContain("again, for");
        On(-3).Text.ShouldContain("Talk");
    }

    [Fact]
    public void A_week_is_made_too_full_by_a_drag_and_eased_again_by_keys()
    {
        writer.Open("/plan/outlets");
        writer.Fill(writer.Field("Hours on Monday"), "a lot" + Keys.Enter);
        writer.Sees("“a lot” is no number of hours");
        writer.Fill(writer.Field("Hours on Monday"), "2:30" + Keys.Enter);
        writer.Sees("Hours set.");
        // The demo's date of it can be the day after the six weeks shown, so it is put well within them.
        writer.Put("/api/plan/pieces/16", new { on = Day(25) });
        writer.Open("/plan");
        writer.Until(() => Card("A year at the water").Displayed, "the piece");
        writer.Drag(Card("A year at the water"), On(1));
        writer.Sees("P 16 on");
        writer.Until(() => Stands("A year at the water", 1), "the piece on its day");
        Card("A year at the water").Text.ShouldContain("lacks");
        writer.Until(
            () =>
                writer
                    .Driver.FindElements(By.CssSelector("[role=rowheader] .text-red"))
                    .Any(e => e.Text.Contains("over by", StringComparison.Ordinal)),
            "a week that is too full"
        );

        // By keys: two weeks down, and what that would do is said before it is dropped.
        Card("A year at the water").SendKeys(Keys.Space);
        writer.Sees("A year at the water on");
        for (var week = 0; week < 2; week++)
        {
            writer.Keys(Keys.ArrowDown);
            var on = Today.AddDays(8 + 7 * week).ToString("d MMM yyyy", CultureInfo.InvariantCulture);
            writer.Until(() => writer.Text.Contains($"{on} · ", StringComparison.Ordinal), $"what {on} would do");
        }
        writer.Keys(Keys.Space);
        writer.Until(() => Stands("A year at the water", 15), "the piece two weeks on");
        writer.Until(
            () => writer.Driver.SwitchTo().ActiveElement().GetDomAttribute("data-entry") == "due 16 Edit",
            "the keys to be where the piece is now"
        );
        Card("A year at the water").Text.ShouldNotContain("lacks");

        // Escape lets it be, and undo goes back to the day before.
        writer.Keys(Keys.Space);
        writer.Sees("A year at the water on");
        writer.Keys(Keys.ArrowRight);
        writer.Keys(Keys.Escape);
        writer.Until(() => Stands("A year at the water", 15), "the piece where it was");
        writer.UndoOf($"P 16 on {Today.AddDays(15).ToString("d MMM", CultureInfo.InvariantCulture)}");
        writer.Until(() => Stands("A year at the water", 1), "the piece on the day before");
    }

    [Fact]
    public void Undated_pieces_ideas_stages_and_moves_are_carried_to_days()
    {
        writer.Put("/api/plan/hours", new { byWeekday = new[] { 9, 9, 9, 9, 9, 9, 9 } });
        writer.Open("/plan");
        writer.Drag(writer.Finds(By.XPath("//aside//a[contains(., 'Nineteen steps')]")), On(10));
        writer.Sees("P 14 on");
        writer.Until(() => Stands("Nineteen steps", 10), "the undated piece on its day");
        var idea = writer.Finds(By.CssSelector("section[aria-label=Ideas] li a"));
        writer.Drag(idea, On(3));
        writer.Sees("Started P 48");
        writer.Until(
            () => writer.Driver.FindElements(By.CssSelector($"[data-day='{Day(3)}'] [data-entry^='due 48 ']")).Count == 1,
            "what was begun"
        );
        writer.UndoOf("Started P 48");
        writer.SeesNot("Started P 48, on");
        // A stage of its own day, left to its date again by undo.
        var stage = writer.Finds(By.CssSelector("[data-entry^='stage 14 ']"));
        var name = stage.GetDomAttribute("data-entry");
        writer.Drag(stage, On(2));
        writer.Sees("of P 14 by");
        writer.Until(
            () => writer.Driver.FindElements(By.CssSelector($"[data-day='{Day(2)}'] [data-entry='{name}']")).Count == 1,
            "the stage on its day"
        );
        var move = writer.Finds(By.CssSelector("[data-entry^='move ']"));
        var moved = move.GetDomAttribute("data-entry");
        writer.Drag(move, On(2));
        writer.Until(
            () => writer.Driver.FindElements(By.CssSelector($"[data-day='{Day(2)}'] [data-entry='{moved}']")).Count == 1,
            "the move on its day"
        );
    }

    [Fact]
    public void A_filling_is_taken_in_part_and_undone()
    {
        // Hours enough for something to be proposed.
        writer.Put("/api/plan/hours", new { byWeekday = new[] { 9, 9, 9, 9, 9, 9, 9 } });
        writer.Open("/plan");
        writer.Press("Fill the open dates");
        var proposal = writer.Part("Proposal");
        writer.Until(() => proposal.FindElements(By.CssSelector("input[type=checkbox]")).Count > 1, "more than one place");
        var count = proposal.FindElements(By.CssSelector("input[type=checkbox]")).Count;
        proposal.Text.ShouldContain("worth");
        writer.Part("Left out").Text.ShouldNotBeEmpty();
        for (var place = 1; place < count; place++)
            proposal.FindElements(By.CssSelector("input[type=checkbox]"))[place].Click();
        writer.Press("Take the one");
        writer.Sees("has its date.");
        writer.Until(() => new Uri(writer.Driver.Url).AbsolutePath == "/plan", "the weeks");
        writer.UndoOf("has its date.");
        writer.Open("/plan/filling");
        writer.Until(
            () => writer.Part("Proposal").FindElements(By.CssSelector("input[type=checkbox]")).Count == count,
            "as many places as before"
        );
    }

    [Fact]
    public void An_open_date_is_filled_from_itself_or_falls_out_and_the_agenda_holds_it_on_a_phone()
    {
        writer.Press("open: Letter");
        writer.Press("Let it fall out");
        writer.Sees("No letter on");
        writer.UndoOf("No letter on");
        writer.Press("open: Letter");
        writer.Press("Begin a piece for it");
        writer.Field("Title").SendKeys("What the river kept");
        writer.Press("Start", writer.Part("Start a piece"));
        writer.Sees("Started P 48.");
        writer.Server("/api/pieces/48").ShouldContain("\"outlet\":1");
        writer.View(390, 844);
        writer.Open("/plan");
        writer.Part("Agenda").Text.ShouldContain("What the river kept");
    }

    [Fact]
    public void Outlets_are_layers_and_what_is_shown_is_chosen_and_stays_after_a_reload()
    {
        writer.Until(() => Card("Letter 40").Displayed, "the letter");
        writer.Press("Low Water");
        writer.Until(
            () => writer.Driver.FindElements(By.XPath("//*[@data-day]//a[contains(., 'Letter 40')]")).Count == 0,
            "the letters hidden"
        );
        writer.Driver.Navigate().Refresh();
        writer.Sees("The price of the far bank");
        writer.Driver.FindElements(By.XPath("//*[@data-day]//a[contains(., 'Letter 40')]")).ShouldBeEmpty();
        writer.Press("Low Water");
        writer.Until(() => Card("Letter 40").Displayed, "the letters again");
        writer.Press("What is shown");
        writer.Press("the days stages are done by");
        writer.Until(() => writer.Driver.FindElements(By.CssSelector("[data-entry^='stage ']")).Count == 0, "no stage dates");
        writer.Press("quarter");
        writer.Until(() => writer.Driver.FindElements(By.CssSelector("[role=rowheader]")).Count == 13, "thirteen weeks");
        writer.Press("year");
        writer.Until(() => writer.Driver.FindElements(By.CssSelector("[role=rowheader]")).Count == 53, "a year of weeks");
    }
}
