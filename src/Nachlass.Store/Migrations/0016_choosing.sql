-- The share of what goes out that a core topic should have, in per cent.
ALTER TABLE topic ADD COLUMN wish INTEGER CHECK (wish BETWEEN 1 AND 100);

-- Topics that an occasion is on; where there are none, those that its name names.
CREATE TABLE occasion_topic (
    id       INTEGER PRIMARY KEY,
    occasion INTEGER NOT NULL REFERENCES occasion (number),
    topic    INTEGER NOT NULL REFERENCES topic (number),
    UNIQUE (occasion, topic)
);

-- How much each term of worth counts: the name of ready weights, or the writer's own.
CREATE TABLE weighing (
    id      INTEGER PRIMARY KEY CHECK (id = 1),
    key     TEXT NOT NULL,
    weights TEXT,
    version INTEGER NOT NULL DEFAULT 1
);

-- What stood there when a piece was begun, and what was taken: its place by worth and by pull alone, and the terms of the first ones.
CREATE TABLE choice (
    number    INTEGER PRIMARY KEY AUTOINCREMENT,
    at        TEXT NOT NULL,
    slip      INTEGER REFERENCES slip (number),
    usable    INTEGER,
    piece     INTEGER REFERENCES piece (number),
    rank      REAL NOT NULL,
    pull_rank REAL NOT NULL,
    among     INTEGER NOT NULL,
    stood     TEXT NOT NULL
);
CREATE INDEX choice_piece ON choice (piece);
