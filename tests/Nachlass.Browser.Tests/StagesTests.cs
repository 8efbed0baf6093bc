using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>Where pieces stand, and what follows from it, with the demo papers.</summary>
public sealed class StagesTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public StagesTests() => writer = new Writer(app).Open("/plan/stages");

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private IWebElement Marker(int piece) => writer.Finds(By.CssSelector($"[role=slider][aria-label='Stage of P {piece}']"));

    private string StageOf(int piece) =>
        System.Text.Json.JsonDocument.Parse(writer.Server($"/api/pieces/{piece}")).RootElement.GetProperty("stage").GetString()!;

    [Fact]
    public void A_piece_goes_along_its_own_stages_by_drag_and_by_key_and_back_by_undo()
    {
        var marker = Marker(4);
        marker.GetAttribute("aria-valuetext")!.ShouldStartWith("Draft, ");
        var ready = writer.Finds(By.XPath("//section[@aria-label='Essay']//*[@title='Ready']"));
        writer.Drag(marker, ready);
        writer.Sees("P 4 moved to Ready.");
        writer.Until(() => StageOf(4) == "Ready", "it to stand at Ready");
        writer.Until(() => Marker(4).GetAttribute("aria-valuetext") == "Ready, since today", "it to have come today");
        writer.UndoOf("P 4 moved to Ready.");
        writer.Until(() => StageOf(4) == "Draft", "it to stand at Draft again");
        writer.Until(() => Marker(4).GetAttribute("aria-valuetext")!.StartsWith("Draft, ", StringComparison.Ordinal), "its marker there");
        Marker(4).SendKeys(Keys.ArrowRight);
        writer.Sees("P 4 moved to Edit.");
        writer.Press("columns");
        var row = writer.Finds(By.XPath("//ul[@aria-label='Essay at Edit']//a[contains(., 'The price of the far bank')]"));
        row.SendKeys("[");
        writer.Sees("P 4 moved to Draft.");
    }

    [Fact]
    public void What_is_pressed_quickly_goes_in_turn()
    {
        StageOf(5).ShouldBe("Gather");
        Marker(5).SendKeys(Keys.ArrowRight + Keys.ArrowRight);
        writer.Sees("P 5 moved to Ready.");
        writer.Until(() => StageOf(5) == "Ready", "it to stand two stages on");
        writer.SeesNot("changed elsewhere");
    }

    [Fact]
    public void More_than_are_wished_at_a_stage_are_let_in_and_said()
    {
        writer.Press("At Edit: 1 there", writer.Part("Essay"));
        writer.Field("At most; empty for any number").SendKeys("many" + Keys.Enter);
        writer.Sees("“many” is no number of pieces");
        writer.Field("At most; empty for any number").SendKeys(Keys.Control + "a");
        writer.Field("At most; empty for any number").SendKeys("1" + Keys.Enter);
        writer.Sees("At most 1 are to stand at Edit.");
        writer.Until(() => writer.Driver.FindElements(By.CssSelector("[role=dialog]")).Count == 0, "the dialog to be gone");
        Marker(4).SendKeys(Keys.ArrowRight);
        writer.Sees("P 4 moved to Edit. 2 stand there; 1 are wished.");
        writer.Button("At Edit: 2 there of 1", writer.Part("Essay")).GetAttribute("class")!.ShouldContain("text-red");
    }

    [Fact]
    public void States_are_the_writers_own_words_and_pieces_are_found_by_them()
    {
        writer.Press("Give P 4 a state");
        writer.Press("another …");
        writer.Field("What holds of it, whatever its stage").SendKeys("for the almanac" + Keys.Enter);
        writer.Sees("P 4 is “for the almanac”.");
        writer.Press("for the almanac", writer.Part("Only those that are"));
        writer.IsAt("/plan/stages?word=for+the+almanac");
        writer.Sees("1 piece in hand");
        writer.SeesNot("A year at the water");
    }

    [Fact]
    public void Going_out_asks_once_for_day_outlet_and_address_and_stands_in_the_catalogue()
    {
        Marker(2).SendKeys(Keys.ArrowRight);
        writer.Sees("“Letter 40: The bell on the wrong bank” goes out");
        writer.Field("Address").SendKeys("nowhere" + Keys.Enter);
        writer.Sees("“nowhere” is no web address");
        StageOf(2).ShouldBe("Ready");
        writer.Field("Address").SendKeys(Keys.Control + "a");
        writer.Field("Address").SendKeys("https://tavle.example/40" + Keys.Enter);
        writer.Sees("P 2 is out.");
        writer.Open("/catalogue").Sees("Letter 40: The bell on the wrong bank");
        writer.Finds(By.CssSelector("a[href='https://tavle.example/40']"));
        writer.Server("/api/pieces/2").ShouldContain("\"outlet\":1");
    }

    [Fact]
    public void A_rule_is_tried_on_the_past_switched_on_and_follows_once()
    {
        writer.Press("New rule");
        writer.Field("Name").SendKeys("Pell reads it first");
        writer.Select("Of which format", "essay");
        writer.Select("To which stage", "Edit");
        writer.Select("What follows, 1", "move");
        writer.Field("The move").SendKeys("Send “{{ title }}” to Pell");
        writer.Button("Switch on").Enabled.ShouldBeFalse();
        writer.Press("Show what it would have done");
        writer.Sees("pieces that came to Edit");
        writer.Part("What it would have done").Text.ShouldContain("make the move");
        writer.Press("Switch on");
        writer.Sees("The rule is on.");
        writer.Server("/api/moves").ShouldNotContain("to Pell");
        Marker(4).SendKeys(Keys.ArrowRight);
        writer.Sees("The rule “Pell reads it first” followed for P 4.");
        writer.Server("/api/moves").ShouldContain("Send “The price of the far bank” to Pell");
        writer.Until(() => Marker(4).GetAttribute("aria-valuetext") == "Edit, since today", "it to stand at Edit");
        Marker(4).SendKeys(Keys.ArrowLeft);
        writer.Sees("P 4 moved to Draft.");
        writer.Until(() => StageOf(4) == "Draft", "it to stand at Draft");
        writer.Until(() => Marker(4).GetAttribute("aria-valuetext") == "Draft, since today", "its marker there");
        Marker(4).SendKeys(Keys.ArrowRight);
        writer.Until(() => StageOf(4) == "Edit", "it to stand at Edit again");
        writer.Server("/api/moves").Split("to Pell").Length.ShouldBe(2);
        writer.Part("What follows from a stage").Text.ShouldContain("It followed for P 4");
    }
}
