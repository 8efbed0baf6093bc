using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>What is done with a piece after it went out, with the demo papers: used again, its figures noted and compared.</summary>
public sealed class AfterwardsTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public AfterwardsTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void Short_posts_are_made_from_an_essay_and_stand_in_its_family()
    {
        writer.Open("/catalogue/again").Sees("Counting eels");
        writer.Finds(By.LinkText("Counting eels")).Click();
        writer.Sees("1 of ");
        // One was chosen before; another is chosen now, and one is let go again.
        Choose("I have now read them.", "Thread");
        writer.Sees("2 of ");
        writer.Sees("2 passages become a piece each");
        writer.Press("Make all 2");
        writer.Sees("All that was chosen has been made.");
        var family = writer.Finds(By.CssSelector("[aria-label='Make of it'] [aria-label='What came of it']"));
        family.Text.ShouldContain("The eel reeves of Ostrey");
        family.Text.ShouldContain("I have now read them");
        family.Text.ShouldContain("a passage of it");
        // One step back takes all of them back.
        writer.UndoOf("Made P ");
        writer.Sees("2 passages become a piece each");
        writer.Press("Make all 2");
        writer.Sees("All that was chosen has been made.");
        writer.Press("Done with it");
        writer.Sees("Done today.");
        writer.Open("/catalogue/22").Sees("What came of it");
        writer.Part("Family").Text.ShouldContain("a passage of it");

        void Choose(string begins, string format)
        {
            var passage = writer.Finds(By.XPath($"//li[.//p[starts-with(normalize-space(), '{begins}')]]"));
            writer.Press("choose as ▾", passage);
            writer.Finds(By.XPath($"//*[@role='menuitem'][starts-with(normalize-space(), '{format}')]")).Click();
        }
    }

    [Fact]
    public void Cuts_of_a_recording_have_times_that_are_checked_and_what_was_typed_stays()
    {
        writer.Open("/catalogue/again/43").Sees("Clips and cuts");
        writer.Field("A new cut").SendKeys("The far bank");
        writer.Field("It begins at").SendKeys("1:75");
        writer.Field("It ends at").SendKeys("2:00" + Keys.Enter);
        writer.Sees("“1:75” is no time; a minute has sixty seconds.");
        writer.Value("A new cut").ShouldBe("The far bank");
        writer.Fill(writer.Field("It begins at"), "1:45");
        writer.Press("Cut");
        writer.Sees("0:15 in all");
        writer.Driver.Navigate().Refresh();
        writer.Sees("0:15 in all");
        writer.Server("/api/pieces/43/cuts.vtt").ShouldContain("00:01:45.000 --> 00:02:00.000");
        writer.Press("cut it out");
        writer.Sees("Cut out; set its times by the recording.");
    }

    [Fact]
    public void A_figure_is_noted_and_groups_are_compared_with_how_sure_that_is()
    {
        writer.Open("/catalogue/38").Sees("Figures");
        writer.Field("What was counted").SendKeys("forwards");
        writer.Field("How many in all").SendKeys("many" + Keys.Enter);
        writer.Sees("“many” is no whole number.");
        writer.Fill(writer.Field("How many in all"), "1,204");
        writer.Press("Note");
        writer.Sees("Noted forwards.");
        writer.Part("Figures").Text.ShouldContain("1,204");
        writer.UndoOf("Noted forwards.");
        writer.Until(() => !writer.Part("Figures").Text.Contains("1,204"), "the figure to be gone");
        writer.Press("ask its outlet");
        writer.Sees("This outlet tells no figures.");

        writer.Finds(By.LinkText("Compare it with others")).Click();
        writer.Select("Compare", "replies");
        writer.Select("by what", "tried");
        writer.Select("on which outlet", "1");
        writer.Sees("a question answered in one line");
        writer.Sees("more than the others");
        writer.Select("by what", "topic");
        writer.Sees("too few to say");
        var at = writer.Driver.Url;
        at.ShouldContain("by=topic");
        writer.Driver.Navigate().Refresh();
        writer.Sees("too few to say");
        writer.Driver.Navigate().Back();
        writer.Sees("Letter 39");
    }

    [Fact]
    public void The_catalogue_stands_by_any_field_and_a_view_of_it_is_kept()
    {
        writer.Open("/catalogue").Sees("Spoken and live");
        writer.Press("Spoken and live");
        writer.Sees("spoken version · ");
        writer.Sees("special event · 2 pieces");
        writer.Select("by", "topic");
        writer.Field("Only those with").SendKeys("eels");
        writer.Press("keep this view");
        writer.Field("Name of the view").SendKeys("spoken AND live" + Keys.Enter);
        writer.Sees("There is a view called “spoken AND live” already.");
        writer.Fill(writer.Field("Name of the view"), "Eels by topic" + Keys.Enter);
        writer.Sees("Kept the view Eels by topic.");
        writer.Open("/catalogue");
        writer.Press("Eels by topic");
        writer.Sees("Counting eels");
        writer.Value("Only those with").ShouldBe("eels");
        writer.Finds(By.TagName("table")).Text.ShouldNotContain("A rope is a promise");
        writer.Press("take away");
        writer.Sees("Took the view away.");
        writer.UndoOf("Took the view away.");
        writer.Sees("Eels by topic");
    }
}
