-- Where pieces go out, each whole as JSON.
CREATE TABLE outlet (
    number     INTEGER PRIMARY KEY AUTOINCREMENT,
    definition TEXT NOT NULL,
    put_away   INTEGER NOT NULL DEFAULT 0,
    version    INTEGER NOT NULL DEFAULT 1
);

-- A cadence belongs to an outlet and a format. Those there were get an outlet of their format's name.
CREATE TABLE outlet_cadence (
    id       INTEGER PRIMARY KEY,
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
INSERT INTO outlet (number, definition)
    SELECT c.id, json_object('name', coalesce(json_extract(f.definition, '$.name'), c.format),
        'mark', upper(substr(c.format, 1, 2)), 'colour', 'teal', 'formats', json_array(c.format))
    FROM cadence c LEFT JOIN format f ON f.key = c.format;
INSERT INTO outlet_cadence (outlet, format, rule, from_day) SELECT id, format, rule, from_day FROM cadence;
DELETE FROM undo_log WHERE tbl = 'cadence';
DROP TABLE cadence;

-- Hours for writing by weekday, from Monday, as JSON; none until the writer says.
ALTER TABLE papers ADD COLUMN hours TEXT;
CREATE TABLE away (
    number   INTEGER PRIMARY KEY AUTOINCREMENT,
    from_day TEXT NOT NULL,
    to_day   TEXT NOT NULL,
    name     TEXT NOT NULL
);

-- Where a piece is to go out.
ALTER TABLE piece ADD COLUMN outlet INTEGER REFERENCES outlet (number);
CREATE INDEX piece_due ON piece (due) WHERE trashed_at IS NULL;
CREATE INDEX piece_out_on ON piece (out_on) WHERE trashed_at IS NULL;

-- The day the writer wants a stage of a piece done by.
CREATE TABLE stage_day (
    id    INTEGER PRIMARY KEY,
    piece INTEGER NOT NULL REFERENCES piece (number),
    stage TEXT NOT NULL,
    day   TEXT NOT NULL,
    UNIQUE (piece, stage)
);
