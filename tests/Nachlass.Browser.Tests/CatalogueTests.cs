using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>The catalogue: what went out and where not yet, and what was said in it, with the demo papers.</summary>
public sealed class CatalogueTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public CatalogueTests() => writer = new Writer(app).Open("/catalogue");

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    [Fact]
    public void Did_I_mention_answers_with_the_very_sentence_which_is_called_back_in_a_piece_in_hand()
    {
        writer.Field("Did I mention").SendKeys("the tenth eel");
        writer.Sees("The bishop’s toll was the tenth eel.");
        writer.Press("call back: Put a reference to “Letter 34: The eel and the bishop” into a piece");
        writer.Press("in P 4 The price of the far bank");
        writer.Sees("It stands at the end of P 4, with its sentence.");

        // It is kept in the address, so that it can be gone back to.
        writer.IsAt("/catalogue?mention=the+tenth+eel");
        writer.Driver.Navigate().Refresh();
        writer.Sees("The bishop’s toll was the tenth eel.");
        writer.Server("/api/pieces/4/draft").ShouldContain("[[P 33]]");

        writer.Open("/catalogue?mention=a+submarine+of+glass").Sees("Not in these words.");
    }

    [Fact]
    public void A_piece_goes_out_elsewhere_too_with_its_own_address_and_what_cannot_be_stays_as_typed()
    {
        writer.Open("/catalogue/outlets/4").Sees("Could go there as it is");
        writer.Press("Could go to Walks and films too: “Three ways of asking”");
        writer.Press("It is out there: note it");
        writer.Field("Address").SendKeys("walks.example/three");
        writer.Press("Note it");
        writer.Sees("“walks.example/three” is no web address; one begins with https://.");
        writer.Value("Address").ShouldBe("walks.example/three");
        writer.Field("Address").SendKeys(Keys.Home + "https://");
        writer.Press("Note it");
        writer.Sees("It stands in the Catalogue as R 39.");
        writer.Until(
            () => writer.Part("Went out there").Text.Contains("Three ways of asking", StringComparison.Ordinal),
            "it among those that went out there"
        );

        writer.Open("/catalogue/39").Sees("sent by hand");
        writer.Sees("Elsewhere");
        writer.Press("More about this release");
        writer.Press("Noted by mistake: take it away");
        writer.Sees("Took R 39 away.");
        writer.UndoOf("Took R 39 away.");
        writer.Open("/catalogue/39").Sees("sent by hand");
    }

    [Fact]
    public void Never_there_takes_a_piece_off_the_list_and_undo_puts_it_back()
    {
        writer.Open("/catalogue/outlets/4").Sees("Could go there as it is");
        writer.Press("Could go to Walks and films too: “How to stand on a bridge”");
        writer.Press("Never there");
        writer.Sees("“How to stand on a bridge” is never to go to Walks and films.");
        writer.Until(
            () => !writer.Part("Could go there as it is").Text.Contains("How to stand", StringComparison.Ordinal),
            "it off the list"
        );
        writer.UndoOf("“How to stand on a bridge” is never to go to Walks and films.");
        writer.Until(
            () => writer.Part("Could go there as it is").Text.Contains("How to stand", StringComparison.Ordinal),
            "it on the list again"
        );
    }

    [Fact]
    public void What_a_release_speaks_of_makes_the_line_that_announces_it()
    {
        writer.Open("/catalogue/35").Sees("What it speaks of");
        writer.Field("It speaks of").SendKeys("the line that was painted over" + Keys.Enter);
        writer.Until(() => writer.Value("Words 1") == "the line that was painted over", "it in the table");
        writer.Field("It speaks of").SendKeys("what a goose paid" + Keys.Enter);
        writer.Until(() => writer.Value("Words 2") == "what a goose paid", "both in the table");
        writer.Open("/catalogue").Sees("The line that was painted over; what a goose paid.");
    }

    [Fact]
    public void An_error_found_afterwards_is_put_right_beside_what_was_sent()
    {
        writer.Open("/catalogue/38").Sees("Nineteen or eighteen");
        writer.Press("More about this release");
        writer.Press("Put an error right");
        writer.Field("What was wrong, as readers are told").SendKeys("The landing is at Harnsby.");
        writer.Press("Note it");
        writer.Sees("P 9 reads as it was sent. Put it right in its draft first.");
        writer.Value("What was wrong, as readers are told").ShouldBe("The landing is at Harnsby.");
    }

    [Fact]
    public void The_list_is_narrowed_folded_and_seen_by_series_as_covers_and_as_a_year()
    {
        writer.Field("Only those with").SendKeys("eels bishop");
        writer.Sees("1 of 38 pieces");
        writer.IsAt("/catalogue?with=eels+bishop");
        writer.Driver.Navigate().Refresh();
        writer.Sees("1 of 38 pieces");
        writer.Open("/catalogue").SeesNot("What a weir is for");
        writer.Press("2025 · 6 pieces");
        writer.Sees("What a weir is for");
        writer.Press("covers");
        writer.Sees("35 without a picture");
        writer.Press("the year in review");
        writer.Sees("the longest");
        writer.Press("2025");
        writer.IsAt("/catalogue/years/2025");
        writer.Sees("2025 in review");
    }
}
