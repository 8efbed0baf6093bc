-- Fields that only some types of source have, by their CSL variable; the source's own words; and whether it is new and not gone through.
ALTER TABLE source ADD COLUMN details TEXT NOT NULL DEFAULT '{}';
ALTER TABLE source ADD COLUMN text TEXT NOT NULL DEFAULT '';
ALTER TABLE source ADD COLUMN is_new INTEGER NOT NULL DEFAULT 0;
CREATE INDEX source_new ON source (caught_at) WHERE is_new = 1 AND trashed_at IS NULL;

-- The writer's questions to everything read; NULL while they are the ready ones.
ALTER TABLE papers ADD COLUMN questions TEXT;

CREATE TABLE transcript_line (
    id       INTEGER PRIMARY KEY AUTOINCREMENT,
    source   INTEGER NOT NULL REFERENCES source (number),
    position INTEGER NOT NULL,
    from_ms  INTEGER NOT NULL,
    to_ms    INTEGER NOT NULL,
    speaker  TEXT NOT NULL DEFAULT '',
    text     TEXT NOT NULL
);
CREATE INDEX transcript_line_source ON transcript_line (source, position);

-- Kind 5 of what is found is a line of a transcript.
CREATE TRIGGER transcript_found_insert AFTER INSERT ON transcript_line BEGIN
    INSERT INTO finding (rowid, title, body) VALUES (new.id * 8 + 5, '', new.text);
END;
CREATE TRIGGER transcript_found_update AFTER UPDATE OF text ON transcript_line BEGIN
    UPDATE finding SET body = new.text WHERE rowid = new.id * 8 + 5;
END;
CREATE TRIGGER transcript_found_delete AFTER DELETE ON transcript_line BEGIN
    DELETE FROM finding WHERE rowid = old.id * 8 + 5;
END;

DROP TRIGGER source_found_insert;
DROP TRIGGER source_found_update;
CREATE TRIGGER source_found_insert AFTER INSERT ON source BEGIN
    INSERT INTO finding (rowid, title, body) VALUES (new.number * 8 + 1, new.title, new.creators || char(10) || new.container || char(10) || new.address || char(10)
        || (SELECT coalesce(group_concat(value, char(10)), '') FROM json_each(new.details)) || char(10) || new.summary || char(10) || new.comments || char(10) || new.text);
END;
CREATE TRIGGER source_found_update AFTER UPDATE OF title, creators, container, address, details, summary, comments, text ON source BEGIN
    UPDATE finding SET title = new.title, body = new.creators || char(10) || new.container || char(10) || new.address || char(10)
        || (SELECT coalesce(group_concat(value, char(10)), '') FROM json_each(new.details)) || char(10) || new.summary || char(10) || new.comments || char(10) || new.text
    WHERE rowid = old.number * 8 + 1;
END;
