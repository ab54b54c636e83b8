-- What this Carafe alone knows: links in mails stand for a person by it, without saying who.
CREATE TABLE secrets (
  name  TEXT PRIMARY KEY,
  value TEXT NOT NULL
) STRICT;
INSERT INTO secrets (name, value) VALUES ('mail links', lower(hex(randomblob(32))));
