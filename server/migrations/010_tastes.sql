-- What people of a shop like, as it was last reckoned: points of products (see core/src/recommend/taste).
CREATE TABLE tastes (
  shop     TEXT PRIMARY KEY,
  made_at  TEXT NOT NULL,
  document TEXT NOT NULL
) STRICT;
