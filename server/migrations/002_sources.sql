-- Where data comes from. A source without a shop serves every shop.
CREATE TABLE sources (
  id             TEXT PRIMARY KEY,
  shop           TEXT REFERENCES shops (id),
  name           TEXT NOT NULL,
  kind           TEXT NOT NULL CHECK (kind IN ('file', 'address', 'events', 'typed')),
  target         TEXT NOT NULL,
  -- What formulas call it: catalog.<slot>, feeds.<slot>.
  slot           TEXT NOT NULL,
  address        TEXT,
  every_minutes  INTEGER,
  fresh_hours    INTEGER NOT NULL,
  -- How its files are read; null until the first was taken.
  settings       TEXT,
  -- What a feed says of itself.
  meta           TEXT NOT NULL DEFAULT '{}',
  revision       INTEGER NOT NULL DEFAULT 0,
  last_import_at TEXT,
  failed_at      TEXT,
  failure        TEXT,
  next_fetch_at  TEXT,
  created_at     TEXT NOT NULL,
  deleted_at     TEXT
) STRICT;

-- The rows of a source as they were read.
CREATE TABLE entries (
  id     INTEGER PRIMARY KEY,
  source TEXT NOT NULL REFERENCES sources (id),
  key    TEXT NOT NULL,
  -- Whose it is, lower case: of people, carts and orders.
  owner  TEXT,
  record TEXT NOT NULL,
  UNIQUE (source, key)
) STRICT;
CREATE INDEX entries_of_owner ON entries (owner, source) WHERE owner IS NOT NULL;

CREATE TABLE imports (
  id         TEXT PRIMARY KEY,
  source     TEXT NOT NULL REFERENCES sources (id),
  state      TEXT NOT NULL CHECK (state IN ('looking', 'checking', 'checked', 'applied', 'failed', 'stopped', 'undone')),
  file       TEXT NOT NULL,
  name       TEXT NOT NULL,
  bytes      INTEGER NOT NULL,
  mode       TEXT NOT NULL CHECK (mode IN ('whole', 'part')),
  settings   TEXT,
  counts     TEXT,
  message    TEXT,
  was_empty  INTEGER NOT NULL DEFAULT 0,
  made_at    TEXT NOT NULL,
  applied_at TEXT
) STRICT;
CREATE INDEX imports_of_source ON imports (source, made_at);

-- What an import replaced, for going back: without a record, there was no such row.
CREATE TABLE replaced (
  import TEXT NOT NULL REFERENCES imports (id),
  key    TEXT NOT NULL,
  id     INTEGER,
  owner  TEXT,
  record TEXT,
  PRIMARY KEY (import, key)
) STRICT, WITHOUT ROWID;

INSERT INTO sources (id, shop, name, kind, target, slot, fresh_hours, last_import_at, created_at)
  SELECT 'catalog-' || shop || '-' || catalog, shop, 'Catalog ' || catalog, 'file', 'catalog', catalog, 720, datetime('now'), datetime('now')
  FROM products GROUP BY shop, catalog;
INSERT INTO entries (source, key, record)
  SELECT 'catalog-' || shop || '-' || catalog, sku, record FROM products ORDER BY rowid;
DROP TABLE products;

INSERT INTO sources (id, shop, name, kind, target, slot, fresh_hours, last_import_at, created_at)
  SELECT 'coupons-' || shop, shop, 'Coupon codes', 'file', 'coupons', 'coupons', 720, datetime('now'), datetime('now')
  FROM coupons GROUP BY shop;
INSERT INTO entries (source, key, record)
  SELECT 'coupons-' || shop, code, json_object('code', code, 'policy', policy, 'percent', percent) FROM coupons ORDER BY rowid;
DROP TABLE coupons;

INSERT INTO sources (id, shop, name, kind, target, slot, fresh_hours, meta, last_import_at, created_at)
  SELECT 'feed-' || name, NULL, name, 'file', 'feed', name, 720,
         json_object('title', json_extract(document, '$.title'), 'link', json_extract(document, '$.link')),
         datetime('now'), datetime('now')
  FROM feeds;
INSERT INTO entries (source, key, record)
  SELECT 'feed-' || feeds.name, coalesce(json_extract(post.value, '$.guid'), json_extract(post.value, '$.link'), post.key), post.value
  FROM feeds, json_each(feeds.document, '$.posts') AS post;
DROP TABLE feeds;

INSERT INTO sources (id, shop, name, kind, target, slot, fresh_hours, last_import_at, created_at)
  SELECT 'people-' || shop, shop, 'People', 'file', 'people', 'people', 720, datetime('now'), datetime('now')
  FROM people GROUP BY shop;
INSERT INTO entries (source, key, owner, record)
  SELECT 'people-' || shop, lower(email), lower(email), record FROM people WHERE true ORDER BY id
  ON CONFLICT DO NOTHING;

-- Events: an id is unique in its shop, and whose an event is can become known later.
ALTER TABLE events RENAME TO events_before;
DROP INDEX events_of_person;
CREATE TABLE events (
  shop    TEXT NOT NULL REFERENCES shops (id),
  id      TEXT NOT NULL,
  at      TEXT NOT NULL,
  visitor TEXT,
  -- The address as the event says it, and as it was found out.
  email   TEXT,
  owner   TEXT,
  event   TEXT NOT NULL,
  -- The import that brought it; null where the shop posted it.
  import  TEXT,
  PRIMARY KEY (shop, id)
) STRICT;
INSERT INTO events (shop, id, at, email, owner, event)
  SELECT shop, id, at, lower(email), lower(email), event FROM events_before;
DROP TABLE events_before;
CREATE INDEX events_of_owner ON events (shop, owner, at, id);
CREATE INDEX events_of_visitor ON events (shop, visitor, at) WHERE visitor IS NOT NULL;

-- What ranking looks at stands beside what events come to.
ALTER TABLE shoppers ADD COLUMN last_order_at TEXT;
ALTER TABLE shoppers ADD COLUMN spent REAL NOT NULL DEFAULT 0;

CREATE TABLE journal_posts (
  id           INTEGER PRIMARY KEY,
  feed         TEXT NOT NULL,
  guid         TEXT NOT NULL UNIQUE,
  title        TEXT NOT NULL,
  summary      TEXT NOT NULL,
  content      TEXT NOT NULL,
  image        TEXT,
  author       TEXT NOT NULL,
  category     TEXT,
  published_at TEXT NOT NULL
) STRICT;
