-- The latest events of a shop are told without sorting all of them.
CREATE INDEX events_by_time ON events (shop, at);
