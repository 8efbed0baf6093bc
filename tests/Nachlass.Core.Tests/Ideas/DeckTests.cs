using CsCheck;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;

namespace Nachlass.Core.Tests.Ideas;

/// <summary>Cards to draw when nothing comes.</summary>
public sealed class DeckTests
{
    private static Deck Of(int cards, int used = 0) =>
        new("a deck", [.. Enumerable.Range(0, cards).Select(i => new DeckCard($"card {i}", i < used))]);

    [Fact]
    public void All_fresh_cards_come_once_before_any_comes_again_and_used_ones_after_them() =>
        Gen.Select(Gen.Int[1, 40], Gen.Int[0, 40], Gen.Int[0, 1_000_000])
            .Sample(
                (cards, used, first) =>
                {
                    used = Math.Min(used, cards);
                    var fresh = cards - used;
                    var round = fresh == 0 ? cards : fresh;
                    var start = first / round * round;
                    var drawn = Enumerable.Range(start, round).Select(turn => Decks.Draw([Of(cards, used)], null, turn)!).ToList();
                    return drawn.Select(d => d.Text).Distinct().Count() == round
                        && drawn.TrueForAll(d => d.IsUsed == (fresh == 0) && d.Left == fresh && d.Of == cards);
                }
            );

    [Fact]
    public void They_do_not_come_in_their_own_order()
    {
        var drawn = Enumerable.Range(0, 12).Select(turn => Decks.Draw(Decks.Ready, "Questions", turn)!.Text).ToList();
        drawn.ShouldBe(Decks.Ready.Single(d => d.Name == "Questions").Cards.Select(c => c.Text), ignoreOrder: true);
        drawn.ShouldNotBe(Decks.Ready.Single(d => d.Name == "Questions").Cards.Select(c => c.Text));
    }

    [Fact]
    public void There_is_nothing_to_draw_from_nothing()
    {
        Decks.Draw([], null, 0).ShouldBeNull();
        Decks.Draw([Of(0)], "a deck", 3).ShouldBeNull();
        Should.Throw<BadInputException>(() => Decks.Draw([Of(3)], "another", 0)).Field.ShouldBe("deck");
    }

    [Fact]
    public void Decks_are_kept_without_empty_cards_and_none_is_there_twice()
    {
        var kept = Decks.Checked([new Deck(" mine ", [new(" a "), new(""), new("a", true), new("b")])]);
        (kept[0].Name, string.Join('|', kept[0].Cards.Select(c => c.Text))).ShouldBe(("mine", "a|b"));
        void Wrong(string field, params Deck[] decks) => Should.Throw<BadInputException>(() => Decks.Checked(decks)).Field.ShouldBe(field);
        Wrong("decks", new Deck("mine", []), new Deck("MINE", []));
        Wrong("decks[0].name", new Deck(" ", []));
        Wrong("decks[0].cards[0]", new Deck("mine", [new("two\nlines")]));
        Wrong("decks[0].cards", new Deck("mine", [new(new string('x', Deck.LongestCard + 1))]));
    }

    [Fact]
    public void The_ready_ones_can_be_kept_as_they_are()
    {
        var kept = Decks.Checked(Decks.Ready);
        kept.Select(d => d.Cards.Count).ShouldBe(Decks.Ready.Select(d => d.Cards.Count));
    }
}
