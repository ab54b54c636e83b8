-- What a shop keeps for its templates: formulas with a name, and product notes.
CREATE TABLE library (
  id         TEXT PRIMARY KEY,
  shop       TEXT NOT NULL,
  kind       TEXT NOT NULL CHECK (kind IN ('formula', 'note')),
  document   TEXT NOT NULL,
  changed_at TEXT NOT NULL
) STRICT;
CREATE INDEX library_of_shop ON library (shop, kind);
