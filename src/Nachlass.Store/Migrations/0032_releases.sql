-- A piece that went out on an outlet: when, where, and the text as sent, which no later change of the draft reaches.
CREATE TABLE release (
    number  INTEGER PRIMARY KEY AUTOINCREMENT,
    piece   INTEGER NOT NULL REFERENCES piece (number),
    outlet  INTEGER REFERENCES outlet (number),
    out_on  TEXT NOT NULL,
    way     TEXT NOT NULL,
    title   TEXT NOT NULL,
    text    TEXT NOT NULL,
    words   INTEGER NOT NULL,
    hash    TEXT NOT NULL,
    address TEXT NOT NULL DEFAULT '',
    summary TEXT NOT NULL DEFAULT '',
    version INTEGER NOT NULL DEFAULT 1
);
CREATE INDEX release_piece ON release (piece, out_on, number);
CREATE INDEX release_outlet ON release (outlet, out_on);
CREATE INDEX release_out_on ON release (out_on, number);

-- What a release speaks of, in its order: a topic, and the words on it.
CREATE TABLE release_topic (
    id      INTEGER PRIMARY KEY AUTOINCREMENT,
    release INTEGER NOT NULL REFERENCES release (number),
    topic   INTEGER REFERENCES topic (number),
    words   TEXT NOT NULL DEFAULT ''
);
CREATE INDEX release_topic_release ON release_topic (release, id);

-- What was put right after it went out.
CREATE TABLE correction (
    id      INTEGER PRIMARY KEY AUTOINCREMENT,
    release INTEGER NOT NULL REFERENCES release (number),
    at      TEXT NOT NULL,
    note    TEXT NOT NULL,
    text    TEXT NOT NULL
);
CREATE INDEX correction_release ON correction (release, id);

-- An outlet a piece is never to go to.
CREATE TABLE never_there (
    id     INTEGER PRIMARY KEY AUTOINCREMENT,
    piece  INTEGER NOT NULL REFERENCES piece (number),
    outlet INTEGER NOT NULL REFERENCES outlet (number),
    UNIQUE (piece, outlet)
);

-- Whether what was out before there were releases has been given one.
ALTER TABLE papers ADD COLUMN releases_made INTEGER NOT NULL DEFAULT 0;

-- What a piece says to others: once out the text as sent last, till then its draft.
CREATE VIEW piece_said AS
    SELECT d.piece, coalesce((SELECT r.text FROM release r WHERE r.piece = d.piece ORDER BY r.out_on DESC, r.number DESC LIMIT 1), d.text)
        AS text
    FROM draft d;

-- Full text over what was sent.
CREATE VIRTUAL TABLE sent_words USING fts5 (title, text, content = 'release', content_rowid = 'number',
    tokenize = 'porter unicode61 remove_diacritics 2');
CREATE TRIGGER sent_words_added AFTER INSERT ON release BEGIN
    INSERT INTO sent_words (rowid, title, text) VALUES (new.number, new.title, new.text);
END;
CREATE TRIGGER sent_words_gone AFTER DELETE ON release BEGIN
    INSERT INTO sent_words (sent_words, rowid, title, text) VALUES ('delete', old.number, old.title, old.text);
END;
CREATE TRIGGER sent_words_changed AFTER UPDATE OF title, text ON release BEGIN
    INSERT INTO sent_words (sent_words, rowid, title, text) VALUES ('delete', old.number, old.title, old.text);
    INSERT INTO sent_words (rowid, title, text) VALUES (new.number, new.title, new.text);
END;
