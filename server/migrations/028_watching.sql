-- Since when the start of an occasion is heeded: what was due before it was published with this start begins nothing.
ALTER TABLE occasions ADD COLUMN heeded_since TEXT;
-- Since when its segment has been watched without a break; what was known of members before is out of date.
ALTER TABLE occasions ADD COLUMN watching_since TEXT;
UPDATE occasions SET heeded_since = on_since, watching_since = on_since;
