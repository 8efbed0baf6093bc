-- What wishes mean, as 384 numbers of two bytes each, by a fingerprint of what they say. Read from them once, since that takes
-- milliseconds each; can be thrown away.
CREATE TABLE wish_meaning (
    said    INTEGER PRIMARY KEY,
    numbers BLOB NOT NULL
);

-- Wishes that came by thousands and were placed by their words alone, until they have been read closely.
CREATE TABLE wish_to_read (
    wish INTEGER PRIMARY KEY
);
