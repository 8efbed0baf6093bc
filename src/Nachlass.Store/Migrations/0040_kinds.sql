-- Whether a release is a special event, or what was written spoken.
ALTER TABLE release ADD COLUMN kind TEXT NOT NULL DEFAULT 'usual';

-- Ways of looking at the catalogue that are kept.
CREATE TABLE catalogue_view (
    number  INTEGER PRIMARY KEY AUTOINCREMENT,
    name    TEXT NOT NULL,
    looked  TEXT NOT NULL DEFAULT '',
    grouped TEXT NOT NULL DEFAULT 'year',
    version INTEGER NOT NULL DEFAULT 1
);
CREATE UNIQUE INDEX catalogue_view_name ON catalogue_view (lower(name));
