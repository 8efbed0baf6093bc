-- Ideas that were proposed, and what was decided about them. Refused ones stay, so that they are not proposed again.
CREATE TABLE offered_idea (
    number  INTEGER PRIMARY KEY AUTOINCREMENT,
    round   INTEGER NOT NULL,
    at      TEXT NOT NULL,
    seed    INTEGER NOT NULL,
    text    TEXT NOT NULL,
    shape   TEXT NOT NULL,
    kind    TEXT NOT NULL,
    topic   INTEGER REFERENCES topic (number),
    origins TEXT NOT NULL,
    because TEXT NOT NULL,
    said_in TEXT,
    near    TEXT,
    state   TEXT NOT NULL DEFAULT 'waiting',
    slip    INTEGER REFERENCES slip (number),
    version INTEGER NOT NULL DEFAULT 1
);
CREATE INDEX offered_idea_state ON offered_idea (state);
