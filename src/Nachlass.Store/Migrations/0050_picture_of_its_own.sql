-- The picture that goes out with a piece on one outlet, kept as it was, whatever becomes of the piece's files.
CREATE TABLE sending_picture (
    sending INTEGER PRIMARY KEY REFERENCES sending (number),
    name    TEXT NOT NULL,
    hash    TEXT NOT NULL,
    type    TEXT NOT NULL,
    shows   TEXT NOT NULL,
    credit  TEXT NOT NULL
);
CREATE TABLE release_picture (
    release INTEGER PRIMARY KEY REFERENCES release (number),
    name    TEXT NOT NULL,
    hash    TEXT NOT NULL,
    type    TEXT NOT NULL,
    shows   TEXT NOT NULL,
    credit  TEXT NOT NULL
);

-- Whether the letters of an outlet that went out can be read on the site by anybody.
ALTER TABLE outlet_connection ADD COLUMN is_archived INTEGER NOT NULL DEFAULT 0;
