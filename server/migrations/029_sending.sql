-- Of two emails that wait for one person, the one of the occasion with the higher priority goes first.
ALTER TABLE outbox ADD COLUMN priority INTEGER NOT NULL DEFAULT 0;
-- When it was handed over, in milliseconds, and whether that was long after it was due.
ALTER TABLE outbox ADD COLUMN went_at INTEGER;
-- Why it waits for approval, and for which reasons somebody approved it.
ALTER TABLE outbox ADD COLUMN hold TEXT;
ALTER TABLE outbox ADD COLUMN approved TEXT NOT NULL DEFAULT '';
-- When an occasion was switched off or deleted last: what it created before is not sent.
ALTER TABLE occasions ADD COLUMN off_at TEXT;

UPDATE outbox SET went_at = CAST((julianday(sent_at) - 2440587.5) * 86400000 AS INTEGER) WHERE sent_at IS NOT NULL;
UPDATE outbox SET went_at = next_at WHERE went_at IS NULL AND state IN ('sending', 'in_doubt');
UPDATE outbox SET hold = 'step' WHERE state = 'held' AND reason IS NULL;

-- What went to an address of late, whoever's it is.
CREATE INDEX outbox_of_address ON outbox (lower(to_address), went_at) WHERE went_at IS NOT NULL;

-- Occasions that more people entered within an hour than their shop allows: nothing of theirs leaves until somebody answers.
CREATE TABLE crowds (
  occasion TEXT PRIMARY KEY,
  shop     TEXT NOT NULL,
  -- counting: people are still being let in; asking: somebody is asked; idle: nothing is held, and entries count from `since`.
  state    TEXT NOT NULL CHECK (state IN ('counting', 'asking', 'idle')),
  -- How many entered within the fullest hour, and how many the shop allows.
  people   INTEGER NOT NULL DEFAULT 0,
  most     INTEGER NOT NULL DEFAULT 0,
  -- Milliseconds.
  since    INTEGER NOT NULL,
  -- The first entry that was not counted yet, in milliseconds; null where all were.
  uncounted_from INTEGER
) STRICT;
CREATE INDEX occasion_trail_entered ON occasion_trail (occasion, at) WHERE effect ->> '$.kind' = 'entered';

-- An order or a cart has one owner: whoever gave two addresses gets an email about it once.
CREATE INDEX outbox_of_cause ON outbox (occasion, cause, step) WHERE about <> '{}';
