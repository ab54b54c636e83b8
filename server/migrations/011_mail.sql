-- How mails leave: one document. Passwords are not in it.
CREATE TABLE mail_settings (
  one      INTEGER PRIMARY KEY CHECK (one = 1),
  document TEXT NOT NULL
) STRICT;
-- What the stand-in mail server took in, to the byte.
CREATE TABLE mailbox (
  id          TEXT PRIMARY KEY,
  received_at TEXT NOT NULL,
  sender      TEXT NOT NULL,
  recipients  TEXT NOT NULL,
  source      BLOB NOT NULL
) STRICT;
CREATE INDEX mailbox_in_time ON mailbox (received_at);
