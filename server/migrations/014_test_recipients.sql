-- People made up to look at mails with; they stand in no audience, and nothing is ever sent to them.
CREATE TABLE test_recipients (
  id       INTEGER PRIMARY KEY AUTOINCREMENT,
  shop     TEXT NOT NULL,
  name     TEXT NOT NULL,
  document TEXT NOT NULL,
  made_at  TEXT NOT NULL
) STRICT;
CREATE INDEX test_recipients_of_shop ON test_recipients (shop);
