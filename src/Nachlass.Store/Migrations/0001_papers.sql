-- The papers of one writer. Numbers are never given twice (AUTOINCREMENT), also after undo.
CREATE TABLE papers (
    id      INTEGER PRIMARY KEY CHECK (id = 1),
    purpose TEXT NOT NULL DEFAULT '',
    version INTEGER NOT NULL DEFAULT 1
);
INSERT INTO papers (id) VALUES (1);

-- One row for everything done at once, the unit of undo; request and answer make a retried request harmless.
CREATE TABLE command (
    number     INTEGER PRIMARY KEY AUTOINCREMENT,
    at         TEXT NOT NULL,
    what       TEXT NOT NULL,
    request    TEXT UNIQUE,
    request_of TEXT,
    answer     TEXT,
    undoes     INTEGER REFERENCES command (number),
    undone_by  INTEGER
);

-- The command that is running; NULL between commands. The undo triggers read it.
CREATE TABLE undo_now (
    id      INTEGER PRIMARY KEY CHECK (id = 1),
    command INTEGER
);
INSERT INTO undo_now (id) VALUES (1);

-- The inverse of each row change (sqlite.org/undoredo.html), written by triggers.
CREATE TABLE undo_log (
    id      INTEGER PRIMARY KEY,
    command INTEGER NOT NULL,
    tbl     TEXT NOT NULL,
    row     INTEGER NOT NULL,
    inverse TEXT NOT NULL
);
CREATE INDEX undo_log_command ON undo_log (command);
CREATE INDEX undo_log_row ON undo_log (tbl, row, command);

CREATE TABLE source (
    number     INTEGER PRIMARY KEY AUTOINCREMENT,
    type       TEXT NOT NULL,
    title      TEXT NOT NULL,
    creators   TEXT NOT NULL DEFAULT '',
    container  TEXT NOT NULL DEFAULT '',
    date       TEXT NOT NULL DEFAULT '',
    address    TEXT NOT NULL DEFAULT '',
    language   TEXT NOT NULL DEFAULT '',
    summary    TEXT NOT NULL DEFAULT '',
    comments   TEXT NOT NULL DEFAULT '',
    caught_at  TEXT NOT NULL,
    trashed_at TEXT,
    version    INTEGER NOT NULL DEFAULT 1
);
CREATE INDEX source_caught ON source (caught_at) WHERE trashed_at IS NULL;
CREATE INDEX source_trashed ON source (trashed_at) WHERE trashed_at IS NOT NULL;
CREATE INDEX source_title ON source (lower(title));
CREATE INDEX source_address ON source (address) WHERE address <> '';

CREATE TABLE slip (
    number      INTEGER PRIMARY KEY AUTOINCREMENT,
    text        TEXT NOT NULL,
    kind        TEXT NOT NULL,
    state       TEXT NOT NULL DEFAULT 'waiting',
    origin      TEXT NOT NULL DEFAULT 'strip',
    origin_note TEXT NOT NULL DEFAULT '',
    caught_at   TEXT NOT NULL,
    day         TEXT NOT NULL,
    held_until  TEXT,
    pull        INTEGER CHECK (pull BETWEEN 1 AND 5),
    effort      INTEGER CHECK (effort BETWEEN 1 AND 5),
    format      TEXT,
    source      INTEGER REFERENCES source (number),
    locator     TEXT NOT NULL DEFAULT '',
    merged_into INTEGER REFERENCES slip (number),
    settled_at  TEXT,
    version     INTEGER NOT NULL DEFAULT 1
);
CREATE INDEX slip_state ON slip (state, caught_at);
CREATE INDEX slip_held ON slip (held_until) WHERE state = 'held';
-- All that the library's filters ask of a slip, so that counting them reads no texts.
CREATE INDEX slip_filters ON slip (state, kind, held_until);
CREATE INDEX slip_day ON slip (day);
CREATE INDEX slip_caught ON slip (caught_at);
CREATE INDEX slip_settled ON slip (settled_at);
CREATE INDEX slip_source ON slip (source) WHERE source IS NOT NULL;

CREATE TABLE topic (
    number      INTEGER PRIMARY KEY AUTOINCREMENT,
    name        TEXT NOT NULL,
    colour      TEXT NOT NULL,
    wider       INTEGER REFERENCES topic (number),
    merged_into INTEGER REFERENCES topic (number),
    version     INTEGER NOT NULL DEFAULT 1
);
CREATE UNIQUE INDEX topic_name ON topic (lower(name)) WHERE merged_into IS NULL;
CREATE TABLE topic_alias (
    id    INTEGER PRIMARY KEY,
    topic INTEGER NOT NULL REFERENCES topic (number),
    name  TEXT NOT NULL
);
CREATE UNIQUE INDEX topic_alias_name ON topic_alias (lower(name));
CREATE INDEX topic_alias_topic ON topic_alias (topic);

CREATE TABLE piece (
    number     INTEGER PRIMARY KEY AUTOINCREMENT,
    title      TEXT NOT NULL,
    format     TEXT NOT NULL,
    brief      TEXT NOT NULL DEFAULT '',
    stage      TEXT NOT NULL,
    due        TEXT,
    out_on     TEXT,
    started_at TEXT NOT NULL,
    changed_at TEXT NOT NULL,
    trashed_at TEXT,
    version    INTEGER NOT NULL DEFAULT 1
);
CREATE INDEX piece_title ON piece (lower(title));

CREATE TABLE slip_topic (
    id    INTEGER PRIMARY KEY,
    slip  INTEGER NOT NULL REFERENCES slip (number),
    topic INTEGER NOT NULL REFERENCES topic (number),
    UNIQUE (slip, topic)
);
CREATE INDEX slip_topic_topic ON slip_topic (topic, slip);
CREATE TABLE source_topic (
    id     INTEGER PRIMARY KEY,
    source INTEGER NOT NULL REFERENCES source (number),
    topic  INTEGER NOT NULL REFERENCES topic (number),
    UNIQUE (source, topic)
);
CREATE INDEX source_topic_topic ON source_topic (topic, source);
CREATE TABLE piece_topic (
    id    INTEGER PRIMARY KEY,
    piece INTEGER NOT NULL REFERENCES piece (number),
    topic INTEGER NOT NULL REFERENCES topic (number),
    UNIQUE (piece, topic)
);
CREATE INDEX piece_topic_topic ON piece_topic (topic, piece);

-- The draft is one text; its headings are the sections, in the order of position.
CREATE TABLE draft (
    piece      INTEGER PRIMARY KEY REFERENCES piece (number),
    text       TEXT NOT NULL DEFAULT '',
    words      INTEGER NOT NULL DEFAULT 0,
    changed_at TEXT NOT NULL,
    version    INTEGER NOT NULL DEFAULT 1
);
CREATE TABLE section (
    number   INTEGER PRIMARY KEY AUTOINCREMENT,
    piece    INTEGER NOT NULL REFERENCES piece (number),
    position INTEGER NOT NULL,
    aim      INTEGER,
    beat     TEXT NOT NULL DEFAULT ''
);
CREATE INDEX section_piece ON section (piece, position);

-- A slip or a source tied to a piece; loose while it has no section.
CREATE TABLE material (
    id       INTEGER PRIMARY KEY,
    piece    INTEGER NOT NULL REFERENCES piece (number),
    slip     INTEGER REFERENCES slip (number),
    source   INTEGER REFERENCES source (number),
    section  INTEGER REFERENCES section (number),
    position INTEGER NOT NULL,
    CHECK ((slip IS NULL) <> (source IS NULL)),
    UNIQUE (piece, slip),
    UNIQUE (piece, source)
);
CREATE INDEX material_slip ON material (slip, section);
CREATE INDEX material_source ON material (source);
CREATE INDEX material_section ON material (section);

CREATE TABLE move (
    number    INTEGER PRIMARY KEY AUTOINCREMENT,
    text      TEXT NOT NULL,
    due       TEXT,
    done_at   TEXT,
    piece     INTEGER REFERENCES piece (number),
    caught_at TEXT NOT NULL,
    day       TEXT NOT NULL,
    version   INTEGER NOT NULL DEFAULT 1
);
CREATE INDEX move_day ON move (day);
CREATE INDEX move_open ON move (due) WHERE done_at IS NULL;
CREATE INDEX move_piece ON move (piece, due) WHERE done_at IS NULL;

CREATE TABLE day_sheet (
    day_number INTEGER PRIMARY KEY,
    day        TEXT NOT NULL UNIQUE,
    text       TEXT NOT NULL,
    version    INTEGER NOT NULL DEFAULT 1
);

-- A reference in a text: to a thing by kind and number, or by its name in lower case.
CREATE TABLE link (
    id          INTEGER PRIMARY KEY,
    from_kind   TEXT NOT NULL,
    from_number INTEGER NOT NULL,
    to_kind     TEXT,
    to_number   INTEGER,
    to_name     TEXT NOT NULL,
    sentence    TEXT NOT NULL
);
CREATE INDEX link_from ON link (from_kind, from_number);
CREATE INDEX link_to ON link (to_kind, to_number, from_kind);
CREATE INDEX link_name ON link (to_name) WHERE to_kind IS NULL;

-- Full text over everything a writer wrote. rowid = number * 8 + kind (0 slip, 1 source, 2 piece, 3 topic, 4 day sheet).
CREATE VIRTUAL TABLE finding USING fts5 (title, body, tokenize = 'porter unicode61 remove_diacritics 2', prefix = '2 3');

CREATE TRIGGER slip_found_insert AFTER INSERT ON slip BEGIN
    INSERT INTO finding (rowid, title, body) VALUES (new.number * 8, '', new.text);
END;
CREATE TRIGGER slip_found_update AFTER UPDATE OF text ON slip WHEN old.text IS NOT new.text BEGIN
    UPDATE finding SET body = new.text WHERE rowid = old.number * 8;
END;
CREATE TRIGGER slip_found_delete AFTER DELETE ON slip BEGIN
    DELETE FROM finding WHERE rowid = old.number * 8;
END;
CREATE TRIGGER source_found_insert AFTER INSERT ON source BEGIN
    INSERT INTO finding (rowid, title, body) VALUES (new.number * 8 + 1, new.title,
        new.creators || char(10) || new.container || char(10) || new.address || char(10) || new.summary || char(10) || new.comments);
END;
CREATE TRIGGER source_found_update AFTER UPDATE OF title, creators, container, address, summary, comments ON source BEGIN
    UPDATE finding SET title = new.title,
        body = new.creators || char(10) || new.container || char(10) || new.address || char(10) || new.summary || char(10) || new.comments
    WHERE rowid = old.number * 8 + 1;
END;
CREATE TRIGGER source_found_delete AFTER DELETE ON source BEGIN
    DELETE FROM finding WHERE rowid = old.number * 8 + 1;
END;
CREATE TRIGGER piece_found_insert AFTER INSERT ON piece BEGIN
    INSERT INTO finding (rowid, title, body) VALUES (new.number * 8 + 2, new.title, new.brief);
END;
CREATE TRIGGER piece_found_update AFTER UPDATE OF title, brief ON piece BEGIN
    UPDATE finding SET title = new.title, body = new.brief || char(10) || coalesce((SELECT text FROM draft WHERE piece = new.number), '')
    WHERE rowid = new.number * 8 + 2;
END;
CREATE TRIGGER piece_found_delete AFTER DELETE ON piece BEGIN
    DELETE FROM finding WHERE rowid = old.number * 8 + 2;
END;
CREATE TRIGGER draft_found_insert AFTER INSERT ON draft BEGIN
    UPDATE finding SET body = (SELECT brief FROM piece WHERE number = new.piece) || char(10) || new.text WHERE rowid = new.piece * 8 + 2;
END;
CREATE TRIGGER draft_found_update AFTER UPDATE OF text ON draft WHEN old.text IS NOT new.text BEGIN
    UPDATE finding SET body = (SELECT brief FROM piece WHERE number = new.piece) || char(10) || new.text WHERE rowid = new.piece * 8 + 2;
END;
CREATE TRIGGER topic_found_insert AFTER INSERT ON topic BEGIN
    INSERT INTO finding (rowid, title, body) VALUES (new.number * 8 + 3, new.name, '');
END;
CREATE TRIGGER topic_found_update AFTER UPDATE OF name ON topic BEGIN
    UPDATE finding SET title = new.name WHERE rowid = new.number * 8 + 3;
END;
CREATE TRIGGER topic_found_delete AFTER DELETE ON topic BEGIN
    DELETE FROM finding WHERE rowid = old.number * 8 + 3;
END;
CREATE TRIGGER alias_found_insert AFTER INSERT ON topic_alias BEGIN
    UPDATE finding SET body = body || ' ' || new.name WHERE rowid = new.topic * 8 + 3;
END;
CREATE TRIGGER alias_found_delete AFTER DELETE ON topic_alias BEGIN
    UPDATE finding SET body = coalesce((SELECT group_concat(name, ' ') FROM topic_alias WHERE topic = old.topic), '')
    WHERE rowid = old.topic * 8 + 3;
END;
CREATE TRIGGER sheet_found_insert AFTER INSERT ON day_sheet BEGIN
    INSERT INTO finding (rowid, title, body) VALUES (new.day_number * 8 + 4, '', new.text);
END;
CREATE TRIGGER sheet_found_update AFTER UPDATE OF text ON day_sheet BEGIN
    UPDATE finding SET body = new.text WHERE rowid = new.day_number * 8 + 4;
END;
CREATE TRIGGER sheet_found_delete AFTER DELETE ON day_sheet BEGIN
    DELETE FROM finding WHERE rowid = old.day_number * 8 + 4;
END;
