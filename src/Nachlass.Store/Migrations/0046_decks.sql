-- The writer's own decks, card by card in their order; while there are none the ready ones hold. A deck without a card has a row with none.
CREATE TABLE deck_card (
    number INTEGER PRIMARY KEY AUTOINCREMENT,
    deck   TEXT NOT NULL,
    text   TEXT,
    used   INTEGER NOT NULL DEFAULT 0
);
