-- What a source is called in formulas.
ALTER TABLE sources RENAME COLUMN slot TO formula_name;
-- The generation of rows that is seen. A file is written as the next one, in many short transactions,
-- and seen when this is counted up; going back counts it down again.
ALTER TABLE sources ADD COLUMN generation INTEGER NOT NULL DEFAULT 0;
ALTER TABLE sources ADD COLUMN row_count INTEGER NOT NULL DEFAULT 0;

-- The last file of each source, which can be gone back from.
CREATE TEMP TABLE last_files AS
  SELECT id, source, was_empty FROM imports AS one WHERE state = 'applied' AND NOT EXISTS (
    SELECT 1 FROM imports AS later WHERE later.source = one.source AND later.state IN ('applied', 'undone')
      AND (later.applied_at > one.applied_at OR (later.applied_at = one.applied_at AND later.rowid > one.rowid)));

ALTER TABLE entries RENAME TO entries_before;
DROP INDEX entries_of_owner;
CREATE TABLE entries (
  id     INTEGER PRIMARY KEY,
  source TEXT NOT NULL REFERENCES sources (id),
  key    TEXT NOT NULL,
  -- Whose it is, lower case: of people, carts and orders.
  owner  TEXT,
  record TEXT NOT NULL,
  -- Where it stands among the rows of its source; a changed row keeps its place.
  place  INTEGER NOT NULL,
  -- The first generation that has it, and the first that no longer does.
  since  INTEGER NOT NULL,
  until  INTEGER
) STRICT;
INSERT INTO entries (id, source, key, owner, record, place, since)
  SELECT e.id, e.source, e.key, e.owner, e.record, e.id, EXISTS (
    SELECT 1 FROM last_files AS l WHERE l.source = e.source AND (l.was_empty = 1 OR EXISTS (
      SELECT 1 FROM replaced AS r WHERE r.import = l.id AND r.key = e.key)))
  FROM entries_before AS e;
INSERT INTO entries (source, key, owner, record, place, since, until)
  SELECT l.source, r.key, r.owner, r.record, r.id, 0, 1
  FROM replaced AS r JOIN last_files AS l ON l.id = r.import WHERE r.record IS NOT NULL;
UPDATE sources SET generation = 1 WHERE id IN (SELECT source FROM last_files);
DROP TABLE entries_before;
DROP TABLE replaced;
CREATE INDEX entries_of_key ON entries (source, key, since);
CREATE INDEX entries_in_order ON entries (source, place);
CREATE INDEX entries_of_owner ON entries (owner, source) WHERE owner IS NOT NULL;

-- The rows that are seen.
CREATE VIEW live_entries AS
  SELECT entries.id, entries.source, entries.key, entries.owner, entries.record, entries.place
  FROM entries JOIN sources ON sources.id = entries.source
  WHERE entries.since <= sources.generation AND (entries.until IS NULL OR entries.until > sources.generation);

UPDATE sources SET row_count = (SELECT COUNT(*) FROM live_entries WHERE live_entries.source = sources.id)
  WHERE target <> 'events';
UPDATE sources SET row_count = (SELECT COUNT(*) FROM events WHERE events.shop = sources.shop)
  WHERE target = 'events';

ALTER TABLE imports RENAME TO imports_before;
DROP INDEX imports_of_source;
CREATE TABLE imports (
  id         TEXT PRIMARY KEY,
  source     TEXT NOT NULL REFERENCES sources (id),
  state      TEXT NOT NULL CHECK (state IN ('looking', 'checking', 'checked', 'applying', 'applied', 'failed', 'stopped', 'undone')),
  file       TEXT NOT NULL,
  name       TEXT NOT NULL,
  bytes      INTEGER NOT NULL,
  mode       TEXT NOT NULL CHECK (mode IN ('whole', 'part')),
  settings   TEXT,
  counts     TEXT,
  message    TEXT,
  made_at    TEXT NOT NULL,
  applied_at TEXT
) STRICT;
INSERT INTO imports SELECT id, source, state, file, name, bytes, mode, settings, counts, message, made_at, applied_at
  FROM imports_before ORDER BY rowid;
DROP TABLE imports_before;
CREATE INDEX imports_of_source ON imports (source, made_at);
CREATE INDEX events_of_import ON events (import) WHERE import IS NOT NULL;
DROP TABLE temp.last_files;

-- People that are to be put together anew, in the order in which they came up.
CREATE TABLE stale_people (
  id    INTEGER PRIMARY KEY,
  shop  TEXT NOT NULL REFERENCES shops (id),
  email TEXT NOT NULL,
  UNIQUE (shop, email)
) STRICT;
