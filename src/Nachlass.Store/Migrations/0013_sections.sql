-- The section of a piece or source that a link leads to, as it was written; empty for the whole.
ALTER TABLE link ADD COLUMN to_part TEXT NOT NULL DEFAULT '';
