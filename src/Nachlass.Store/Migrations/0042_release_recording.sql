-- The sound that went out with a release, as it was sent.
CREATE TABLE release_recording (
    release INTEGER PRIMARY KEY REFERENCES release (number),
    name    TEXT NOT NULL,
    hash    TEXT NOT NULL,
    type    TEXT NOT NULL,
    bytes   INTEGER NOT NULL,
    ms      INTEGER NOT NULL,
    key     TEXT NOT NULL,
    at      TEXT NOT NULL
);
