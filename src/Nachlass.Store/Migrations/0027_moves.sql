-- From when a move is to be seen, when it is reminded of, and by which rule (RFC 5545) it comes again; the one it came after.
ALTER TABLE move ADD COLUMN start TEXT;
ALTER TABLE move ADD COLUMN remind_at TEXT;
ALTER TABLE move ADD COLUMN repeats TEXT;
ALTER TABLE move ADD COLUMN follows INTEGER REFERENCES move (number);
CREATE INDEX move_follows ON move (follows) WHERE follows IS NOT NULL;

-- What is gone through every day, week or month; a tick holds until the next begins.
CREATE TABLE guide_line (
    number   INTEGER PRIMARY KEY AUTOINCREMENT,
    every    TEXT NOT NULL,
    position INTEGER NOT NULL,
    text     TEXT NOT NULL,
    done_on  TEXT,
    version  INTEGER NOT NULL DEFAULT 1
);
