-- Every topic with itself and all that stand under it.
CREATE VIEW topic_under (topic, under) AS
WITH RECURSIVE u (topic, under) AS (
    SELECT number, number FROM topic WHERE merged_into IS NULL
    UNION
    SELECT u.topic, t.number FROM u JOIN topic t ON t.wider = u.under WHERE t.merged_into IS NULL
)
SELECT topic, under FROM u;

-- All that a query's fields ask of a slip, in the order lists have, so that only what is shown is read from the table.
DROP INDEX slip_caught;
CREATE INDEX slip_caught ON slip (caught_at, number, state, kind, held_until, pull, effort, origin, format, source, day);

-- A question worth asking again.
CREATE TABLE saved_view (
    number   INTEGER PRIMARY KEY AUTOINCREMENT,
    name     TEXT NOT NULL,
    query    TEXT NOT NULL,
    layout   TEXT NOT NULL DEFAULT 'list',
    columns  TEXT NOT NULL DEFAULT '[]',
    sort     TEXT,
    upward   INTEGER NOT NULL DEFAULT 0,
    grouped  TEXT,
    on_desk  INTEGER NOT NULL DEFAULT 0,
    position INTEGER NOT NULL,
    version  INTEGER NOT NULL DEFAULT 1
);
CREATE UNIQUE INDEX saved_view_name ON saved_view (lower(name));
INSERT INTO saved_view (name, query, layout, sort, grouped, position) VALUES
    ('Caught in the last seven days', 'since:7d', 'list', NULL, NULL, 1),
    ('High pull and unused', 'in:slips pull>=4 used:no', 'table', 'pull', NULL, 2),
    ('Light work', 'in:slips effort<=2 used:no', 'table', 'pull', NULL, 3),
    ('Waiting, by topic', 'state:waiting', 'table', NULL, 'topic', 4),
    ('Held', 'state:held', 'table', NULL, NULL, 5),
    ('Dropped', 'state:dropped', 'list', NULL, NULL, 6),
    ('Never linked', 'in:slips link:none', 'list', NULL, NULL, 7);
