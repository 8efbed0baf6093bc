-- The writer's own angles, in their order; while there are none the ready ones hold.
CREATE TABLE angle (
    number  INTEGER PRIMARY KEY AUTOINCREMENT,
    shape   TEXT NOT NULL,
    spark   TEXT NOT NULL,
    wording TEXT NOT NULL,
    is_off  INTEGER NOT NULL DEFAULT 0
);
