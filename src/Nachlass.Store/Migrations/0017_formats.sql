-- The formats of these papers, each whole as JSON; the ready ones are put in when the papers are opened for the first time.
CREATE TABLE format (
    id         INTEGER PRIMARY KEY AUTOINCREMENT,
    key        TEXT NOT NULL UNIQUE,
    definition TEXT NOT NULL,
    position   INTEGER NOT NULL,
    put_away   INTEGER NOT NULL DEFAULT 0,
    version    INTEGER NOT NULL DEFAULT 1
);

-- A piece's running number among its like, and which sections and steps of its format it has had or was not to have, as "essay:4".
ALTER TABLE piece ADD COLUMN running INTEGER;
ALTER TABLE piece ADD COLUMN laid TEXT;

-- The checklist of a piece: its format's when it was started, and what the writer adds.
CREATE TABLE piece_step (
    number       INTEGER PRIMARY KEY AUTOINCREMENT,
    piece        INTEGER NOT NULL REFERENCES piece (number),
    stage        TEXT NOT NULL,
    position     INTEGER NOT NULL,
    text         TEXT NOT NULL,
    instructions TEXT NOT NULL DEFAULT '',
    address      TEXT NOT NULL DEFAULT '',
    who          TEXT NOT NULL DEFAULT '',
    done_at      TEXT,
    move         INTEGER REFERENCES move (number)
);
CREATE INDEX piece_step_piece ON piece_step (piece, position);
CREATE INDEX piece_step_move ON piece_step (move) WHERE move IS NOT NULL;

-- Values of the fields its format has, and texts beside the draft. What is empty is not there.
CREATE TABLE piece_field (
    id    INTEGER PRIMARY KEY,
    piece INTEGER NOT NULL REFERENCES piece (number),
    key   TEXT NOT NULL,
    value TEXT NOT NULL,
    UNIQUE (piece, key)
);
CREATE TABLE side_text (
    id      INTEGER PRIMARY KEY,
    piece   INTEGER NOT NULL REFERENCES piece (number),
    key     TEXT NOT NULL,
    text    TEXT NOT NULL,
    version INTEGER NOT NULL DEFAULT 1,
    UNIQUE (piece, key)
);

-- A step that became a move is done when the move is.
CREATE TRIGGER move_ticks_step AFTER UPDATE OF done_at ON move WHEN new.done_at IS NOT old.done_at BEGIN
    UPDATE piece_step SET done_at = new.done_at WHERE move = new.number AND done_at IS NOT new.done_at;
END;
