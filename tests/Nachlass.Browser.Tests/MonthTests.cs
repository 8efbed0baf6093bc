using System.Text.Json.Nodes;
using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>Topics put in an order with their reasons, and a month made from it.</summary>
public sealed class MonthTests : IDisposable
{
    private readonly App app = App.WithWholeDemo();
    private readonly Writer writer;

    public MonthTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private IReadOnlyList<string> Dates =>
        [
            .. writer
                .Driver.FindElements(By.CssSelector("textarea[aria-label^='What goes out on']"))
                .Select(f => f.GetDomProperty("value") ?? ""),
        ];

    [Fact]
    public void Topics_are_ordered_with_reasons_and_become_a_month_that_is_changed_taken_and_undone()
    {
        writer.Open("/topics");
        writer.Press("In what order");
        var order = writer.Part("Topics in order");
        writer.Until(() => order.FindElements(By.CssSelector("li")).Count > 10, "the topics");
        // Why one stands where it stands, each figure open, and the months as a table.
        writer.Press("Why maps stands here");
        writer.Sees("4 readers want something on it");
        writer.Sees("texts in 90 days");
        writer.Press("month by month");
        writer.Sees("RELEASES");
        // Chosen and typed ones; the address keeps them.
        var field = writer.Field("A topic to put in, or several with commas");
        field.SendKeys("ferries, weirs, sundials" + Keys.Enter);
        writer.Until(() => writer.Part("Topics in order").FindElements(By.CssSelector("ol > li")).Count == 3, "only those three");
        writer.Driver.Navigate().Refresh();
        writer.Until(() => writer.Part("Topics in order").FindElements(By.CssSelector("ol > li")).Count == 3, "the same after a reload");
        writer.Part("Topics in order").Text.ShouldContain("sundials");
        // What counts is weighed, at once and as a step of undo.
        var steps = writer.Driver.FindElement(By.CssSelector("[aria-label='How much coverage counts']"));
        steps.SendKeys("5");
        writer.Sees("Topics are weighed so now.");
        writer.UndoOf("Topics are weighed so now.");
        writer.Until(
            () =>
                writer.Driver.FindElement(By.CssSelector("[aria-label='How much coverage counts']")).GetDomAttribute("aria-valuetext")
                == "3 of 5",
            "the weight as it was"
        );

        // Weeks can begin later than today; the address keeps that too.
        writer.Fill(writer.Field("From which day"), "3 March 2020" + Keys.Tab);
        writer.Sees("3 Mar 2020 is before");
        writer.Value("From which day").ShouldBe("3 March 2020");
        writer.Fill(writer.Field("From which day"), "7 January 2030" + Keys.Tab);
        writer.Until(() => writer.Driver.Url.Contains("from=2030-01-07", StringComparison.Ordinal), "the later day");
        writer.Press("Propose a month from these");
        writer.Sees("Monday 7 January 2030 to Sunday 3 February 2030");
        writer.Press("the order of topics");
        writer.Fill(writer.Field("From which day"), Keys.Delete + Keys.Tab);
        writer.Until(() => !writer.Driver.Url.Contains("from=", StringComparison.Ordinal), "from today on");

        writer.Press("Propose a month from these");
        writer.Until(() => Dates.Count > 2, "the dates");
        var (first, count) = (Dates[0], Dates.Count);
        // Other words, another idea, two dates exchanged, one left out; a reload keeps it all.
        var words = writer.Driver.FindElements(By.CssSelector("textarea[aria-label^='What goes out on']"))[0];
        words.SendKeys(" In winter.");
        writer.Driver.FindElements(By.XPath("//button[starts-with(., 'another')]"))[1].Click();
        writer.Driver.FindElements(By.CssSelector("[aria-label^='Exchange with the date after']"))[0].Click();
        writer.Until(() => Dates[1].EndsWith("In winter.", StringComparison.Ordinal), "the two exchanged");
        // Another form and outlet on a date.
        void Choose(string what, string name) =>
            writer
                .Driver.FindElements(By.CssSelector($"select[aria-label^='{what} of']"))[1]
                .FindElement(By.XPath($"option[.='{name}']"))
                .Click();
        Choose("Form", "Talk");
        Choose("Outlet", "Walks and films");
        writer.Driver.FindElements(By.CssSelector("input[aria-label^='Take ']"))[2].Click();
        var changed = Dates;
        writer.Driver.Navigate().Refresh();
        writer.Until(() => Dates.Count == count && Dates.SequenceEqual(changed), "what was changed, after a reload");
        writer.Press("why");
        writer.Sees("No hour is set for the outlet");

        var before = writer.Server("/api/pieces");
        writer.Press($"Take the {count - 1} into the plan");
        writer.Sees($"{count - 1} dates are in the plan.");
        writer.Until(
            () => writer.Driver.Url.Contains("/plan?from=", StringComparison.Ordinal) && writer.Driver.PageSource.Contains("In winter."),
            "the weeks with it"
        );
        var taken = JsonNode
            .Parse(writer.Server("/api/pieces"))!
            .AsArray()
            .Single(one => one!["title"]!.GetValue<string>().EndsWith("In winter.", StringComparison.Ordinal))!;
        (taken["format"]!.GetValue<string>(), taken["outlet"]!.GetValue<int>()).ShouldBe(("talk", 4));
        writer.UndoOf($"{count - 1} dates are in the plan.");
        writer.Until(() => writer.Server("/api/pieces") == before, "the plan as it was");
    }

    [Fact]
    public void A_topic_of_a_date_is_changed_more_dates_are_asked_for_and_what_promotes_stays_small()
    {
        writer.Open("/plan/proposal?perWeek=3&spacing=3");
        writer.Until(() => Dates.Count > 8, "three dates a week");
        var topic = writer.Driver.FindElements(By.CssSelector("select[aria-label^='Topic of']"))[0];
        var before = Dates[0];
        topic.FindElement(By.XPath("option[.='ropes']")).Click();
        writer.Until(() => Dates[0] != before, "an idea on the other topic");
        writer.Driver.FindElements(By.CssSelector("select[aria-label^='Topic of']"))[0].GetDomProperty("value").ShouldBe("ropes");
        writer.Press("as it was proposed");
        writer.Until(() => Dates[0] == before, "what was proposed");
        writer.Driver.FindElement(By.CssSelector("[aria-label='Thread promotes me']")).Click();
        writer.Until(
            () =>
                writer
                    .Part("A mix of forms")
                    .FindElements(By.CssSelector("tbody tr"))[^1]
                    .Text.StartsWith("Thread", StringComparison.Ordinal),
            "the thread with the smallest share"
        );
        // A date without words can't be taken, and says so.
        var words = writer.Driver.FindElements(By.CssSelector("textarea[aria-label^='What goes out on']"))[0];
        words.SendKeys(Keys.Control + "a");
        words.SendKeys(Keys.Delete);
        writer.Sees("A date has no words: write some, or leave it out.");
        // Too many are said too, and none is cut.
        writer.Fill(words, new string('y', 1_001));
        writer.Sees("is longer than 1,000 characters.");
        words.GetDomProperty("value")!.Length.ShouldBe(1_001);
    }
}
