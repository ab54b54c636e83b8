-- When a mail was filled, in milliseconds: what waited long for its turn is filled anew before it goes.
ALTER TABLE outbox ADD COLUMN filled_at INTEGER;
