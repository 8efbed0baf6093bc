-- A step back or forward belongs to the command it takes back or does again; the piece on whose page something was done has a walk of its own.
ALTER TABLE command ADD COLUMN root INTEGER REFERENCES command (number);
ALTER TABLE command ADD COLUMN piece INTEGER;
CREATE INDEX command_root ON command (root) WHERE root IS NOT NULL;
CREATE INDEX command_piece ON command (piece, number) WHERE piece IS NOT NULL;
UPDATE command SET root = (
    WITH RECURSIVE way (number, undoes) AS (
        SELECT c.number, c.undoes FROM command c WHERE c.number = command.number
        UNION ALL SELECT c.number, c.undoes FROM way JOIN command c ON c.number = way.undoes)
    SELECT number FROM way WHERE undoes IS NULL)
WHERE undoes IS NOT NULL;

-- A section whose heading has gone from the draft is kept beside the piece, with its heading and text, until it comes back.
ALTER TABLE section ADD COLUMN gone_at TEXT;
ALTER TABLE section ADD COLUMN title TEXT NOT NULL DEFAULT '';
ALTER TABLE section ADD COLUMN depth INTEGER NOT NULL DEFAULT 1;
ALTER TABLE section ADD COLUMN body TEXT NOT NULL DEFAULT '';

-- Where material was placed that is loose only while its section is gone.
ALTER TABLE material ADD COLUMN was_in INTEGER REFERENCES section (number);
CREATE INDEX material_was_in ON material (was_in) WHERE was_in IS NOT NULL;

-- A topic is found by its aliases, however they came to it: written, moved by a merge, or brought back.
DROP TRIGGER topic_found_insert;
DROP TRIGGER alias_found_insert;
DROP TRIGGER alias_found_delete;
CREATE TRIGGER topic_found_insert AFTER INSERT ON topic BEGIN
    INSERT INTO finding (rowid, title, body) VALUES (new.number * 8 + 3, new.name,
        coalesce((SELECT group_concat(name, ' ') FROM (SELECT name FROM topic_alias WHERE topic = new.number ORDER BY name)), ''));
END;
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

-- A paragraph or line of a text that became a slip or a move, as it was worded then, so that it becomes one only once.
CREATE TABLE lifted (
    id        INTEGER PRIMARY KEY,
    in_kind   TEXT NOT NULL,
    in_number INTEGER NOT NULL,
    paragraph TEXT NOT NULL,
    slip      INTEGER REFERENCES slip (number),
    move      INTEGER REFERENCES move (number)
);
CREATE INDEX lifted_in ON lifted (in_kind, in_number);
CREATE INDEX lifted_slip ON lifted (slip) WHERE slip IS NOT NULL;
CREATE INDEX lifted_move ON lifted (move) WHERE move IS NOT NULL;
INSERT INTO lifted (in_kind, in_number, paragraph, slip) SELECT 'day', day_number, paragraph, slip FROM day_idea;
DROP TABLE day_idea;
-- What was lifted before this can't be taken back through a table that is gone; it is refused with its reason.
DELETE FROM undo_log WHERE tbl = 'day_idea';
