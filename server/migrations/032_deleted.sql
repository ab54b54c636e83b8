-- What was deleted, as it was, so that it can be brought back. Templates and occasions stay in their tables.
CREATE TABLE deleted (
  number     INTEGER PRIMARY KEY,
  kind       TEXT NOT NULL CHECK (kind IN ('picture', 'note', 'formula', 'rule', 'segment')),
  id         TEXT NOT NULL,
  shop       TEXT,
  name       TEXT NOT NULL,
  document   TEXT NOT NULL,
  deleted_at TEXT NOT NULL
) STRICT;
CREATE INDEX deleted_in_time ON deleted (deleted_at);
