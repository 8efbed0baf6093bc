-- What readers wrote.
CREATE TABLE message (
    number      INTEGER PRIMARY KEY AUTOINCREMENT,
    person      TEXT NOT NULL,
    address     TEXT NOT NULL DEFAULT '',
    at          TEXT NOT NULL,
    way         TEXT NOT NULL DEFAULT '',
    release     INTEGER REFERENCES release (number),
    text        TEXT NOT NULL,
    reach       INTEGER NOT NULL DEFAULT 1,
    key         TEXT NOT NULL UNIQUE,
    answered_at TEXT,
    answer      TEXT NOT NULL DEFAULT '',
    version     INTEGER NOT NULL DEFAULT 1
);
CREATE INDEX message_at ON message (at, number);
CREATE INDEX message_release ON message (release);

-- The same wish of several readers.
CREATE TABLE ask (
    number   INTEGER PRIMARY KEY AUTOINCREMENT,
    title    TEXT NOT NULL DEFAULT '',
    slip     INTEGER REFERENCES slip (number),
    piece    INTEGER REFERENCES piece (number),
    put_away INTEGER NOT NULL DEFAULT 0,
    version  INTEGER NOT NULL DEFAULT 1
);

-- A sentence that wishes for something, and the ask it is part of; none when its writer said that it asks nothing.
CREATE TABLE wish (
    number  INTEGER PRIMARY KEY AUTOINCREMENT,
    message INTEGER NOT NULL REFERENCES message (number),
    text    TEXT NOT NULL,
    ask     INTEGER REFERENCES ask (number),
    by_hand INTEGER NOT NULL DEFAULT 0
);
CREATE INDEX wish_message ON wish (message);
CREATE INDEX wish_ask ON wish (ask);

-- Messages with one of these words are kept and not shown.
CREATE TABLE hidden_word (
    id   INTEGER PRIMARY KEY AUTOINCREMENT,
    word TEXT NOT NULL UNIQUE
);

CREATE VIRTUAL TABLE message_words USING fts5 (person, text, content = 'message', content_rowid = 'number',
    tokenize = 'porter unicode61 remove_diacritics 2');
CREATE TRIGGER message_words_added AFTER INSERT ON message BEGIN
    INSERT INTO message_words (rowid, person, text) VALUES (new.number, new.person, new.text);
END;
CREATE TRIGGER message_words_gone AFTER DELETE ON message BEGIN
    INSERT INTO message_words (message_words, rowid, person, text) VALUES ('delete', old.number, old.person, old.text);
END;
CREATE TRIGGER message_words_changed AFTER UPDATE OF person, text ON message BEGIN
    INSERT INTO message_words (message_words, rowid, person, text) VALUES ('delete', old.number, old.person, old.text);
    INSERT INTO message_words (rowid, person, text) VALUES (new.number, new.person, new.text);
END;
