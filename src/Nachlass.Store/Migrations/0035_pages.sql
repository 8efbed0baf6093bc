-- A piece or a series that can be read at an address of one's own, with its text as it was put up.
CREATE TABLE page (
    number         INTEGER PRIMARY KEY AUTOINCREMENT,
    piece          INTEGER REFERENCES piece (number),
    -- It may be gone; its pieces then stand as they were put up.
    series         INTEGER,
    slug           TEXT NOT NULL UNIQUE,
    title          TEXT NOT NULL,
    summary        TEXT NOT NULL DEFAULT '',
    follows        INTEGER NOT NULL DEFAULT 0,
    asks           INTEGER NOT NULL DEFAULT 0,
    takes_comments INTEGER NOT NULL DEFAULT 0,
    is_listed      INTEGER NOT NULL DEFAULT 1,
    put_up_at      TEXT NOT NULL,
    renewed_at     TEXT NOT NULL,
    down_at        TEXT,
    version        INTEGER NOT NULL DEFAULT 1,
    CHECK ((piece IS NULL) <> (series IS NULL))
);
CREATE TABLE page_part (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    page  INTEGER NOT NULL REFERENCES page (number),
    piece INTEGER NOT NULL REFERENCES piece (number),
    title TEXT NOT NULL,
    text  TEXT NOT NULL
);
CREATE INDEX page_part_page ON page_part (page, id);

-- Addresses a page had; they lead to it, and nothing else gets them.
CREATE TABLE page_earlier (
    id   INTEGER PRIMARY KEY AUTOINCREMENT,
    slug TEXT NOT NULL UNIQUE,
    page INTEGER NOT NULL REFERENCES page (number)
);

-- What readers wrote under it. A comment comes in by no command of the writer's; what is said of it is one.
CREATE TABLE page_comment (
    number INTEGER PRIMARY KEY AUTOINCREMENT,
    page   INTEGER NOT NULL REFERENCES page (number),
    at     TEXT NOT NULL,
    person TEXT NOT NULL,
    text   TEXT NOT NULL,
    state  TEXT NOT NULL DEFAULT 'held'
);
CREATE INDEX page_comment_page ON page_comment (page, number);

-- How often it was read: counted beside all commands, as it happens.
CREATE TABLE page_day (
    page    INTEGER NOT NULL,
    day     TEXT NOT NULL,
    views   INTEGER NOT NULL DEFAULT 0,
    readers INTEGER NOT NULL DEFAULT 0,
    PRIMARY KEY (page, day)
);

-- Hashes of passphrases; they belong to this machine and go out with no copy in files.
CREATE TABLE page_secret (
    page INTEGER PRIMARY KEY,
    hash TEXT NOT NULL
);
