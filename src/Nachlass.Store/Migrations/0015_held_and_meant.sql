-- What is to be looked up before a slip that is held for that goes on; null for slips held for something else.
ALTER TABLE slip ADD COLUMN held_look_up TEXT;
CREATE INDEX slip_held_look_up ON slip (number) WHERE held_look_up IS NOT NULL;
INSERT OR IGNORE INTO saved_view (name, query, layout, position)
    SELECT 'To look up', 'held:look-up', 'list', max(position) + 1 FROM saved_view;

-- A note beside a move, and its place where the writer has put it; its number's where not.
ALTER TABLE move ADD COLUMN note TEXT NOT NULL DEFAULT '';
ALTER TABLE move ADD COLUMN place INTEGER;

-- Keys of the writer's own, by what they do.
CREATE TABLE own_key (
    id     INTEGER PRIMARY KEY,
    action TEXT NOT NULL UNIQUE,
    keys   TEXT NOT NULL
);

-- By how many words each command made a draft longer or shorter, steps back and forward too. It tells what was done and is not undone.
CREATE TABLE written (
    id      INTEGER PRIMARY KEY,
    command INTEGER NOT NULL,
    piece   INTEGER NOT NULL,
    words   INTEGER NOT NULL
);
CREATE INDEX written_command ON written (command);
CREATE TRIGGER written_words AFTER UPDATE OF words ON draft WHEN new.words <> old.words BEGIN
    INSERT INTO written (command, piece, words)
        SELECT command, new.piece, new.words - old.words FROM undo_now WHERE command IS NOT NULL;
END;

-- Tables are known by their columns with tabs between, which a request may hold.
UPDATE column_mapping SET shape = replace(shape, char(31), char(9));
