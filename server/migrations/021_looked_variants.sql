-- Which variants of a template’s mail were looked at, by what was decided in them, with a mark of the mail that was seen.
CREATE TABLE looked_variants (
  template TEXT NOT NULL REFERENCES templates (id),
  variant  TEXT NOT NULL,
  mark     TEXT NOT NULL,
  at       TEXT NOT NULL,
  PRIMARY KEY (template, variant)
) STRICT, WITHOUT ROWID;
