-- The language a piece is written in (BCP 47), and how its finished text says where it has things from.
ALTER TABLE piece ADD COLUMN language TEXT NOT NULL DEFAULT '';
ALTER TABLE piece ADD COLUMN citing TEXT NOT NULL DEFAULT 'none';

-- Who made a picture, or whose it is.
ALTER TABLE attachment ADD COLUMN credit TEXT NOT NULL DEFAULT '';
