-- Work that is done by itself, once each: it waits until its time, is claimed for as long as its lease lasts, and where it
-- fails it alone is set aside, with its reason, and tried again later.
CREATE TABLE jobs (
  id          INTEGER PRIMARY KEY,
  kind        TEXT NOT NULL,
  -- What it is about: one job of a kind for it.
  key         TEXT NOT NULL,
  shop        TEXT,
  payload     TEXT NOT NULL,
  -- Milliseconds.
  run_at      INTEGER NOT NULL,
  attempts    INTEGER NOT NULL DEFAULT 0,
  last_error  TEXT,
  failed_at   INTEGER,
  claimed_by  TEXT,
  lease_until INTEGER,
  UNIQUE (kind, key)
) STRICT;
CREATE INDEX jobs_due ON jobs (run_at);
