using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>A period as a whole: the sitting over it, its occasions, and figures of how it went, with the demo papers.</summary>
public sealed class PeriodTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public PeriodTests() => writer = new Writer(app).Open("/plan");

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private string Candidate => writer.Part("Candidate").FindElement(By.TagName("h2")).Text;

    private int Open => writer.Driver.FindElements(By.XPath("//aside[@aria-label='Dates']//li[contains(., 'open:')]")).Count;

    [Fact]
    public void The_months_sitting_goes_by_keys_to_filled_dates_and_back()
    {
        writer.Press("or choose one by one");
        var open = 0;
        writer.Until(() => (open = Open) > 2, "open dates");
        var first = Candidate;
        writer.Keys("1");
        writer.Until(() => Open == open - 1, "a date to be filled");
        writer.Until(() => Candidate != first, "the next candidate");
        writer.Part("Dates").Text.ShouldContain(first[..Math.Min(20, first.Length)]);
        var second = Candidate;
        writer.Keys("n");
        writer.Until(() => Candidate != second, "the one after");
        var third = Candidate;
        writer.Keys("v");
        writer.Until(() => Candidate != third, "the one after that");
        // Never is never, in another sitting too, unless it is taken back.
        writer.Press("Take back the last of 3");
        writer.Until(() => Candidate == third, "it to be asked about again");
        writer.Press("Take back the last of 2");
        writer.Until(() => Candidate == second, "what was left for later");
        writer.Keys("1");
        writer.Until(() => Open == open - 2, "another date to be filled");
        writer.Press("That is enough: what it makes");
        writer.Until(() => writer.Part("What it makes").Text.Contains("2 dates are filled", StringComparison.Ordinal), "what it makes");
        writer.Part("What it makes").Text.ShouldContain("week ");
        writer.Part("Mix").Text.ShouldContain("ferries");
        // It goes on where it stopped, after a reload too.
        writer.Driver.Navigate().Refresh();
        writer.Until(() => Open == open - 2, "the dates as they stand");
        writer.Sees("Take back the last of 2");
        writer.Press("Take back the last of 2");
        writer.Until(() => Open == open - 1, "the date to be open again");
    }

    [Fact]
    public void What_a_sitting_took_and_is_undone_elsewhere_is_open_again_in_it()
    {
        writer.Open("/plan/sitting");
        var open = 0;
        writer.Until(() => (open = Open) > 2, "open dates");
        var first = Candidate;
        writer.Keys("1");
        writer.Until(() => Open == open - 1 && Candidate != first, "a date to be filled");
        writer.Press("Undo");
        writer.Until(() => Open == open && Candidate == first, "the date to be open and its candidate asked about again");
        writer.SeesNot("Take back the last of");
    }

    [Fact]
    public void Topics_an_occasions_name_reads_like_are_offered_and_given_by_a_press()
    {
        writer.Open("/plan/occasions");
        writer.Field("Name of the occasion").SendKeys("Rowing regatta");
        writer.Field("First day").SendKeys(Keys.Control + "a");
        writer.Field("First day").SendKeys("in 3 weeks" + Keys.Tab);
        writer.Press("Write it down");
        writer.Sees("Rowing regatta is on");
        writer.Part("What would fit Rowing regatta").Text.ShouldContain("begin for it");
        writer.Press("Likely topic ferries", writer.Part("Rowing regatta"));
        writer.Sees("Rowing regatta is on ferries.");
        writer.Until(() => !writer.Part("Rowing regatta").Text.Contains("likely:", StringComparison.Ordinal), "no more guesses");
        writer.UndoOf("Rowing regatta is on ferries.");
        writer.Until(() => writer.Part("Rowing regatta").Text.Contains("likely:", StringComparison.Ordinal), "the guess again");
    }

    [Fact]
    public void An_occasion_is_written_down_in_words_and_something_is_begun_for_it()
    {
        writer.Open("/plan/occasions");
        writer.Field("Name of the occasion").SendKeys("Blessing of the ferries");
        writer.Field("When it comes again").SendKeys("when it rains" + Keys.Enter);
        writer.Sees("“when it rains” can't be read.");
        writer.Value("Name of the occasion").ShouldBe("Blessing of the ferries");
        writer.Field("When it comes again").SendKeys(Keys.Control + "a");
        writer.Field("When it comes again").SendKeys("every year");
        writer.Field("First day").SendKeys(Keys.Control + "a");
        writer.Field("First day").SendKeys("in 3 weeks" + Keys.Tab);
        writer.Press("Write it down");
        writer.Sees("Blessing of the ferries is on");
        var line = writer.Part("Blessing of the ferries");
        line.Text.ShouldContain("in 21 days");
        // It names a topic, and what is on that would fit.
        line.Text.ShouldContain("ferries");
        writer.Press("begin for it", line);
        writer.Sees("Start a piece");
        writer.Keys(Keys.Escape);
        writer.Select("Show the holidays of", "FR");
        writer.Sees("With those of France.");
        writer.UndoOf("With those of France.");
        writer.Until(
            () => writer.Driver.FindElements(By.XPath("//section[@aria-label='Holidays']//li")).Count == 1,
            "those of France to be gone again"
        );
    }

    [Fact]
    public void Figures_have_their_tables_and_a_goal_says_how_it_stands()
    {
        writer.Open("/plan/figures");
        writer.Sees("Pace: went out by month");
        writer.Until(() => writer.Driver.FindElements(By.CssSelector("svg.recharts-surface")).Count >= 2, "the charts");
        writer.Press("the table behind it", writer.Part("Pace: went out by month"));
        writer.Part("Pace: went out by month").FindElements(By.CssSelector("tbody tr")).Count.ShouldBeInRange(12, 13);
        writer.Press("A goal");
        writer.Field("How many").SendKeys("lots" + Keys.Enter);
        writer.Sees("Say by which day.");
        writer.Field("By").SendKeys("in 60 days" + Keys.Tab);
        writer.Press("Set it");
        writer.Sees("“lots” is no number of pieces out.");
        writer.Field("How many").SendKeys(Keys.Control + "a");
        writer.Field("How many").SendKeys("12");
        writer.Press("Set it");
        writer.Sees("0 of 12 released");
        var table = writer.Server("/api/figures.csv");
        table.ShouldStartWith("figure,of,from,value,count");
        table.ShouldContain("released,Letter,");
    }

    [Fact]
    public void The_next_few_pieces_are_pinned_and_a_key_away()
    {
        writer.Open("/bench/4");
        writer.Press("pin");
        writer.Sees("P 4 is pinned.");
        writer.Open("/bench/16");
        writer.Press("pin");
        writer.Sees("P 16 is pinned.");
        writer.Open("/desk");
        writer.Part("Pinned pieces").Text.ShouldContain("The price of the far bank");
        writer.Keys(Keys.F4);
        writer.IsAt("/bench/16");
        writer.Keys(Keys.F2);
        writer.IsAt("/bench/4");
        writer.Open("/desk");
        writer.Press("Unpin P 4", writer.Part("Pinned pieces"));
        writer.Sees("P 4 is not pinned any more.");
        writer.Server("/api/pinned").ShouldNotContain("The price of the far bank");
    }
}
