-- What was published of templates, each time whole: editing never touches it.
CREATE TABLE published (
  template TEXT NOT NULL REFERENCES templates (id),
  number   INTEGER NOT NULL,
  at       TEXT NOT NULL,
  note     TEXT NOT NULL,
  document TEXT NOT NULL,
  PRIMARY KEY (template, number)
) STRICT;
