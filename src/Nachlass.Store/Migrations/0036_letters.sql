-- Who gets the letters of an outlet. Readers are outside of undo and of copies in files: what they said of themselves is theirs.
CREATE TABLE reader (
    number    INTEGER PRIMARY KEY AUTOINCREMENT,
    outlet    INTEGER NOT NULL,
    address   TEXT NOT NULL COLLATE NOCASE,
    name      TEXT NOT NULL DEFAULT '',
    token     TEXT NOT NULL UNIQUE,
    state     TEXT NOT NULL,
    asked_at  TEXT NOT NULL,
    agreed_at TEXT,
    how       TEXT NOT NULL DEFAULT '',
    left_at   TEXT,
    trouble   TEXT NOT NULL DEFAULT '',
    UNIQUE (outlet, address)
);

-- What became of the letter to each of them. A reader may be gone from the list since.
CREATE TABLE letter_copy (
    id     INTEGER PRIMARY KEY AUTOINCREMENT,
    key    TEXT NOT NULL,
    reader INTEGER NOT NULL,
    state  TEXT NOT NULL DEFAULT 'waits',
    note   TEXT NOT NULL DEFAULT '',
    UNIQUE (key, reader)
);

-- For a letter service: who signs in, from whom the letters come, and the certificate that is believed although nobody vouches for it.
ALTER TABLE outlet_connection ADD COLUMN user TEXT NOT NULL DEFAULT '';
ALTER TABLE outlet_connection ADD COLUMN sender TEXT NOT NULL DEFAULT '';
ALTER TABLE outlet_connection ADD COLUMN trusts TEXT NOT NULL DEFAULT '';
