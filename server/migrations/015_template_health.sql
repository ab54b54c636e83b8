-- What the checks and variants of a published template came to when its data changed last.
CREATE TABLE template_health (
  template TEXT PRIMARY KEY REFERENCES templates (id),
  document TEXT NOT NULL
) STRICT;
