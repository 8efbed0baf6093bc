-- Pieces in an order, made and seen together.
CREATE TABLE series (
    number        INTEGER PRIMARY KEY AUTOINCREMENT,
    name          TEXT NOT NULL,
    about         TEXT NOT NULL DEFAULT '',
    title_pattern TEXT NOT NULL DEFAULT '',
    format        TEXT NOT NULL DEFAULT '',
    version       INTEGER NOT NULL DEFAULT 1
);
CREATE TABLE series_piece (
    id       INTEGER PRIMARY KEY,
    series   INTEGER NOT NULL REFERENCES series (number),
    piece    INTEGER NOT NULL UNIQUE REFERENCES piece (number),
    position INTEGER NOT NULL
);
CREATE INDEX series_piece_series ON series_piece (series, position);
