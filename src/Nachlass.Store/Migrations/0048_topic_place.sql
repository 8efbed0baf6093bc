-- Where a topic stands among those under the same wider one, where that is an axis of the writer's own; null for by name.
ALTER TABLE topic ADD COLUMN place INTEGER;
