using CsCheck;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;
using Nachlass.Exchange;
using Nachlass.Store.Ideas;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Tests.Ideas;

/// <summary>Decks that are kept, ticked, brought in and given out.</summary>
public sealed class DeckStoreTests : IDisposable
{
    private readonly Desk desk = new();

    public void Dispose() => desk.Dispose();

    [Fact]
    public void A_ready_card_is_ticked_comes_behind_the_others_and_the_tick_is_taken_back()
    {
        var card = desk.Decks.Draw("Prompts", 0)!;
        var step = desk.Decks.Tick(new(card.Deck, card.Text), Once.Unkeyed);
        var shown = desk.Decks.Get();
        shown.AreReady.ShouldBeFalse("the ready ones are the writer's own from now on");
        shown.Decks.Single(d => d.Name == "Prompts").Cards.Single(c => c.IsUsed).Text.ShouldBe(card.Text);
        Enumerable.Range(0, 60).ShouldAllBe(turn => desk.Decks.Draw("Prompts", turn)!.Text != card.Text);
        desk.Undo(step.Command);
        desk.Decks.Get().AreReady.ShouldBeTrue();
        Should.Throw<NotThereException>(() => desk.Decks.Tick(new("Prompts", "never written"), Once.Unkeyed));
    }

    [Fact]
    public void A_list_is_brought_in_beside_what_is_there_and_nothing_is_doubled()
    {
        var list = "A tool nobody recognises\n\n## Prompts\n- [x] Begin with the bill.\n- [ ] Begin with the receipt.\n";
        var shown = desk.Decks.BringIn(new(DeckList.Read(list, "My cards")), Once.Unkeyed).Answer;
        shown.Decks.Select(d => d.Name).ShouldBe(["Prompts", "Shapes", "Constraints", "Questions", "My cards"]);
        var prompts = shown.Decks[0].Cards.Select(c => c.Text).ToList();
        (prompts.Count(c => c == "Begin with the bill."), prompts[^1]).ShouldBe((1, "Begin with the receipt."));
        Should
            .Throw<BadInputException>(() => desk.Decks.BringIn(new(DeckList.Read("\n## Only a heading\n", "x")), Once.Unkeyed))
            .Field.ShouldBe("list");
    }

    [Fact]
    public void Two_tabs_do_not_overwrite_each_other()
    {
        var version = desk.Decks.Get().Version;
        desk.Decks.Put(new([new("mine", [new("one")])], version), Once.Unkeyed);
        Should.Throw<StaleException>(() => desk.Decks.Put(new([new("theirs", [new("two")])], version), Once.Unkeyed));
        desk.Decks.Put(new([], desk.Decks.Get().Version), Once.Unkeyed).Answer.AreReady.ShouldBeTrue();
    }

    [Fact]
    public void Plain_lines_bullets_and_numbers_are_cards() =>
        DeckList
            .Read("one\r\n* two\r\n3. three\n- [X] four\n", "My cards")
            .Single()
            .Cards.ShouldBe([new("one"), new("two"), new("three"), new("four", true)]);

    /// <summary>What is given out as a list is brought in as the same.</summary>
    [Fact]
    public void Decks_go_out_as_a_list_and_come_in_the_same()
    {
        var word = Gen.String[Gen.Char["abc # -*[]x1.)é"], 1, 20].Select(t => t.Trim()).Where(t => t.Length > 0);
        // A name is what follows a heading's marks, a card what follows its box.
        Gen.Select(
                word,
                Gen.Select(word, Gen.Bool, (text, used) => new DeckCard(text, used)).List[0, 6],
                (name, cards) => new Deck(name, cards)
            )
            .List[0, 4]
            .Sample(decks =>
            {
                var again = DeckList.Read(DeckList.Write(decks), "none");
                return again.Count == decks.Count
                    && again.Zip(decks).All(p => p.First.Name == p.Second.Name && p.First.Cards.SequenceEqual(p.Second.Cards));
            });
    }
}
