-- Files tied to a slip, a source or a piece. The content lies in the folder "files" under its SHA-256, once however often it is tied.
CREATE TABLE attachment (
    number    INTEGER PRIMARY KEY AUTOINCREMENT,
    slip      INTEGER REFERENCES slip (number),
    source    INTEGER REFERENCES source (number),
    piece     INTEGER REFERENCES piece (number),
    hash      TEXT NOT NULL,
    name      TEXT NOT NULL,
    type      TEXT NOT NULL,
    bytes     INTEGER NOT NULL,
    why       TEXT NOT NULL DEFAULT '',
    words     TEXT NOT NULL DEFAULT '',
    caught_at TEXT NOT NULL,
    version   INTEGER NOT NULL DEFAULT 1,
    CHECK ((slip IS NOT NULL) + (source IS NOT NULL) + (piece IS NOT NULL) = 1)
);
CREATE INDEX attachment_slip ON attachment (slip) WHERE slip IS NOT NULL;
CREATE INDEX attachment_source ON attachment (source) WHERE source IS NOT NULL;
CREATE INDEX attachment_piece ON attachment (piece) WHERE piece IS NOT NULL;

-- Kind 6 of what is found is an attachment: by its name, why it matters and the words in it.
CREATE TRIGGER attachment_found_insert AFTER INSERT ON attachment BEGIN
    INSERT INTO finding (rowid, title, body) VALUES (new.number * 8 + 6, new.name, new.why || char(10) || new.words);
END;
CREATE TRIGGER attachment_found_update AFTER UPDATE OF name, why, words ON attachment BEGIN
    UPDATE finding SET title = new.name, body = new.why || char(10) || new.words WHERE rowid = new.number * 8 + 6;
END;
CREATE TRIGGER attachment_found_delete AFTER DELETE ON attachment BEGIN
    DELETE FROM finding WHERE rowid = old.number * 8 + 6;
END;

-- A slip that goes away is looked for among those that were merged into it.
CREATE INDEX slip_merged ON slip (merged_into) WHERE merged_into IS NOT NULL;

-- By what a thing that was brought in is known again, also after it was reworded.
CREATE TABLE brought (
    id     INTEGER PRIMARY KEY,
    key    BLOB NOT NULL,
    kind   TEXT NOT NULL,
    number INTEGER NOT NULL
);

-- What the columns of tables with these names mean.
CREATE TABLE column_mapping (
    id    INTEGER PRIMARY KEY,
    shape TEXT NOT NULL UNIQUE,
    roles TEXT NOT NULL
);

CREATE TABLE feed (
    number   INTEGER PRIMARY KEY AUTOINCREMENT,
    address  TEXT NOT NULL UNIQUE,
    title    TEXT NOT NULL,
    minutes  INTEGER NOT NULL,
    asked_at TEXT,
    came_at  TEXT,
    problem  TEXT NOT NULL DEFAULT '',
    etag     TEXT NOT NULL DEFAULT '',
    modified TEXT NOT NULL DEFAULT '',
    version  INTEGER NOT NULL DEFAULT 1
);

-- Dated events and seasons that a topic can be timed to.
CREATE TABLE occasion (
    number     INTEGER PRIMARY KEY AUTOINCREMENT,
    name       TEXT NOT NULL,
    from_day   TEXT NOT NULL,
    to_day     TEXT NOT NULL,
    every_year INTEGER NOT NULL DEFAULT 0,
    version    INTEGER NOT NULL DEFAULT 1
);

-- What belongs to this installation and not to the papers: it is neither exported nor undone.
CREATE TABLE setting (
    name  TEXT PRIMARY KEY,
    value TEXT NOT NULL
);
