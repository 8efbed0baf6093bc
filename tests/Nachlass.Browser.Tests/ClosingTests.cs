using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>A piece that went out is closed, by keys and by hand, with the demo papers.</summary>
public sealed class ClosingTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public ClosingTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void Closing_a_piece_puts_what_was_learned_back_into_the_notes()
    {
        writer.Open("/catalogue").Sees("To close");
        writer.Finds(By.CssSelector("[aria-label='To close'] li a")).Click();
        writer.Sees("Passages worth keeping");
        var address = writer.Driver.Url;
        writer.Field("What do you know now that you did not before?").SendKeys("A step can be missing and stood on.");
        // What is typed is held before it is left.
        writer.Driver.Navigate().Refresh();
        writer.Until(
            () => writer.Value("What do you know now that you did not before?") == "A step can be missing and stood on.",
            "what was typed"
        );
        writer.Field("What would you do otherwise next time?").SendKeys("Count with a second person." + Keys.Control + Keys.Enter);

        writer.Part("Passages worth keeping").Text.ShouldContain("2 passages");
        writer.Keys(Keys.ArrowDown);
        writer.Keys("r");
        writer.Sees("Kept as a claim, slip ");
        writer.Until(() => writer.Part("Passages worth keeping").Text.Contains("1 passage"), "one passage");
        writer.Keys("k");
        writer.Sees("Everything that was worth it is kept.");
        // The last one is taken back by its key, and kept again by hand.
        writer.Keys("z");
        writer.Until(() => writer.Part("Passages worth keeping").Text.Contains("1 passage"), "one passage");
        writer.Press("Keep as a slip");
        writer.Sees("Everything that was worth it is kept.");
        writer.Part("Kept of it").Text.ShouldContain("claim, slip");

        writer.Press("Close the piece");
        writer.Sees("What you learned is");
        writer.Finds(By.CssSelector("[aria-label='Closing it'] p a")).Click();
        writer.Sees("A step can be missing and stood on.");
        writer.Sees("The claim in one line");

        writer.Open("/catalogue/learned").Sees("Count with a second person.");
        writer.Open("/catalogue").Sees("What went out");
        writer.SeesNot("To close");
        // The next letter begins with what was to be done otherwise.
        writer.Open("/bench");
        writer.Press("Start a piece");
        writer.Finds(By.CssSelector("input[name=format][value=letter]")).Click();
        writer.Sees("Count with a second person.");

        writer.Driver.Navigate().GoToUrl(address);
        writer.Press("Open it again");
        writer.Sees("Close the piece");
    }
}
