-- A section's note, and whether its writer says that it is settled.
ALTER TABLE section ADD COLUMN note TEXT NOT NULL DEFAULT '';
ALTER TABLE section ADD COLUMN settled INTEGER NOT NULL DEFAULT 0;

-- What a route finds and the writer means so, by the key of the finding.
CREATE TABLE set_aside (
    id     INTEGER PRIMARY KEY,
    piece  INTEGER NOT NULL REFERENCES piece (number),
    key    TEXT NOT NULL,
    reason TEXT NOT NULL,
    UNIQUE (piece, key)
);

-- Places in a draft that the writer wants to come back to: in a section's heading and text, or before the first section.
CREATE TABLE piece_mark (
    number  INTEGER PRIMARY KEY AUTOINCREMENT,
    piece   INTEGER NOT NULL REFERENCES piece (number),
    section INTEGER REFERENCES section (number),
    place   INTEGER NOT NULL
);
CREATE INDEX piece_mark_piece ON piece_mark (piece);
