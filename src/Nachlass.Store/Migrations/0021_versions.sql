-- What versions of a draft are made of: its headings and paragraphs, each once a piece, so that a version costs what is new in it.
CREATE TABLE version_unit (
    id    INTEGER PRIMARY KEY,
    piece INTEGER NOT NULL REFERENCES piece (number),
    hash  INTEGER NOT NULL,
    text  TEXT NOT NULL
);
CREATE INDEX version_unit_hash ON version_unit (piece, hash);

-- A draft as it stood once; units are the ids of what it is made of, in order.
CREATE TABLE piece_version (
    number INTEGER PRIMARY KEY AUTOINCREMENT,
    piece  INTEGER NOT NULL REFERENCES piece (number),
    at     TEXT NOT NULL,
    why    TEXT NOT NULL,
    name   TEXT NOT NULL DEFAULT '',
    units  TEXT NOT NULL
);
CREATE INDEX piece_version_piece ON piece_version (piece, at);
