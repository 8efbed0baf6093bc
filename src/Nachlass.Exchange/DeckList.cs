using System.Text;
using System.Text.RegularExpressions;
using Nachlass.Core.Ideas;

namespace Nachlass.Exchange;

/// <summary>Decks as a Markdown list: a heading for each deck, a line for each card, ticked where it was used.</summary>
public static partial class DeckList
{
    public static string Write(IReadOnlyList<Deck> decks)
    {
        var text = new StringBuilder();
        foreach (var deck in decks)
        {
            text.Append(text.Length > 0 ? "\n" : "").Append("## ").Append(deck.Name).Append("\n\n");
            foreach (var card in deck.Cards)
                text.Append(card.IsUsed ? "- [x] " : "- [ ] ").Append(card.Text).Append('\n');
        }
        return text.ToString();
    }

    /// <summary>Reads decks: from a list as this one writes it, or from plain lines, each a card of a deck of the given name.</summary>
    /// <param name="name">Of the deck that lines before any heading belong to.</param>
    public static IReadOnlyList<Deck> Read(string text, string name)
    {
        var decks = new List<(string Name, List<DeckCard> Cards)> { (name, []) };
        foreach (
            var line in text.Replace("\r\n", "\n", StringComparison.Ordinal)
                .Split('\n', '\r')
                .Select(l => l.Trim())
                .Where(l => l.Length > 0)
        )
            if (Heading().Match(line) is { Success: true } heading)
                decks.Add((heading.Groups[1].Value.Trim(), []));
            else
            {
                var card = Card().Match(line);
                decks[^1].Cards.Add(new DeckCard(card.Groups["text"].Value.Trim(), card.Groups["mark"].Value is "x" or "X"));
            }
        return [.. decks.Where((d, at) => at > 0 || d.Cards.Count > 0).Select(d => new Deck(d.Name, d.Cards))];
    }

    [GeneratedRegex(@"^#{1,6}\s+(\S.*)$")]
    private static partial Regex Heading();

    [GeneratedRegex(@"^(?:[-*+]\s+|\d{1,4}[.)]\s+)?(?:\[(?<mark>[ xX])\]\s+)?(?<text>.*)$")]
    private static partial Regex Card();
}
