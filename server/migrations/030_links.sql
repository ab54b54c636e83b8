-- From here on each kind of link in emails has a signature of its own; those of older emails still work.
INSERT INTO secrets (name, value) VALUES ('links by kind since', strftime('%Y-%m-%dT%H:%M:%fZ', 'now'));

-- Links of an email that were followed of late: whoever follows all of them within a second is a program.
CREATE TABLE link_hits (
  mail   TEXT NOT NULL,
  number INTEGER NOT NULL,
  -- Milliseconds.
  at     INTEGER NOT NULL
) STRICT;
CREATE INDEX link_hits_of_mail ON link_hits (mail, at);
