-- What a shop came to know otherwise of its people, so that mails of the past are opened as they would have been.
CREATE TABLE people_changes (
  id     INTEGER PRIMARY KEY,
  person INTEGER NOT NULL REFERENCES people (id) ON DELETE CASCADE,
  at     TEXT NOT NULL,
  -- JSON: the fields that changed, as they were until then; null for those that had no value.
  before TEXT NOT NULL
) STRICT;
CREATE INDEX people_changes_of_person ON people_changes (person, at);
