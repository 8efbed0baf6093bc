-- What is settled about a piece before it is written, and the heap of raw words beside it.
CREATE TABLE piece_brief (
    id          INTEGER PRIMARY KEY,
    piece       INTEGER NOT NULL UNIQUE REFERENCES piece (number),
    for_whom    TEXT NOT NULL DEFAULT '',
    know        TEXT NOT NULL DEFAULT '',
    feel        TEXT NOT NULL DEFAULT '',
    act         TEXT NOT NULL DEFAULT '',
    angle       TEXT NOT NULL DEFAULT '',
    call        TEXT NOT NULL DEFAULT '',
    serves      INTEGER NOT NULL DEFAULT 0,
    serves_why  TEXT NOT NULL DEFAULT '',
    cover_line  TEXT NOT NULL DEFAULT '',
    cover       INTEGER REFERENCES attachment (number),
    heap        TEXT NOT NULL DEFAULT '',
    version     INTEGER NOT NULL DEFAULT 1
);

-- Titles that are considered; the one that is taken is the piece's own, and the one it had stands here then.
CREATE TABLE other_title (
    number   INTEGER PRIMARY KEY AUTOINCREMENT,
    piece    INTEGER NOT NULL REFERENCES piece (number),
    position INTEGER NOT NULL,
    text     TEXT NOT NULL,
    note     TEXT NOT NULL DEFAULT ''
);
CREATE INDEX other_title_piece ON other_title (piece, position);

-- What a piece has to find out or to get: a question, which a passage answers, or a move.
CREATE TABLE to_find (
    number   INTEGER PRIMARY KEY AUTOINCREMENT,
    piece    INTEGER NOT NULL REFERENCES piece (number),
    position INTEGER NOT NULL,
    slip     INTEGER REFERENCES slip (number),
    move     INTEGER REFERENCES move (number),
    answer   INTEGER REFERENCES slip (number),
    CHECK ((slip IS NULL) <> (move IS NULL))
);
CREATE INDEX to_find_piece ON to_find (piece, position);
CREATE INDEX to_find_slip ON to_find (slip) WHERE slip IS NOT NULL;

-- What a piece refers to: a page, a picture or a passage, and where in the text.
CREATE TABLE piece_reference (
    number     INTEGER PRIMARY KEY AUTOINCREMENT,
    piece      INTEGER NOT NULL REFERENCES piece (number),
    position   INTEGER NOT NULL,
    address    TEXT NOT NULL DEFAULT '',
    attachment INTEGER REFERENCES attachment (number),
    slip       INTEGER REFERENCES slip (number),
    why        TEXT NOT NULL DEFAULT '',
    section    INTEGER REFERENCES section (number)
);
CREATE INDEX piece_reference_piece ON piece_reference (piece, position);
