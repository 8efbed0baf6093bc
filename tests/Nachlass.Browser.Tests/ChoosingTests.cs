using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>Choosing what to begin, by what speaks for it and against that.</summary>
public sealed class ChoosingTests : IDisposable
{
    private readonly App app = App.Empty();
    private readonly Writer writer;

    public ChoosingTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private void Pull(int slip, int pull) =>
        writer.Send(
            "/api/slips/several",
            new
            {
                slips = new[] { slip },
                pull,
                effort = 3,
                formats = new[] { "essay" },
            }
        );

    [Fact]
    public void The_next_piece_is_chosen_by_its_terms_and_against_them()
    {
        writer.Open("/bench/begin");
        writer.Sees("Nothing could become a piece yet");
        writer.Catch(
            "Ferrymen at Ostrey were paid in bread on flood days #tolls",
            "Weir keepers wrote one line a day about the water #weirs",
            "“Four loaves of bread for the ferrymen at Ostrey on flood days” #tolls",
            "“Paid in bread: ferrymen, Ostrey, flood days” #tolls",
            "“The ferrymen were paid in loaves on flood days at Ostrey” #tolls"
        );
        Pull(1, 4);
        Pull(2, 5);
        writer.Open("/bench/begin");
        writer.Sees("2 ideas that could become a piece");
        // The one with material stands first; pressing it says why, with the passage one press away.
        var first = writer.Button("Ferrymen at Ostrey were paid in bread on flood days");
        first.Click();
        var list = writer.Finds(By.CssSelector("main ol"));
        list.Text.IndexOf("Ferrymen", StringComparison.Ordinal)
            .ShouldBeLessThan(list.Text.IndexOf("Weir keepers", StringComparison.Ordinal));
        writer.Sees("three passages");
        writer.Sees("Beside slip 2");
        writer.Sees("It draws you more (5 against 4)");
        writer.Sees("nothing lies ready for it");
        writer.Sees("Not known, so left out:");
        // Weighed otherwise the other stands above, at once and in the same place; one step back and it is as before.
        writer.Press("How ideas are weighed");
        writer.Press("by what draws me");
        writer.Sees("Weighed by what draws me now.");
        writer.Until(() => writer.Finds(By.CssSelector("main ol")).Text.StartsWith('2'), "the weir keepers first");
        writer.UndoOf("Weighed by what draws me now.");
        writer.Until(() => writer.Finds(By.CssSelector("main ol")).Text.StartsWith('1'), "the ferrymen first");
        // One's own weight, by key.
        var asks = writer.Finds(By.CssSelector("[aria-label='How much pull counts']"));
        asks.SendKeys("1");
        writer.Sees("pull counts 1 of 5 now.");
        writer.Sees("as I like it");
        // Against the order: the second is taken, and that is only remembered.
        writer.Finds(By.CssSelector("button[aria-label^='Weir keepers']")).Click();
        writer.Press("Start the essay");
        writer.Press("Start", writer.Part("Start a piece"));
        writer.Until(() => writer.Driver.Url.Contains("/bench/1", StringComparison.Ordinal), "the piece");
        writer.Open("/bench/begin");
        writer.Sees("1 idea that could become a piece");
        writer.Sees("in 1 of 1 choice");
        writer.Press("what you chose so far");
        var chosen = writer.Part("What you chose");
        chosen.Text.ShouldContain("2 of 2");
        chosen.Text.ShouldContain("Gather");
        chosen.Text.ShouldContain("After 11 more choices");
    }

    [Fact]
    public void Worth_stands_where_one_decides()
    {
        writer.Catch("A great idea #tolls", "A small idea #tolls", "Another idea #weirs");
        Pull(1, 5);
        Pull(2, 1);
        Pull(3, 3);
        writer.Open("/bench");
        writer.Part("Next to begin").Text.ShouldContain("A great idea");
        writer.Open("/topics/1");
        var here = writer.Part("Next to begin");
        here.Text.ShouldContain("A great idea");
        here.Text.ShouldNotContain("Another idea");
        writer.Open("/sift?order=worth");
        var pile = writer.Part("Waiting slips");
        pile.Text.IndexOf("A great", StringComparison.Ordinal).ShouldBeLessThan(pile.Text.IndexOf("A small", StringComparison.Ordinal));
        writer.Open("/library?sort=worth&layout=table&columns=number,text,worth");
        writer.Sees("worth");
        writer.Open("/library?query=" + Uri.EscapeDataString("worth>=1 worth<=100 topic:weirs"));
        writer.Sees("Another idea");
        writer.SeesNot("A great idea");
        // A core topic's wished share, on Topics, with a sum that has to make sense.
        writer.Open("/topics");
        var share = writer.Field("Wished share of tolls, in per cent");
        writer.Fill(share, "70");
        share.SendKeys(Keys.Enter);
        writer.Sees("Core topics: 70 %");
        var other = writer.Field("Wished share of weirs, in per cent");
        writer.Fill(other, "40");
        other.SendKeys(Keys.Enter);
        writer.Sees("The wished shares would be 110 % together");
        writer.Value("Wished share of weirs, in per cent").ShouldBe("40");
        writer.Fill(writer.Field("Wished share of weirs, in per cent"), "30");
        writer.Field("Wished share of weirs, in per cent").SendKeys(Keys.Enter);
        writer.Sees("Core topics: 100 %");
        writer.Open("/bench/begin");
        writer.Button("A great idea").Click();
        writer.Sees("tolls: 0 % of what went out, 70 % wished");
    }

    [Fact]
    public void A_piece_from_a_topic_says_first_that_it_has_been_said()
    {
        const string said = "Ferrymen at Ostrey were paid in bread whenever the river stood over the stage.";
        writer.Catch(said + " #tolls", "A board, repainted #tolls");
        writer.Send("/api/slips/several", new { slips = new[] { 1 }, pull = 5 });
        writer.Send("/api/slips/several", new { slips = new[] { 1, 2 }, decision = new { decision = "keep" } });
        writer.Send("/api/pieces", new { title = "Bread for coin", format = "essay" });
        writer.Open("/bench/1");
        writer.Press("Go to section 1 in the draft");
        writer.Keys(said);
        writer.Sees("14 of");
        writer.Until(
            () => writer.Server("/api/pieces/1/draft").Contains("stood over the stage", StringComparison.Ordinal),
            "the draft kept"
        );
        writer.Open("/topics/1");
        writer.Press("Start a piece…");
        var dialog = writer.Part("Start a piece");
        writer.Part("Said already").Text.ShouldContain("Bread for coin");
        writer.Part("Said already").Text.ShouldContain("whenever the river stood");
        writer.Part("What comes along").Text.ShouldContain("draws you 5 of 5");
        // Put there instead: nothing new is begun.
        writer.Press("Add it there instead");
        writer.IsAt("/bench/1");
        writer.Server("/api/pieces/1/material").ShouldContain("\"number\":1");
        writer.Server("/api/pieces").Split("\"startedAt\"").Length.ShouldBe(2);
        // From the slip that is left, with a title of its own words and what comes along.
        writer.Open("/library/slip/2");
        writer.Press("Decide");
        writer.Press("Start a piece…");
        writer.Part("What comes along").Text.ShouldContain("the idea itself");
        writer.Finds(By.CssSelector("input[value=letter]")).Click();
        writer.Sees("It gets the number 1");
        writer.Press("Start", writer.Part("Start a piece"));
        writer.IsAt("/bench/2");
        writer.Sees("Letter 1: A board, repainted");
        writer.UndoOf("Started P 2.");
        writer.Until(() => !writer.Server("/api/pieces").Contains("\"number\":2,", StringComparison.Ordinal), "the piece to be gone");
    }
}
