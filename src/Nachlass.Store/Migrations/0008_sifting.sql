-- What a slip is held for besides a date: an occasion, or until so many sources speak to it.
ALTER TABLE slip ADD COLUMN held_occasion INTEGER REFERENCES occasion (number);
ALTER TABLE slip ADD COLUMN held_sources INTEGER;
CREATE INDEX slip_held_sources ON slip (number) WHERE held_sources IS NOT NULL AND state = 'held';

-- Slips that were gone through again for a topic or a piece, so that later only the new ones remain.
CREATE TABLE gone_through (
    id     INTEGER PRIMARY KEY,
    kind   TEXT NOT NULL,
    number INTEGER NOT NULL,
    slip   INTEGER NOT NULL REFERENCES slip (number),
    at     TEXT NOT NULL,
    UNIQUE (kind, number, slip)
);
CREATE INDEX gone_through_slip ON gone_through (slip);
