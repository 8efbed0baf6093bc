-- What was learned from a piece that went out.
CREATE TABLE closing (
    piece     INTEGER PRIMARY KEY REFERENCES piece (number),
    learned   TEXT NOT NULL DEFAULT '',
    otherwise TEXT NOT NULL DEFAULT '',
    closed_at TEXT,
    slip      INTEGER REFERENCES slip (number),
    version   INTEGER NOT NULL DEFAULT 1
);

-- A passage of it that was kept as a slip, as it was worded.
CREATE TABLE closing_kept (
    id      INTEGER PRIMARY KEY AUTOINCREMENT,
    piece   INTEGER NOT NULL REFERENCES piece (number),
    passage TEXT NOT NULL,
    slip    INTEGER NOT NULL REFERENCES slip (number)
);
CREATE INDEX closing_kept_piece ON closing_kept (piece);
