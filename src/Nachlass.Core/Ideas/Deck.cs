using Nachlass.Core.Papers;
using Nachlass.Core.Text;

namespace Nachlass.Core.Ideas;

/// <summary>A card of a deck.</summary>
/// <param name="IsUsed">Whether it was used; such a card comes after the others.</param>
public sealed record DeckCard(string Text, bool IsUsed = false);

/// <summary>A deck of cards to draw from when nothing comes: prompts, shapes, constraints, questions.</summary>
public sealed record Deck(string Name, IReadOnlyList<DeckCard> Cards)
{
    public const int LongestName = 60,
        LongestCard = 400,
        MostCards = 1_000;
}

/// <summary>A card that is drawn.</summary>
/// <param name="Left">Cards of the deck that are not used, this one too.</param>
public sealed record CardDrawn(string Deck, string Text, bool IsUsed, int Left, int Of);

/// <summary>The decks, and drawing from them.</summary>
public static class Decks
{
    public const int Most = 40;

    private static Deck Fresh(string name, params string[] cards) => new(name, [.. cards.Select(card => new DeckCard(card))]);

    /// <summary>The decks papers begin with.</summary>
    public static readonly IReadOnlyList<Deck> Ready =
    [
        Fresh(
            "Prompts",
            "The door that is always shut, on the one day it is not.",
            "What I said, and what I wished an hour later I had said.",
            "Somebody counts something every day. What, and for whom?",
            "A thing that was lent and never came back.",
            "The smell of the place before the place.",
            "Two people wait for the same person.",
            "The last time it was done, though nobody knew it was the last.",
            "A mistake that turned out to hold the roof up.",
            "What they do in that house when it rains for a week.",
            "A rule that everybody keeps and nobody can explain.",
            "Begin with the bill.",
            "An object that has outlived three owners, in its own order.",
            "The person in the photograph who looks away.",
            "Tell it as the one who had to clean up afterwards."
        ),
        Fresh(
            "Shapes",
            "A question, three wrong answers, and what the wrong ones had right.",
            "One day, hour by hour; the thing itself happens between two of them.",
            "From the smallest part to the whole, and only then its name.",
            "A letter, and the answer that never came.",
            "Then and now, in turns, until they meet.",
            "A list, of which one entry is not like the others.",
            "The end first; then how anybody could have seen it coming.",
            "Two voices that never speak to each other about the same thing.",
            "A walk from here to there, stopping five times.",
            "What everybody says; what it leaves out; what is left then.",
            "A trial: for, against, a witness, no verdict.",
            "One sentence, taken apart word by word."
        ),
        Fresh(
            "Constraints",
            "No word that begins with un-.",
            "Only what could be seen from one window.",
            "Two hundred words, and the last three are given: but not yet.",
            "No adjectives in the first paragraph.",
            "Every paragraph has a number in it.",
            "Nobody is named.",
            "In the present tense, though it is long past.",
            "Only questions, until the last line.",
            "No sentence longer than twelve words.",
            "Each paragraph begins where the one before ended.",
            "Everything said aloud; nothing thought.",
            "Twenty minutes, no going back."
        ),
        Fresh(
            "Questions",
            "Who would be hurt if this were true?",
            "What would I have to see to change my mind?",
            "Who did the work, and who signed it?",
            "What did it cost, in what people then counted in?",
            "What is here that has no reason to be here?",
            "What did they call it themselves?",
            "Where does this stop being true?",
            "What am I hoping nobody asks?",
            "What happened just before?",
            "Who was in the room and is not in the story?",
            "What would the neighbour say?",
            "Why now?"
        ),
    ];

    /// <summary>
    /// Draws a card: of those that are not used, else of all. One turn after the other goes through all of them once before any comes
    /// again, in an order that is not theirs.
    /// </summary>
    /// <param name="name">Of the deck; the first that has cards when null.</param>
    /// <param name="turn">How often was drawn before, 0 or more.</param>
    /// <returns>Null where there is nothing to draw.</returns>
    /// <exception cref="BadInputException">There is no such deck.</exception>
    public static CardDrawn? Draw(IReadOnlyList<Deck> decks, string? name, int turn)
    {
        var deck = name is null
            ? decks.FirstOrDefault(d => d.Cards.Count > 0)
            : decks.FirstOrDefault(d => d.Name.Equals(name, StringComparison.OrdinalIgnoreCase))
                ?? throw new BadInputException("deck", $"There is no deck “{name}”.");
        if (deck is null || deck.Cards.Count == 0)
            return null;
        var fresh = deck.Cards.Where(c => !c.IsUsed).ToList();
        var from = fresh.Count > 0 ? fresh : [.. deck.Cards];
        // A step that shares no divisor with their number comes past every one before it comes past one again.
        var step = Enumerable.Range(0, from.Count).Select(i => (int)(from.Count * 0.618) + 1 + i).First(s => Divisor(s, from.Count) == 1);
        var card = from[(int)((long)Math.Max(0, turn) % from.Count * step % from.Count)];
        return new CardDrawn(deck.Name, card.Text, card.IsUsed, fresh.Count, deck.Cards.Count);
    }

    private static int Divisor(int a, int b) => b == 0 ? a : Divisor(b, a % b);

    /// <summary>Decks as they may be kept: names and cards without outer white space, no empty one, none twice.</summary>
    /// <exception cref="BadInputException">A name or card is too long or missing, or there are too many.</exception>
    public static IReadOnlyList<Deck> Checked(IReadOnlyList<Deck> decks)
    {
        if (decks.Count > Most)
            throw new BadInputException("decks", $"There can be {Most} decks.");
        var kept = decks
            .Select(
                (deck, at) =>
                    new Deck(
                        Line($"decks[{at}].name", Check.Text($"decks[{at}].name", deck.Name, Deck.LongestName, "name of a deck")),
                        [
                            .. deck
                                .Cards.Select((card, nth) => card with { Text = Line($"decks[{at}].cards[{nth}]", card.Text.Trim()) })
                                .Where(card => card.Text.Length > 0)
                                .DistinctBy(card => card.Text),
                        ]
                    )
            )
            .ToList();
        foreach (var (at, deck) in kept.Index())
        {
            if (deck.Cards.Count > Deck.MostCards)
                throw new BadInputException($"decks[{at}].cards", $"A deck has {Deck.MostCards} cards at most.");
            foreach (var card in deck.Cards)
                Check.Length(
                    $"decks[{at}].cards",
                    card.Text,
                    Deck.LongestCard,
                    $"card “{PlainText.Headline(card.Text, 40)}” of “{deck.Name}”"
                );
        }
        if (kept.CountBy(d => d.Name.ToLowerInvariant()).FirstOrDefault(d => d.Value > 1) is { Value: > 1 } twice)
            throw new BadInputException("decks", $"“{twice.Key}” is there twice.");
        return kept;
    }

    private static string Line(string field, string text) =>
        text.Contains('\n', StringComparison.Ordinal) || text.Contains('\r', StringComparison.Ordinal)
            ? throw new BadInputException(field, "It is one line.")
            : text;
}
