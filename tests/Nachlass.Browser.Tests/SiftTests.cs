using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>Deciding what waits, with the demo papers.</summary>
public sealed class SiftTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public SiftTests() => writer = new Writer(app).Open("/sift/86");

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void A_sitting_goes_by_single_keys_and_back_again()
    {
        writer.Sees("14\nwaiting");
        writer.Part("Reads like").Text.ShouldContain("slip 59");
        writer.Keys("k");
        writer.Sees("Kept slip 86.");
        writer.IsAt("/sift/87");
        writer.Keys("d");
        writer.Sees("Dropped slip 87.");
        writer.Sees("12\nwaiting");
        writer.Keys("z", "z");
        writer.Sees("Took back: kept slip 86.");
        writer.Sees("14\nwaiting");
        writer.IsAt("/sift/86");
        writer.Keys(Keys.ArrowDown);
        writer.IsAt("/sift/87");
    }

    [Fact]
    public void Keys_that_follow_each_other_at_once_meet_one_slip_each()
    {
        writer.Part("Slip 86");
        writer.Keys("kd");
        writer.Sees("Kept slip 86.");
        writer.Sees("Dropped slip 87.");
        writer.IsAt("/sift/88");
    }

    [Fact]
    public void Every_figure_opens_to_what_it_is_made_of()
    {
        writer.Press("How likely ferries is");
        writer.Sees("What carries ferries");
        writer.Sees("slip 59");
        writer.Keys(Keys.Escape);
        writer.Press("How alike The price of the far bank. An essay");
        writer.Sees("The cosine of the two texts");
    }

    [Fact]
    public void What_was_dropped_is_out_of_sight_and_can_be_brought_back()
    {
        writer.Keys("d");
        writer.Sees("Dropped slip 86.");
        writer.Open("/library?query=coin");
        writer.SeesNot("Ferrymen at Ostrey were paid");
        writer.Field("State").SendKeys("dropped");
        writer.Press("Ferrymen at Ostrey were paid");
        writer.IsAt("/library/slip/86?query=coin&state=dropped");
        writer.Press("Bring back to the pile");
        writer.Sees("Back on the pile.");
        writer.Open("/sift/86").Sees("14\nwaiting");
    }

    [Fact]
    public void On_a_phone_one_slip_and_its_decisions_fill_the_screen()
    {
        writer.View(390, 844);
        writer.Open("/sift");
        writer.Press("Keep");
        writer.Sees("13\nwaiting");
        writer.Press("The next, without deciding");
        writer.Press("Pile");
        writer.Press("Would a baker’s account survive?");
        writer.IsAt("/sift/84");
        writer.Press("Hold");
        writer.Press("Tomorrow", writer.Part("Hold until"));
        writer.Sees("12\nwaiting");
        writer.Press("Take back the last of 2");
        writer.Sees("13\nwaiting");
    }

    [Fact]
    public void Topics_holding_merging_and_putting_into_a_piece()
    {
        writer.Press("Likely topic ferries");
        writer.Until(() => writer.Part("Slip 86").Text.Contains("ferries", StringComparison.Ordinal), "the topic on the slip");
        writer.Keys("h");
        writer.Press("In a week", writer.Part("Hold until"));
        writer.Sees("Held until");
        writer.Keys("m");
        writer.Press("A bridge that only opens for eels", writer.Part("Merge into"));
        writer.Sees("Merged into slip 17.");
        writer.Sees("Why do fords keep saints’ names?");
        writer.Keys("1");
        writer.Sees("Put into P 5, Five fords, five saints.");
        writer.Sees("11\nwaiting");
    }
}
