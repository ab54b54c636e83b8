CREATE TABLE shops (
  id       TEXT PRIMARY KEY,
  document TEXT NOT NULL
) STRICT;

CREATE TABLE products (
  shop    TEXT NOT NULL REFERENCES shops (id),
  catalog TEXT NOT NULL,
  sku     TEXT NOT NULL,
  record  TEXT NOT NULL,
  PRIMARY KEY (shop, catalog, sku)
) STRICT;

CREATE TABLE feeds (
  name     TEXT PRIMARY KEY,
  document TEXT NOT NULL
) STRICT;

CREATE TABLE coupons (
  shop    TEXT NOT NULL REFERENCES shops (id),
  policy  TEXT NOT NULL,
  code    TEXT NOT NULL,
  percent REAL,
  PRIMARY KEY (shop, code)
) STRICT;

CREATE TABLE people (
  id     INTEGER PRIMARY KEY,
  shop   TEXT NOT NULL REFERENCES shops (id),
  email  TEXT NOT NULL,
  record TEXT NOT NULL,
  UNIQUE (shop, email)
) STRICT;

CREATE TABLE events (
  id    TEXT PRIMARY KEY,
  shop  TEXT NOT NULL REFERENCES shops (id),
  email TEXT NOT NULL,
  at    TEXT NOT NULL,
  event TEXT NOT NULL
) STRICT;
CREATE INDEX events_of_person ON events (shop, email, at);

-- What a person's events come to; made again from the events at any time.
CREATE TABLE shoppers (
  person  INTEGER PRIMARY KEY REFERENCES people (id),
  lines   INTEGER NOT NULL,
  orders  INTEGER NOT NULL,
  rank    INTEGER,
  shopper TEXT NOT NULL
) STRICT;

CREATE TABLE templates (
  id         TEXT PRIMARY KEY,
  name       TEXT NOT NULL,
  shop       TEXT NOT NULL,
  version    INTEGER NOT NULL,
  created_at TEXT NOT NULL,
  updated_at TEXT NOT NULL,
  deleted_at TEXT,
  document   TEXT NOT NULL
) STRICT;
