-- That a piece came of another, and how.
CREATE TABLE came_of (
    id       INTEGER PRIMARY KEY AUTOINCREMENT,
    piece    INTEGER NOT NULL UNIQUE REFERENCES piece (number),
    of_piece INTEGER NOT NULL REFERENCES piece (number),
    how      TEXT NOT NULL
);
CREATE INDEX came_of_of ON came_of (of_piece);
INSERT OR IGNORE INTO came_of (piece, of_piece, how)
    SELECT piece, in_number, 'passage' FROM usable
    WHERE piece IS NOT NULL AND in_kind = 'piece' AND in_number IN (SELECT number FROM piece) AND piece <> in_number ORDER BY number;
-- What was begun from a piece said so in its brief, in these very words.
INSERT OR IGNORE INTO came_of (piece, of_piece, how)
    SELECT number, CAST(substr(brief, 9) AS INTEGER), 'piece' FROM piece
    WHERE brief GLOB 'after P [0-9]*' AND brief = 'after P ' || CAST(substr(brief, 9) AS INTEGER)
        AND CAST(substr(brief, 9) AS INTEGER) IN (SELECT number FROM piece) AND CAST(substr(brief, 9) AS INTEGER) < number;

-- A stretch of a recording that is used by itself.
CREATE TABLE cut (
    number  INTEGER PRIMARY KEY AUTOINCREMENT,
    piece   INTEGER NOT NULL REFERENCES piece (number),
    title   TEXT NOT NULL,
    from_ms INTEGER NOT NULL,
    to_ms   INTEGER NOT NULL,
    passage TEXT NOT NULL DEFAULT '',
    version INTEGER NOT NULL DEFAULT 1
);
CREATE INDEX cut_piece ON cut (piece, from_ms);

-- Pieces of which all that was wanted has been made.
CREATE TABLE reused (
    piece   INTEGER PRIMARY KEY REFERENCES piece (number),
    done_at TEXT NOT NULL
);
