-- When each piece came to which stage. For those there were, the last that is known.
CREATE TABLE stage_entry (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    piece INTEGER NOT NULL REFERENCES piece (number),
    stage TEXT NOT NULL,
    at    TEXT NOT NULL
);
CREATE INDEX stage_entry_piece ON stage_entry (piece, id);
INSERT INTO stage_entry (piece, stage, at)
    SELECT p.number, p.stage, coalesce(
        (SELECT max(v.at) FROM piece_version v WHERE v.piece = p.number AND v.why = 'stage'),
        CASE WHEN p.out_on IS NOT NULL THEN p.changed_at ELSE p.started_at END)
    FROM piece p ORDER BY p.number;

-- Words of the writer's own that stand across stages: sponsored, waits for somebody.
CREATE TABLE piece_state (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    piece INTEGER NOT NULL REFERENCES piece (number),
    word  TEXT NOT NULL,
    UNIQUE (piece, word)
);

-- Where a piece that went out can be read.
ALTER TABLE piece ADD COLUMN out_address TEXT NOT NULL DEFAULT '';

-- What follows when a piece comes to a stage, and for which pieces it has followed already.
CREATE TABLE stage_rule (
    number  INTEGER PRIMARY KEY AUTOINCREMENT,
    name    TEXT NOT NULL,
    format  TEXT,
    stage   TEXT NOT NULL,
    query   TEXT NOT NULL,
    acts    TEXT NOT NULL,
    is_on   INTEGER NOT NULL DEFAULT 0,
    version INTEGER NOT NULL DEFAULT 1
);
CREATE TABLE stage_rule_ran (
    id    INTEGER PRIMARY KEY AUTOINCREMENT,
    rule  INTEGER NOT NULL REFERENCES stage_rule (number),
    piece INTEGER NOT NULL REFERENCES piece (number),
    UNIQUE (rule, piece)
);
