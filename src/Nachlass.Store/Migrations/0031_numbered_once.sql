-- Rows are numbered once. A number that becomes free again is given to another thing's row, which then stands in the way of taking
-- back that the first was taken away: a topic of one slip, say, after another slip was given one.
PRAGMA legacy_alter_table = ON;

CREATE TABLE topic_alias_kept (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    topic INTEGER NOT NULL REFERENCES topic (number),
    name  TEXT NOT NULL
);
INSERT INTO topic_alias_kept (id, topic, name) SELECT id, topic, name FROM topic_alias;
DROP TABLE topic_alias;
ALTER TABLE topic_alias_kept RENAME TO topic_alias;
CREATE UNIQUE INDEX topic_alias_name ON topic_alias (lower(name));
CREATE INDEX topic_alias_topic ON topic_alias (topic);
CREATE TRIGGER alias_found_insert AFTER INSERT ON topic_alias BEGIN
    UPDATE finding SET body = coalesce((SELECT group_concat(name, ' ') FROM (SELECT name FROM topic_alias WHERE topic = new.topic ORDER BY name)), '')
    WHERE rowid = new.topic * 8 + 3;
END;
CREATE TRIGGER alias_found_delete AFTER DELETE ON topic_alias BEGIN
    UPDATE finding SET body = coalesce((SELECT group_concat(name, ' ') FROM (SELECT name FROM topic_alias WHERE topic = old.topic ORDER BY name)), '')
    WHERE rowid = old.topic * 8 + 3;
END;
CREATE TRIGGER alias_found_update AFTER UPDATE OF topic, name ON topic_alias BEGIN
    UPDATE finding SET body = coalesce((SELECT group_concat(name, ' ') FROM (SELECT name FROM topic_alias WHERE topic = old.topic ORDER BY name)), '')
    WHERE rowid = old.topic * 8 + 3;
    UPDATE finding SET body = coalesce((SELECT group_concat(name, ' ') FROM (SELECT name FROM topic_alias WHERE topic = new.topic ORDER BY name)), '')
    WHERE rowid = new.topic * 8 + 3;
END;

CREATE TABLE slip_topic_kept (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    slip  INTEGER NOT NULL REFERENCES slip (number),
    topic INTEGER NOT NULL REFERENCES topic (number),
    UNIQUE (slip, topic)
);
INSERT INTO slip_topic_kept (id, slip, topic) SELECT id, slip, topic FROM slip_topic;
DROP TABLE slip_topic;
ALTER TABLE slip_topic_kept RENAME TO slip_topic;
CREATE INDEX slip_topic_topic ON slip_topic (topic, slip);

CREATE TABLE source_topic_kept (
    id     INTEGER PRIMARY KEY AUTOINCREMENT,
    source INTEGER NOT NULL REFERENCES source (number),
    topic  INTEGER NOT NULL REFERENCES topic (number),
    UNIQUE (source, topic)
);
INSERT INTO source_topic_kept (id, source, topic) SELECT id, source, topic FROM source_topic;
DROP TABLE source_topic;
ALTER TABLE source_topic_kept RENAME TO source_topic;
CREATE INDEX source_topic_topic ON source_topic (topic, source);

CREATE TABLE piece_topic_kept (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    piece INTEGER NOT NULL REFERENCES piece (number),
    topic INTEGER NOT NULL REFERENCES topic (number),
    UNIQUE (piece, topic)
);
INSERT INTO piece_topic_kept (id, piece, topic) SELECT id, piece, topic FROM piece_topic;
DROP TABLE piece_topic;
ALTER TABLE piece_topic_kept RENAME TO piece_topic;
CREATE INDEX piece_topic_topic ON piece_topic (topic, piece);

CREATE TABLE material_kept (
    id       INTEGER PRIMARY KEY AUTOINCREMENT,
    piece    INTEGER NOT NULL REFERENCES piece (number),
    slip     INTEGER REFERENCES slip (number),
    source   INTEGER REFERENCES source (number),
    section  INTEGER REFERENCES section (number),
    position INTEGER NOT NULL, was_in INTEGER REFERENCES section (number),
    CHECK ((slip IS NULL) <> (source IS NULL)),
    UNIQUE (piece, slip),
    UNIQUE (piece, source)
);
INSERT INTO material_kept (id, piece, slip, source, section, position, was_in) SELECT id, piece, slip, source, section, position, was_in FROM material;
DROP TABLE material;
ALTER TABLE material_kept RENAME TO material;
CREATE INDEX material_slip ON material (slip, section);
CREATE INDEX material_source ON material (source);
CREATE INDEX material_section ON material (section);
CREATE INDEX material_was_in ON material (was_in) WHERE was_in IS NOT NULL;

CREATE TABLE day_block_kept (
    id         INTEGER PRIMARY KEY AUTOINCREMENT,
    day_number INTEGER NOT NULL REFERENCES day_sheet (day_number),
    block      INTEGER NOT NULL,
    position   INTEGER NOT NULL,
    kind       TEXT NOT NULL,
    heading    TEXT NOT NULL,
    prompt     TEXT NOT NULL DEFAULT '',
    text       TEXT NOT NULL DEFAULT '',
    size       INTEGER,
    version    INTEGER NOT NULL DEFAULT 0,
    UNIQUE (day_number, block)
);
INSERT INTO day_block_kept (id, day_number, block, position, kind, heading, prompt, text, size, version) SELECT id, day_number, block, position, kind, heading, prompt, text, size, version FROM day_block;
DROP TABLE day_block;
ALTER TABLE day_block_kept RENAME TO day_block;
CREATE INDEX day_block_last ON day_block (block, day_number);
CREATE TRIGGER block_found_update AFTER UPDATE OF text ON day_block WHEN old.text IS NOT new.text BEGIN
    UPDATE finding SET body = (SELECT text FROM day_sheet WHERE day_number = new.day_number)
        || coalesce((SELECT char(10) || group_concat(text, char(10)) FROM day_block WHERE day_number = new.day_number), '')
    WHERE rowid = new.day_number * 8 + 4;
END;
CREATE TRIGGER block_found_insert AFTER INSERT ON day_block WHEN new.text <> '' BEGIN
    UPDATE finding SET body = (SELECT text FROM day_sheet WHERE day_number = new.day_number)
        || coalesce((SELECT char(10) || group_concat(text, char(10)) FROM day_block WHERE day_number = new.day_number), '')
    WHERE rowid = new.day_number * 8 + 4;
END;
CREATE TRIGGER block_found_delete AFTER DELETE ON day_block WHEN old.text <> '' BEGIN
    UPDATE finding SET body = coalesce((SELECT text FROM day_sheet WHERE day_number = old.day_number), '')
        || coalesce((SELECT char(10) || group_concat(text, char(10)) FROM day_block WHERE day_number = old.day_number), '')
    WHERE rowid = old.day_number * 8 + 4;
END;

CREATE TABLE lifted_kept (
    id        INTEGER PRIMARY KEY AUTOINCREMENT,
    in_kind   TEXT NOT NULL,
    in_number INTEGER NOT NULL,
    paragraph TEXT NOT NULL,
    slip      INTEGER REFERENCES slip (number),
    move      INTEGER REFERENCES move (number)
);
INSERT INTO lifted_kept (id, in_kind, in_number, paragraph, slip, move) SELECT id, in_kind, in_number, paragraph, slip, move FROM lifted;
DROP TABLE lifted;
ALTER TABLE lifted_kept RENAME TO lifted;
CREATE INDEX lifted_in ON lifted (in_kind, in_number);
CREATE INDEX lifted_slip ON lifted (slip) WHERE slip IS NOT NULL;
CREATE INDEX lifted_move ON lifted (move) WHERE move IS NOT NULL;

CREATE TABLE brought_kept (
    id     INTEGER PRIMARY KEY AUTOINCREMENT,
    key    BLOB NOT NULL,
    kind   TEXT NOT NULL,
    number INTEGER NOT NULL
);
INSERT INTO brought_kept (id, key, kind, number) SELECT id, key, kind, number FROM brought;
DROP TABLE brought;
ALTER TABLE brought_kept RENAME TO brought;

CREATE TABLE outlet_cadence_kept (
    id       INTEGER PRIMARY KEY AUTOINCREMENT,
    outlet   INTEGER NOT NULL REFERENCES outlet (number),
    format   TEXT NOT NULL,
    rule     TEXT NOT NULL,
    from_day TEXT NOT NULL,
    until    TEXT,
    fallback INTEGER,
    pauses   TEXT NOT NULL DEFAULT '[]',
    others   TEXT NOT NULL DEFAULT '[]',
    version  INTEGER NOT NULL DEFAULT 1,
    UNIQUE (outlet, format)
);
INSERT INTO outlet_cadence_kept (id, outlet, format, rule, from_day, until, fallback, pauses, others, version) SELECT id, outlet, format, rule, from_day, until, fallback, pauses, others, version FROM outlet_cadence;
DROP TABLE outlet_cadence;
ALTER TABLE outlet_cadence_kept RENAME TO outlet_cadence;

CREATE TABLE stage_day_kept (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    piece INTEGER NOT NULL REFERENCES piece (number),
    stage TEXT NOT NULL,
    day   TEXT NOT NULL,
    UNIQUE (piece, stage)
);
INSERT INTO stage_day_kept (id, piece, stage, day) SELECT id, piece, stage, day FROM stage_day;
DROP TABLE stage_day;
ALTER TABLE stage_day_kept RENAME TO stage_day;

CREATE TABLE gone_through_kept (
    id     INTEGER PRIMARY KEY AUTOINCREMENT,
    kind   TEXT NOT NULL,
    number INTEGER NOT NULL,
    slip   INTEGER NOT NULL REFERENCES slip (number),
    at     TEXT NOT NULL,
    UNIQUE (kind, number, slip)
);
INSERT INTO gone_through_kept (id, kind, number, slip, at) SELECT id, kind, number, slip, at FROM gone_through;
DROP TABLE gone_through;
ALTER TABLE gone_through_kept RENAME TO gone_through;
CREATE INDEX gone_through_slip ON gone_through (slip);

CREATE TABLE topic_refusal_kept (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    slip  INTEGER NOT NULL REFERENCES slip (number),
    topic INTEGER NOT NULL REFERENCES topic (number),
    UNIQUE (slip, topic)
);
INSERT INTO topic_refusal_kept (id, slip, topic) SELECT id, slip, topic FROM topic_refusal;
DROP TABLE topic_refusal;
ALTER TABLE topic_refusal_kept RENAME TO topic_refusal;

CREATE TABLE topic_apart_kept (
    id     INTEGER PRIMARY KEY AUTOINCREMENT,
    first  INTEGER NOT NULL REFERENCES topic (number),
    second INTEGER NOT NULL REFERENCES topic (number),
    UNIQUE (first, second)
);
INSERT INTO topic_apart_kept (id, first, second) SELECT id, first, second FROM topic_apart;
DROP TABLE topic_apart;
ALTER TABLE topic_apart_kept RENAME TO topic_apart;

CREATE TABLE digest_line_kept (
    id       INTEGER PRIMARY KEY AUTOINCREMENT,
    topic    INTEGER NOT NULL REFERENCES topic (number),
    slip     INTEGER NOT NULL REFERENCES slip (number),
    words    TEXT,
    based_on TEXT NOT NULL DEFAULT '',
    hidden   INTEGER NOT NULL DEFAULT 0,
    beside   INTEGER REFERENCES slip (number),
    UNIQUE (topic, slip)
);
INSERT INTO digest_line_kept (id, topic, slip, words, based_on, hidden, beside) SELECT id, topic, slip, words, based_on, hidden, beside FROM digest_line;
DROP TABLE digest_line;
ALTER TABLE digest_line_kept RENAME TO digest_line;

CREATE TABLE digest_theme_kept (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    topic INTEGER NOT NULL REFERENCES topic (number),
    slip  INTEGER NOT NULL REFERENCES slip (number),
    name  TEXT NOT NULL,
    UNIQUE (topic, slip)
);
INSERT INTO digest_theme_kept (id, topic, slip, name) SELECT id, topic, slip, name FROM digest_theme;
DROP TABLE digest_theme;
ALTER TABLE digest_theme_kept RENAME TO digest_theme;

CREATE TABLE evidence_kept (
    id           INTEGER PRIMARY KEY AUTOINCREMENT,
    claim        INTEGER NOT NULL REFERENCES claim (slip),
    thing_kind   TEXT NOT NULL,
    thing_number INTEGER NOT NULL,
    side         TEXT NOT NULL,
    note         TEXT NOT NULL DEFAULT '',
    added_at     TEXT NOT NULL,
    UNIQUE (claim, thing_kind, thing_number)
);
INSERT INTO evidence_kept (id, claim, thing_kind, thing_number, side, note, added_at) SELECT id, claim, thing_kind, thing_number, side, note, added_at FROM evidence;
DROP TABLE evidence;
ALTER TABLE evidence_kept RENAME TO evidence;

CREATE TABLE own_key_kept (
    id     INTEGER PRIMARY KEY AUTOINCREMENT,
    action TEXT NOT NULL UNIQUE,
    keys   TEXT NOT NULL
);
INSERT INTO own_key_kept (id, action, keys) SELECT id, action, keys FROM own_key;
DROP TABLE own_key;
ALTER TABLE own_key_kept RENAME TO own_key;

CREATE TABLE occasion_topic_kept (
    id       INTEGER PRIMARY KEY AUTOINCREMENT,
    occasion INTEGER NOT NULL REFERENCES occasion (number),
    topic    INTEGER NOT NULL REFERENCES topic (number),
    UNIQUE (occasion, topic)
);
INSERT INTO occasion_topic_kept (id, occasion, topic) SELECT id, occasion, topic FROM occasion_topic;
DROP TABLE occasion_topic;
ALTER TABLE occasion_topic_kept RENAME TO occasion_topic;

CREATE TABLE piece_field_kept (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    piece INTEGER NOT NULL REFERENCES piece (number),
    key   TEXT NOT NULL,
    value TEXT NOT NULL,
    UNIQUE (piece, key)
);
INSERT INTO piece_field_kept (id, piece, key, value) SELECT id, piece, key, value FROM piece_field;
DROP TABLE piece_field;
ALTER TABLE piece_field_kept RENAME TO piece_field;

CREATE TABLE side_text_kept (
    id      INTEGER PRIMARY KEY AUTOINCREMENT,
    piece   INTEGER NOT NULL REFERENCES piece (number),
    key     TEXT NOT NULL,
    text    TEXT NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    UNIQUE (piece, key)
);
INSERT INTO side_text_kept (id, piece, key, text, version) SELECT id, piece, key, text, version FROM side_text;
DROP TABLE side_text;
ALTER TABLE side_text_kept RENAME TO side_text;

CREATE TABLE piece_brief_kept (
    id          INTEGER PRIMARY KEY AUTOINCREMENT,
    piece       INTEGER NOT NULL UNIQUE REFERENCES piece (number),
    for_whom    TEXT NOT NULL DEFAULT '',
    know        TEXT NOT NULL DEFAULT '',
    feel        TEXT NOT NULL DEFAULT '',
    act         TEXT NOT NULL DEFAULT '',
    angle       TEXT NOT NULL DEFAULT '',
    call        TEXT NOT NULL DEFAULT '',
    serves      INTEGER NOT NULL DEFAULT 0,
    serves_why  TEXT NOT NULL DEFAULT '',
    cover_line  TEXT NOT NULL DEFAULT '',
    cover       INTEGER REFERENCES attachment (number),
    heap        TEXT NOT NULL DEFAULT '',
    version     INTEGER NOT NULL DEFAULT 1
);
INSERT INTO piece_brief_kept (id, piece, for_whom, know, feel, act, angle, call, serves, serves_why, cover_line, cover, heap, version) SELECT id, piece, for_whom, know, feel, act, angle, call, serves, serves_why, cover_line, cover, heap, version FROM piece_brief;
DROP TABLE piece_brief;
ALTER TABLE piece_brief_kept RENAME TO piece_brief;

CREATE TABLE set_aside_kept (
    id     INTEGER PRIMARY KEY AUTOINCREMENT,
    piece  INTEGER NOT NULL REFERENCES piece (number),
    key    TEXT NOT NULL,
    reason TEXT NOT NULL,
    UNIQUE (piece, key)
);
INSERT INTO set_aside_kept (id, piece, key, reason) SELECT id, piece, key, reason FROM set_aside;
DROP TABLE set_aside;
ALTER TABLE set_aside_kept RENAME TO set_aside;

CREATE TABLE series_piece_kept (
    id       INTEGER PRIMARY KEY AUTOINCREMENT,
    series   INTEGER NOT NULL REFERENCES series (number),
    piece    INTEGER NOT NULL UNIQUE REFERENCES piece (number),
    position INTEGER NOT NULL
);
INSERT INTO series_piece_kept (id, series, piece, position) SELECT id, series, piece, position FROM series_piece;
DROP TABLE series_piece;
ALTER TABLE series_piece_kept RENAME TO series_piece;
CREATE INDEX series_piece_series ON series_piece (series, position);

CREATE TABLE version_unit_kept (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    piece INTEGER NOT NULL REFERENCES piece (number),
    hash  INTEGER NOT NULL,
    text  TEXT NOT NULL
);
INSERT INTO version_unit_kept (id, piece, hash, text) SELECT id, piece, hash, text FROM version_unit;
DROP TABLE version_unit;
ALTER TABLE version_unit_kept RENAME TO version_unit;
CREATE INDEX version_unit_hash ON version_unit (piece, hash);

CREATE TABLE standing_frozen_kept (
    id       INTEGER PRIMARY KEY AUTOINCREMENT,
    piece    INTEGER NOT NULL REFERENCES piece (number),
    standing INTEGER NOT NULL,
    text     TEXT NOT NULL,
    UNIQUE (piece, standing)
);
INSERT INTO standing_frozen_kept (id, piece, standing, text) SELECT id, piece, standing, text FROM standing_frozen;
DROP TABLE standing_frozen;
ALTER TABLE standing_frozen_kept RENAME TO standing_frozen;

CREATE TABLE thread_copied_kept (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    piece INTEGER NOT NULL REFERENCES piece (number),
    nth   INTEGER NOT NULL,
    text  TEXT NOT NULL,
    UNIQUE (piece, nth)
);
INSERT INTO thread_copied_kept (id, piece, nth, text) SELECT id, piece, nth, text FROM thread_copied;
DROP TABLE thread_copied;
ALTER TABLE thread_copied_kept RENAME TO thread_copied;

CREATE TABLE own_word_kept (
    id   INTEGER PRIMARY KEY AUTOINCREMENT,
    word TEXT NOT NULL UNIQUE
);
INSERT INTO own_word_kept (id, word) SELECT id, word FROM own_word;
DROP TABLE own_word;
ALTER TABLE own_word_kept RENAME TO own_word;

-- Nor are those given again that only a step of undo still knows.
INSERT INTO sqlite_sequence (name, seq)
SELECT tbl, 0 FROM undo_log WHERE tbl IN ('topic_alias', 'slip_topic', 'source_topic', 'piece_topic', 'material', 'day_block', 'lifted', 'brought', 'outlet_cadence', 'stage_day', 'gone_through', 'topic_refusal', 'topic_apart', 'digest_line', 'digest_theme', 'evidence', 'own_key', 'occasion_topic', 'piece_field', 'side_text', 'piece_brief', 'set_aside', 'series_piece', 'version_unit', 'standing_frozen', 'thread_copied', 'own_word')
    AND tbl NOT IN (SELECT name FROM sqlite_sequence) GROUP BY tbl;
UPDATE sqlite_sequence SET seq = max(seq, coalesce((SELECT max(row) FROM undo_log WHERE tbl = sqlite_sequence.name), 0));
PRAGMA legacy_alter_table = OFF;
