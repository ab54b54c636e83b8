-- Named conditions over people.
CREATE TABLE segments (
  shop       TEXT NOT NULL,
  name       TEXT NOT NULL,
  formula    TEXT NOT NULL,
  changed_at TEXT NOT NULL,
  PRIMARY KEY (shop, name)
) STRICT;

-- What holds for all occasions of a shop.
CREATE TABLE shop_rules (
  shop     TEXT PRIMARY KEY,
  document TEXT NOT NULL
) STRICT;

-- Occasions: the draft, and which version is on since when.
CREATE TABLE occasions (
  id         TEXT PRIMARY KEY,
  shop       TEXT NOT NULL,
  version    INTEGER NOT NULL,
  document   TEXT NOT NULL,
  published  INTEGER,
  on_since   TEXT,
  changed_at TEXT NOT NULL,
  deleted_at TEXT
) STRICT;
CREATE INDEX occasions_of_shop ON occasions (shop);

CREATE TABLE occasion_versions (
  occasion TEXT NOT NULL REFERENCES occasions (id),
  number   INTEGER NOT NULL,
  at       TEXT NOT NULL,
  document TEXT NOT NULL,
  PRIMARY KEY (occasion, number)
) STRICT;

-- When an occasion that starts by the clock starts next.
CREATE TABLE occasion_times (
  occasion TEXT PRIMARY KEY REFERENCES occasions (id),
  -- Milliseconds: the instant, and what clocks show.
  next_at  INTEGER NOT NULL,
  wall     INTEGER NOT NULL
) STRICT;

-- What the engine knows of each person, and when they are to be looked at next, in milliseconds.
CREATE TABLE occasion_people (
  shop  TEXT NOT NULL,
  email TEXT NOT NULL,
  due   INTEGER,
  state TEXT NOT NULL,
  PRIMARY KEY (shop, email)
) STRICT;
CREATE INDEX occasion_people_due ON occasion_people (due) WHERE due IS NOT NULL;

-- Who is inside of what, for lists; made from the states.
CREATE TABLE occasion_inside (
  shop     TEXT NOT NULL,
  email    TEXT NOT NULL,
  occasion TEXT NOT NULL,
  cause    TEXT NOT NULL,
  version  INTEGER NOT NULL,
  entered  INTEGER,
  due      INTEGER NOT NULL,
  step     TEXT,
  PRIMARY KEY (shop, email, occasion, cause)
) STRICT;
CREATE INDEX occasion_inside_due ON occasion_inside (occasion, due);

-- What the engine told: why, and why not.
CREATE TABLE occasion_trail (
  id       INTEGER PRIMARY KEY,
  shop     TEXT NOT NULL,
  email    TEXT NOT NULL,
  occasion TEXT NOT NULL,
  cause    TEXT NOT NULL,
  at       INTEGER NOT NULL,
  effect   TEXT NOT NULL
) STRICT;
CREATE INDEX occasion_trail_of_person ON occasion_trail (shop, email, id);
CREATE INDEX occasion_trail_in_time ON occasion_trail (at);

-- Every mail that was made.
CREATE TABLE outbox (
  id         TEXT PRIMARY KEY,
  -- One mail for one cause and step, ever.
  key        TEXT NOT NULL UNIQUE,
  shop       TEXT NOT NULL,
  email      TEXT NOT NULL,
  -- Whom it is sent to: the person, or the owner.
  recipient  TEXT NOT NULL CHECK (recipient IN ('person', 'owner')),
  mail       TEXT NOT NULL CHECK (mail IN ('marketing', 'service')),
  occasion   TEXT NOT NULL,
  version    INTEGER NOT NULL,
  cause      TEXT NOT NULL,
  step       TEXT NOT NULL,
  about      TEXT NOT NULL,
  beside     TEXT NOT NULL,
  template   TEXT NOT NULL,
  published  INTEGER,
  state      TEXT NOT NULL CHECK (state IN ('waiting', 'held', 'ready', 'sending', 'sent', 'in_doubt', 'stopped', 'bounced')),
  reason     TEXT,
  subject    TEXT,
  to_address TEXT,
  message_id TEXT,
  attempts   INTEGER NOT NULL DEFAULT 0,
  made_at    TEXT NOT NULL,
  -- When it is looked at next, in milliseconds.
  next_at    INTEGER NOT NULL,
  sent_at    TEXT,
  -- Whether it went to the stand-in mailbox.
  test_only  INTEGER NOT NULL DEFAULT 0,
  tracked    INTEGER NOT NULL DEFAULT 0,
  opened_at  TEXT,
  clicked_at TEXT
) STRICT;
CREATE INDEX outbox_to_do ON outbox (state, next_at);
CREATE INDEX outbox_in_time ON outbox (shop, made_at);
CREATE INDEX outbox_of_person ON outbox (shop, email, made_at);
CREATE INDEX outbox_of_step ON outbox (occasion, step, state);

-- The mails themselves, packed (deflate): the bytes as sent, why each block shows, and where its links lead.
CREATE TABLE outbox_sources (
  id     TEXT PRIMARY KEY REFERENCES outbox (id),
  source BLOB NOT NULL,
  trail  BLOB NOT NULL,
  links  TEXT NOT NULL,
  -- Products that stood in it, for rules that leave out what was shown.
  shown  TEXT NOT NULL
) STRICT;

-- Addresses that a mail server refused for good.
CREATE TABLE refused_addresses (
  email  TEXT PRIMARY KEY,
  at     TEXT NOT NULL,
  reason TEXT NOT NULL
) STRICT;

-- Who sends: one process at a time.
CREATE TABLE sender_lease (
  one    INTEGER PRIMARY KEY CHECK (one = 1),
  holder TEXT NOT NULL,
  host   TEXT NOT NULL,
  pid    INTEGER NOT NULL,
  until  INTEGER NOT NULL
) STRICT;

-- How far the clock was moved, in milliseconds.
CREATE TABLE clock (
  one   INTEGER PRIMARY KEY CHECK (one = 1),
  moved INTEGER NOT NULL
) STRICT;
