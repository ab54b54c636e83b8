-- What occasions were told of: up to which generation of a source, and which looks at products not yet. What a stop has cut off
-- is told after the next start.
ALTER TABLE sources ADD COLUMN told_generation INTEGER NOT NULL DEFAULT 0;
UPDATE sources SET told_generation = generation;
CREATE TABLE looks_to_tell (
  shop  TEXT NOT NULL,
  event TEXT NOT NULL,
  PRIMARY KEY (shop, event)
) STRICT, WITHOUT ROWID;
