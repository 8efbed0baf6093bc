using Dapper;
using Microsoft.Data.Sqlite;
using Nachlass.Core.Ideas;
using Nachlass.Core.Papers;
using Nachlass.Store.Papers;

namespace Nachlass.Store.Ideas;

/// <summary>All decks.</summary>
/// <param name="AreReady">Whether they are the ones papers begin with.</param>
/// <param name="Version">To be given back with a change.</param>
public sealed record DecksShown(IReadOnlyList<Deck> Decks, bool AreReady, int Version);

/// <summary>Decks in place of all there are; none for the ready ones.</summary>
public sealed record DecksChange(IReadOnlyList<Deck>? Decks, int? Version);

/// <summary>A card that was used, or was not.</summary>
public sealed record CardTicked(string? Deck, string? Text, bool Used = true);

/// <summary>Decks to be put in beside those there are.</summary>
/// <param name="Decks">Cards of a deck that is there go behind its own; those it has already are left out.</param>
public sealed record DecksBroughtIn(IReadOnlyList<Deck>? Decks);

/// <summary>Decks as rows.</summary>
internal static class DeckRows
{
    /// <summary>The writer's own, in their order; null while the ready ones hold.</summary>
    public static IReadOnlyList<Deck>? Own(SqliteConnection db)
    {
        var rows = db.Query<(string Deck, string? Text, bool Used)>("SELECT deck, text, used FROM deck_card ORDER BY number").ToList();
        return rows.Count == 0
            ? null
            :
            [
                .. rows.GroupBy(r => r.Deck)
                    .Select(d => new Deck(d.Key, [.. d.Where(r => r.Text is not null).Select(r => new DeckCard(r.Text!, r.Used))])),
            ];
    }

    public static void PutAll(SqliteConnection db, IEnumerable<Deck> decks)
    {
        db.Execute("DELETE FROM deck_card WHERE true");
        foreach (var deck in decks)
        {
            if (deck.Cards.Count == 0)
                db.Execute("INSERT INTO deck_card (deck, text) VALUES (@Name, NULL)", new { deck.Name });
            foreach (var card in deck.Cards)
                db.Execute(
                    "INSERT INTO deck_card (deck, text, used) VALUES (@Name, @Text, @IsUsed)",
                    new
                    {
                        deck.Name,
                        card.Text,
                        card.IsUsed,
                    }
                );
        }
    }
}

/// <summary>Decks of cards to draw from when nothing comes.</summary>
public sealed class DeckStore(PapersFile papers)
{
    public DecksShown Get() => papers.Read(Shown);

    /// <summary>Draws a card; null where there is none. Nothing is changed by that.</summary>
    /// <exception cref="BadInputException">There is no such deck.</exception>
    public CardDrawn? Draw(string? deck, int turn) => papers.Read(db => Decks.Draw(DeckRows.Own(db) ?? Decks.Ready, deck, turn));

    private static DecksShown Shown(SqliteConnection db)
    {
        var own = DeckRows.Own(db);
        return new DecksShown(
            own ?? Decks.Ready,
            own is null,
            // Rows are numbered once, so that each change has a number of its own.
            db.ExecuteScalar<int>("SELECT coalesce((SELECT seq FROM sqlite_sequence WHERE name = 'deck_card'), 0)")
        );
    }

    /// <summary>Puts decks in place of all there are.</summary>
    /// <exception cref="BadInputException">A name or card can't be; says which.</exception>
    /// <exception cref="StaleException">They were changed elsewhere meanwhile.</exception>
    public Done<DecksShown> Put(DecksChange change, Once once)
    {
        var based = Check.Version(change.Version);
        var decks = Decks.Checked(change.Decks ?? []);
        return papers.Run(
            "changed the decks",
            once,
            running =>
            {
                var before = Shown(running.Db);
                if (before.Version != based)
                    throw new StaleException("The decks", before);
                DeckRows.PutAll(running.Db, decks);
                running.What = decks.Count == 0 ? "brought the ready decks back" : "changed the decks";
                return Shown(running.Db);
            }
        );
    }

    /// <summary>Puts decks in beside those there are.</summary>
    /// <exception cref="BadInputException">There is nothing in it, or a name or card can't be.</exception>
    public Done<DecksShown> BringIn(DecksBroughtIn brought, Once once)
    {
        if (brought.Decks is not { Count: > 0 } more || more.All(d => d.Cards.Count == 0))
            throw new BadInputException("list", "There is no card in it: each line is one, a heading begins a deck.");
        return papers.Run(
            "brought cards in",
            once,
            change =>
            {
                var there = (DeckRows.Own(change.Db) ?? Decks.Ready).ToList();
                var before = there.Sum(d => d.Cards.Count);
                foreach (var deck in Decks.Checked(more))
                    if (there.FindIndex(d => d.Name.Equals(deck.Name, StringComparison.OrdinalIgnoreCase)) is >= 0 and var at)
                        there[at] = there[at] with { Cards = [.. there[at].Cards, .. deck.Cards] };
                    else
                        there.Add(deck);
                var all = Decks.Checked(there);
                DeckRows.PutAll(change.Db, all);
                var cards = all.Sum(d => d.Cards.Count) - before;
                change.What = cards == 1 ? "brought 1 card in" : $"brought {cards} cards in";
                return Shown(change.Db);
            }
        );
    }

    /// <summary>Ticks a card, or takes its tick away.</summary>
    /// <exception cref="NotThereException">There is no such card any more.</exception>
    public Done<DecksShown> Tick(CardTicked ticked, Once once) =>
        papers.Run(
            ticked.Used ? "used a card" : "took a card’s tick away",
            once,
            change =>
            {
                var there = DeckRows.Own(change.Db);
                if (there is null)
                    DeckRows.PutAll(change.Db, Decks.Ready);
                if (
                    change.Db.Execute(
                        "UPDATE deck_card SET used = @Used WHERE deck = @Deck COLLATE NOCASE AND text = @Text",
                        new
                        {
                            ticked.Deck,
                            ticked.Text,
                            ticked.Used,
                        }
                    ) == 0
                )
                    throw new NotThereException("card of those words");
                return Shown(change.Db);
            }
        );
}
