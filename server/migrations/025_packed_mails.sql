-- Mails that are filled together are much alike: they are kept together, in a tenth of the room. A mail of a pack has no
-- source and trail of its own, but a place in it, counted from 0; a number of a pack is never given twice.
CREATE TABLE outbox_packs (
  id    INTEGER PRIMARY KEY AUTOINCREMENT,
  bytes BLOB NOT NULL
) STRICT;
ALTER TABLE outbox_sources ADD COLUMN pack INTEGER REFERENCES outbox_packs (id);
ALTER TABLE outbox_sources ADD COLUMN place INTEGER;
CREATE INDEX outbox_sources_of_pack ON outbox_sources (pack);

-- A pack goes with the last mail that is kept in it: when mails are forgotten, and when they are filled anew.
CREATE TRIGGER outbox_pack_forgotten AFTER DELETE ON outbox_sources
WHEN OLD.pack IS NOT NULL AND NOT EXISTS (SELECT 1 FROM outbox_sources WHERE pack = OLD.pack)
BEGIN
  DELETE FROM outbox_packs WHERE id = OLD.pack;
END;
CREATE TRIGGER outbox_pack_left AFTER UPDATE OF pack ON outbox_sources
WHEN OLD.pack IS NOT NULL AND NOT EXISTS (SELECT 1 FROM outbox_sources WHERE pack = OLD.pack)
BEGIN
  DELETE FROM outbox_packs WHERE id = OLD.pack;
END;
