-- A reference that is gone leaves its number free no more: another piece's would get it, and stand in the way of taking the first back.
CREATE TABLE link_kept (
    id          INTEGER PRIMARY KEY AUTOINCREMENT,
    from_kind   TEXT NOT NULL,
    from_number INTEGER NOT NULL,
    to_kind     TEXT,
    to_number   INTEGER,
    to_name     TEXT NOT NULL,
    sentence    TEXT NOT NULL,
    to_part     TEXT NOT NULL DEFAULT ''
);
INSERT INTO link_kept SELECT id, from_kind, from_number, to_kind, to_number, to_name, sentence, to_part FROM link;
DROP TABLE link;
ALTER TABLE link_kept RENAME TO link;
CREATE INDEX link_from ON link (from_kind, from_number);
CREATE INDEX link_to ON link (to_kind, to_number, from_kind);
CREATE INDEX link_name ON link (to_name) WHERE to_kind IS NULL;
