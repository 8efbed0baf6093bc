-- How an outlet is reached. Outside of undo and of exports: the secret is kept encrypted and belongs to this machine.
CREATE TABLE outlet_connection (
    outlet  INTEGER PRIMARY KEY,
    kind    TEXT NOT NULL,
    address TEXT NOT NULL DEFAULT '',
    secret  TEXT NOT NULL DEFAULT ''
);

-- What waits to be sent, and what became of it.
CREATE TABLE sending (
    number   INTEGER PRIMARY KEY AUTOINCREMENT,
    piece    INTEGER NOT NULL REFERENCES piece (number),
    outlet   INTEGER NOT NULL REFERENCES outlet (number),
    title    TEXT NOT NULL,
    text     TEXT NOT NULL,
    at       TEXT NOT NULL,
    state    TEXT NOT NULL DEFAULT 'waits',
    tries    INTEGER NOT NULL DEFAULT 0,
    next_try TEXT NOT NULL,
    problem  TEXT NOT NULL DEFAULT '',
    release  INTEGER REFERENCES release (number),
    made_at  TEXT NOT NULL
);
CREATE INDEX sending_next ON sending (next_try) WHERE state IN ('waits', 'tries');
CREATE INDEX sending_piece ON sending (piece);

-- What goes out by itself: a post of a thread, or the whole.
CREATE TABLE sending_part (
    id      INTEGER PRIMARY KEY AUTOINCREMENT,
    sending INTEGER NOT NULL REFERENCES sending (number),
    nth     INTEGER NOT NULL,
    key     TEXT NOT NULL UNIQUE,
    text    TEXT NOT NULL,
    state   TEXT NOT NULL DEFAULT 'waits',
    address TEXT NOT NULL DEFAULT '',
    UNIQUE (sending, nth)
);

-- Every attempt; nothing takes one away.
CREATE TABLE sending_try (
    id      INTEGER PRIMARY KEY AUTOINCREMENT,
    sending INTEGER NOT NULL REFERENCES sending (number) ON DELETE CASCADE,
    nth     INTEGER NOT NULL,
    at      TEXT NOT NULL,
    outcome TEXT NOT NULL,
    note    TEXT NOT NULL DEFAULT ''
);
CREATE INDEX sending_try_sending ON sending_try (sending, id);
