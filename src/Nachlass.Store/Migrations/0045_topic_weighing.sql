-- How much each term counts when topics are put in an order; while there is none they count as papers begin with.
CREATE TABLE topic_weighing (
    id      INTEGER PRIMARY KEY CHECK (id = 1),
    weights TEXT NOT NULL,
    version INTEGER NOT NULL DEFAULT 1
);
