-- What is said of an order finds it, whoever it is said by; events of one instant stay as they were received.
ALTER TABLE events ADD COLUMN number TEXT;
UPDATE events SET number = json_extract(event, '$.number')
  WHERE json_extract(event, '$.kind') IN ('order_placed', 'order_status_changed', 'order_cancelled');
CREATE INDEX events_of_order ON events (shop, number) WHERE number IS NOT NULL;
DROP INDEX events_of_owner;
CREATE INDEX events_of_owner ON events (shop, owner, at);

-- Orders that stand: those that were cancelled are not among them.
ALTER TABLE shoppers ADD COLUMN bought INTEGER NOT NULL DEFAULT 0;
-- What events come to has changed: everybody is put together anew at the next start.
INSERT OR IGNORE INTO stale_people (shop, email) SELECT shop, email FROM people;
