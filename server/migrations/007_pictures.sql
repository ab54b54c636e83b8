-- The picture library: the files lie beside the database, by id.
CREATE TABLE pictures (
  id      TEXT PRIMARY KEY,
  name    TEXT NOT NULL,
  alt     TEXT NOT NULL,
  tags    TEXT NOT NULL,
  type    TEXT NOT NULL CHECK (type IN ('jpeg', 'png', 'webp', 'gif')),
  width   INTEGER NOT NULL,
  height  INTEGER NOT NULL,
  bytes   INTEGER NOT NULL,
  focus   TEXT NOT NULL,
  version INTEGER NOT NULL DEFAULT 1,
  made_at TEXT NOT NULL
) STRICT;
-- Where recipients find the pictures of a shop; shops of before say the address that Carafe has by itself.
UPDATE shops SET document = json_set(document, '$.pictures',
    CASE WHEN id LIKE 'quillmoss-%' THEN 'https://pictures.quillmoss.example' ELSE 'http://127.0.0.1:4600/pictures' END)
  WHERE json_extract(document, '$.pictures') IS NULL;
