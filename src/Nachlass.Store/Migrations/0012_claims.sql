-- A slip that became a claim, and what speaks for it and against it.
CREATE TABLE claim (
    slip    INTEGER PRIMARY KEY REFERENCES slip (number),
    title   TEXT NOT NULL DEFAULT '',
    version INTEGER NOT NULL DEFAULT 1
);
CREATE TABLE evidence (
    id           INTEGER PRIMARY KEY,
    claim        INTEGER NOT NULL REFERENCES claim (slip),
    thing_kind   TEXT NOT NULL,
    thing_number INTEGER NOT NULL,
    side         TEXT NOT NULL,
    note         TEXT NOT NULL DEFAULT '',
    added_at     TEXT NOT NULL,
    UNIQUE (claim, thing_kind, thing_number)
);

-- A paragraph of any text that could be used by itself, as it was last worded.
CREATE TABLE usable (
    number    INTEGER PRIMARY KEY AUTOINCREMENT,
    in_kind   TEXT NOT NULL,
    in_number INTEGER NOT NULL,
    paragraph TEXT NOT NULL,
    as_format TEXT NOT NULL,
    marked_at TEXT NOT NULL,
    used_at   TEXT,
    piece     INTEGER REFERENCES piece (number)
);
CREATE INDEX usable_open ON usable (marked_at) WHERE used_at IS NULL;
