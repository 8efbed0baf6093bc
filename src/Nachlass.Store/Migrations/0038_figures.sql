-- How often something had happened to a release up to a day, as its writer typed it.
CREATE TABLE figure_typed (
    id      INTEGER PRIMARY KEY AUTOINCREMENT,
    release INTEGER NOT NULL REFERENCES release (number),
    name    TEXT NOT NULL,
    day     TEXT NOT NULL,
    total   INTEGER NOT NULL,
    UNIQUE (release, name, day)
);

-- The same as an outlet told it. It is no step of the writer's, and stays when a release is taken away and put back.
CREATE TABLE figure_told (
    id      INTEGER PRIMARY KEY AUTOINCREMENT,
    release INTEGER NOT NULL,
    name    TEXT NOT NULL,
    day     TEXT NOT NULL,
    total   INTEGER NOT NULL,
    UNIQUE (release, name, day)
);

-- What was tried with it.
ALTER TABLE release ADD COLUMN tried TEXT NOT NULL DEFAULT '';

-- When a correction was put in at the outlet.
ALTER TABLE correction ADD COLUMN there_at TEXT;
