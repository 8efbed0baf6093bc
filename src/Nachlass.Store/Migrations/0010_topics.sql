-- Topics that look like one and are not.
CREATE TABLE topic_apart (
    id     INTEGER PRIMARY KEY,
    first  INTEGER NOT NULL REFERENCES topic (number),
    second INTEGER NOT NULL REFERENCES topic (number),
    UNIQUE (first, second)
);

-- What the writer changed in the digest of a topic; all else in it is computed.
CREATE TABLE digest (
    topic   INTEGER PRIMARY KEY REFERENCES topic (number),
    intro   TEXT NOT NULL DEFAULT '',
    version INTEGER NOT NULL DEFAULT 1
);
-- A line in other words, left out, or put under the theme that holds another line.
CREATE TABLE digest_line (
    id       INTEGER PRIMARY KEY,
    topic    INTEGER NOT NULL REFERENCES topic (number),
    slip     INTEGER NOT NULL REFERENCES slip (number),
    words    TEXT,
    based_on TEXT NOT NULL DEFAULT '',
    hidden   INTEGER NOT NULL DEFAULT 0,
    beside   INTEGER REFERENCES slip (number),
    UNIQUE (topic, slip)
);
-- The name of the theme that holds a line.
CREATE TABLE digest_theme (
    id    INTEGER PRIMARY KEY,
    topic INTEGER NOT NULL REFERENCES topic (number),
    slip  INTEGER NOT NULL REFERENCES slip (number),
    name  TEXT NOT NULL,
    UNIQUE (topic, slip)
);
