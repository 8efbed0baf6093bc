-- What follows by itself from a decision or from a slip's coming in.
CREATE TABLE rule (
    number   INTEGER PRIMARY KEY AUTOINCREMENT,
    name     TEXT NOT NULL,
    occurs   TEXT NOT NULL,
    query    TEXT NOT NULL,
    act      TEXT NOT NULL,
    is_on    INTEGER NOT NULL DEFAULT 0,
    version  INTEGER NOT NULL DEFAULT 1
);
