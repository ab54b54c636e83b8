-- The shape of what recipients of a shop read, as it was last worked out: of very many people that takes long, and nobody waits
-- for it after a start.
CREATE TABLE shapes (
  shop     TEXT PRIMARY KEY,
  document TEXT NOT NULL
) STRICT, WITHOUT ROWID;
