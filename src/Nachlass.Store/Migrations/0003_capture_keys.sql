-- Keys with which other programs may add, and nothing else. Only a hash is kept; a key withdrawn stays as a line in the list.
CREATE TABLE capture_key (
    number       INTEGER PRIMARY KEY AUTOINCREMENT,
    name         TEXT NOT NULL,
    hash         TEXT NOT NULL UNIQUE,
    made_at      TEXT NOT NULL,
    used_at      TEXT,
    withdrawn_at TEXT
);
