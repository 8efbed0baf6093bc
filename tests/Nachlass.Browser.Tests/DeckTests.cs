using OpenQA.Selenium;

namespace Nachlass.Browser.Tests;

/// <summary>Cards drawn at an empty section, on the day sheet and at the strip.</summary>
public sealed class DeckTests : IDisposable
{
    private readonly App app = App.WithDemoPapers();
    private readonly Writer writer;

    public DeckTests() => writer = new Writer(app);

    public void Dispose()
    {
        writer.Dispose();
        app.Dispose();
    }

    private string Card => writer.Part("A card").FindElement(By.CssSelector("[role=status]")).Text;

    private string Draw()
    {
        writer.Chord(Keys.Alt, "q");
        writer.Until(() => Card.Length > 0, "a card");
        return Card;
    }

    private string Active(string what) => writer.Driver.ExecuteScript($"return document.activeElement.{what} ?? ''")?.ToString() ?? "";

    [Fact]
    public void A_card_is_drawn_at_an_empty_section_put_in_as_a_remark_and_ticked()
    {
        writer.Open("/bench/4");
        var draft = writer.Finds(By.CssSelector(".cm-content"));
        draft.Click();
        writer.Chord(Keys.Control, Keys.End);
        writer.Keys(Keys.Enter, "## What nobody asks", Keys.Enter, Keys.Enter);
        var first = Draw();
        // The same key draws another; Escape goes back to the very place.
        writer.Chord(Keys.Alt, "q");
        writer.Until(() => Card != first, "another card");
        writer.Keys(Keys.Escape);
        writer.Until(() => Active("ariaLabel") == "Draft", "the draft again");
        var card = Draw();
        card.ShouldNotBe(first, "what was passed over comes later");
        writer.Keys(Keys.Enter);
        writer.Until(() => writer.Server("/api/pieces/4/draft").Contains($"<!-- {card}", StringComparison.Ordinal), "the card as a remark");
        writer.Until(() => Active("ariaLabel") == "Draft", "the draft again");
        writer.Until(() => writer.Server("/api/decks").Contains("\"isUsed\":true", StringComparison.Ordinal), "the tick");
        writer.Chord(Keys.Control, "z");
        writer.Until(() => !writer.Server("/api/pieces/4/draft").Contains(card, StringComparison.Ordinal), "the draft without it");
    }

    [Fact]
    public void A_card_goes_into_the_day_sheet_and_into_the_strip_by_key()
    {
        writer.Open($"/desk/{DateTime.Now.AddDays(-9):yyyy-MM-dd}");
        writer.Field("Loose writing").SendKeys("Begun.");
        var card = Draw();
        writer.Keys(Keys.Enter);
        writer.Until(() => writer.Value("Loose writing") == $"Begun. {card}", "the card behind what was there");
        Active("ariaLabel").ShouldBe("Loose writing");
        // From nowhere in particular it goes into the strip.
        writer.Keys(Keys.Escape);
        var other = Draw();
        other.ShouldNotBe(card, "a used one does not come again before the others");
        writer.Keys(Keys.Enter);
        writer.Until(() => Active("id") == "strip" && Active("value") == other, "the card in the strip");
        writer.Keys(" In loaves.", Keys.Enter);
        writer.Sees("caught.");
        writer.Open("/desk").Sees($"{other} In loaves.");
    }

    [Fact]
    public void Decks_are_changed_held_over_a_reload_brought_in_and_given_out()
    {
        writer.Open("/bench/ideas/decks");
        writer.Field("Card 1 of Prompts").SendKeys(" Twice.");
        writer.Driver.Navigate().Refresh();
        writer.Value("Card 1 of Prompts").ShouldEndWith(" Twice.");
        writer.Press("Keep the decks");
        writer.Sees("The decks are kept.");
        writer.Field("A list of cards").SendKeys("## Bells\nWho rang it last?\n- [x] A bell with no clapper\n");
        writer.Press("Bring them in");
        writer.Sees("2 cards, 1 used");
        var list = writer.Server("/api/exports/decks.md");
        list.ShouldContain("## Bells\n\n- [ ] Who rang it last?\n- [x] A bell with no clapper\n");
        list.ShouldContain(" Twice.");
        writer.UndoOf("The cards are in the decks.");
        writer.Until(() => !writer.Server("/api/decks").Contains("Who rang it last?", StringComparison.Ordinal), "the decks without them");
        writer.Field("A list of cards").SendKeys("## Only a heading");
        writer.Press("Bring them in");
        writer.Sees("There is no card in it");
        writer.Value("A list of cards").ShouldBe("## Only a heading");
    }
}
