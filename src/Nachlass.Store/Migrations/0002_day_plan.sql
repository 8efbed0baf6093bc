-- What stands on a new day's sheet; no row while the writer has not changed the plan papers begin with.
CREATE TABLE day_plan (
    id       INTEGER PRIMARY KEY CHECK (id = 1),
    blocks   TEXT NOT NULL,
    days_off TEXT NOT NULL,
    version  INTEGER NOT NULL DEFAULT 1
);

-- The blocks of a sheet that was begun, as the plan had them then. The free writing itself is the sheet's own text.
CREATE TABLE day_block (
    id         INTEGER PRIMARY KEY,
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
CREATE INDEX day_block_last ON day_block (block, day_number);

-- A paragraph of a sheet that became a slip, as it was worded then, so that it becomes one only once.
CREATE TABLE day_idea (
    id         INTEGER PRIMARY KEY,
    day_number INTEGER NOT NULL REFERENCES day_sheet (day_number),
    slip       INTEGER NOT NULL REFERENCES slip (number),
    paragraph  TEXT NOT NULL
);
CREATE INDEX day_idea_day ON day_idea (day_number);
CREATE INDEX day_idea_slip ON day_idea (slip);

-- The block of a sheet on whose line a slip was written.
ALTER TABLE slip ADD COLUMN block INTEGER;

-- A sheet is found by everything written on it.
DROP TRIGGER sheet_found_insert;
DROP TRIGGER sheet_found_update;
CREATE TRIGGER sheet_found_insert AFTER INSERT ON day_sheet BEGIN
    INSERT INTO finding (rowid, title, body) VALUES (new.day_number * 8 + 4, '',
        new.text || coalesce((SELECT char(10) || group_concat(text, char(10)) FROM day_block WHERE day_number = new.day_number), ''));
END;
CREATE TRIGGER sheet_found_update AFTER UPDATE OF text ON day_sheet BEGIN
    UPDATE finding SET body = new.text || coalesce((SELECT char(10) || group_concat(text, char(10)) FROM day_block WHERE day_number = new.day_number), '')
    WHERE rowid = new.day_number * 8 + 4;
END;
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
