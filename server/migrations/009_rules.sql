-- Recommendation rules of shops.
CREATE TABLE rules (
  id         TEXT PRIMARY KEY,
  shop       TEXT NOT NULL,
  name       TEXT NOT NULL,
  document   TEXT NOT NULL,
  changed_at TEXT NOT NULL,
  UNIQUE (shop, name)
) STRICT;
