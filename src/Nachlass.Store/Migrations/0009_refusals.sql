-- Topics that were taken off a slip or refused for it; near slips learn from it.
CREATE TABLE topic_refusal (
    id    INTEGER PRIMARY KEY,
    slip  INTEGER NOT NULL REFERENCES slip (number),
    topic INTEGER NOT NULL REFERENCES topic (number),
    UNIQUE (slip, topic)
);
