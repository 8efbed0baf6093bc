-- Figures to be reached by a day.
CREATE TABLE goal (
    number         INTEGER PRIMARY KEY AUTOINCREMENT,
    counts         TEXT NOT NULL,
    target         INTEGER NOT NULL,
    from_day       TEXT NOT NULL,
    by_day         TEXT NOT NULL,
    format         TEXT,
    readers        INTEGER NOT NULL DEFAULT 0,
    readers_before INTEGER NOT NULL DEFAULT 0,
    version        INTEGER NOT NULL DEFAULT 1
);

-- The few pieces that are next, in order.
ALTER TABLE piece ADD COLUMN pinned INTEGER;

-- What was never to be offered again for open dates.
CREATE TABLE never_for_dates (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    slip  INTEGER REFERENCES slip (number),
    piece INTEGER REFERENCES piece (number),
    UNIQUE (slip),
    UNIQUE (piece)
);
