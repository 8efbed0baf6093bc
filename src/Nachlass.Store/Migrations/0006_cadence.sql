-- When pieces of a format go out: an iCalendar recurrence rule and the day it counts from.
CREATE TABLE cadence (
    id       INTEGER PRIMARY KEY,
    format   TEXT NOT NULL UNIQUE,
    rule     TEXT NOT NULL,
    from_day TEXT NOT NULL,
    version  INTEGER NOT NULL DEFAULT 1
);
