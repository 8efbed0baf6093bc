-- What was asked of a service of ideas, and what came. It belongs to this machine, as the service does: it is neither exported nor undone.
CREATE TABLE idea_request (
    number  INTEGER PRIMARY KEY AUTOINCREMENT,
    at      TEXT NOT NULL,
    address TEXT NOT NULL,
    model   TEXT NOT NULL,
    sent    TEXT NOT NULL,
    came    TEXT NOT NULL DEFAULT '',
    ideas   INTEGER NOT NULL DEFAULT 0,
    tokens  INTEGER NOT NULL,
    counted INTEGER NOT NULL DEFAULT 0,
    seconds REAL,
    problem TEXT NOT NULL DEFAULT ''
);
CREATE INDEX idea_request_at ON idea_request (at);
