-- The page elsewhere that mentions this one; empty for a comment that was written under it.
ALTER TABLE page_comment ADD COLUMN source TEXT NOT NULL DEFAULT '';
