-- What was written in one go: words that were typed, words that were taken out, words that came by pasting.
CREATE TABLE sitting (
    number     INTEGER PRIMARY KEY AUTOINCREMENT,
    piece      INTEGER NOT NULL REFERENCES piece (number),
    started_at TEXT NOT NULL,
    last_at    TEXT NOT NULL,
    written    INTEGER NOT NULL DEFAULT 0,
    taken      INTEGER NOT NULL DEFAULT 0,
    pasted     INTEGER NOT NULL DEFAULT 0,
    ended      INTEGER NOT NULL DEFAULT 0
);
CREATE INDEX sitting_piece ON sitting (piece, last_at);

-- Words a piece should have, where its writer says so; else the sum over its sections.
ALTER TABLE piece ADD COLUMN word_aim INTEGER;
-- Words of a sitting.
ALTER TABLE papers ADD COLUMN sitting_aim INTEGER;

-- Words that are spelt right because the writer says so.
CREATE TABLE own_word (
    id   INTEGER PRIMARY KEY,
    word TEXT NOT NULL UNIQUE
);

-- Pieces that are recorded on one day, one after the other.
CREATE TABLE shot (
    number   INTEGER PRIMARY KEY AUTOINCREMENT,
    day      TEXT NOT NULL,
    position INTEGER NOT NULL,
    piece    INTEGER NOT NULL REFERENCES piece (number),
    points   TEXT NOT NULL DEFAULT '',
    needs    TEXT NOT NULL DEFAULT '',
    aim      INTEGER,
    done_at  TEXT,
    version  INTEGER NOT NULL DEFAULT 1,
    UNIQUE (day, piece)
);
CREATE INDEX shot_day ON shot (day, position);
