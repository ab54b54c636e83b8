-- What imports changed of products: what they cost, and whether there were some. As a row of a source it is seen once
-- its source is of that generation.
CREATE TABLE product_changes (
  id         INTEGER PRIMARY KEY,
  source     TEXT NOT NULL REFERENCES sources (id),
  generation INTEGER NOT NULL,
  sku        TEXT NOT NULL,
  at         TEXT NOT NULL,
  -- JSON: price, was_price, in_stock and stock until then, and from then on.
  before     TEXT NOT NULL,
  after      TEXT NOT NULL
) STRICT;
CREATE INDEX product_changes_by_time ON product_changes (source, at);

-- What the last import of each catalog changed is still known.
INSERT INTO product_changes (source, generation, sku, at, before, after)
  SELECT old.source, old.until, old.key, sources.last_import_at,
    json_object('price', json_extract(old.record, '$.price'), 'was_price', json_extract(old.record, '$.was_price'),
      'in_stock', json(CASE json_type(old.record, '$.in_stock') WHEN 'true' THEN 'true' WHEN 'false' THEN 'false' ELSE 'null' END),
      'stock', json_extract(old.record, '$.stock')),
    json_object('price', json_extract(new.record, '$.price'), 'was_price', json_extract(new.record, '$.was_price'),
      'in_stock', json(CASE json_type(new.record, '$.in_stock') WHEN 'true' THEN 'true' WHEN 'false' THEN 'false' ELSE 'null' END),
      'stock', json_extract(new.record, '$.stock'))
  FROM entries AS old
  JOIN sources ON sources.id = old.source AND old.until = sources.generation
  JOIN live_entries AS new ON new.source = old.source AND new.key = old.key
  WHERE sources.target = 'catalog' AND sources.last_import_at IS NOT NULL
    AND (json_extract(new.record, '$.price') IS NOT json_extract(old.record, '$.price')
      OR json_extract(new.record, '$.was_price') IS NOT json_extract(old.record, '$.was_price')
      OR (coalesce(json_extract(new.record, '$.in_stock'), 1) <> 0 AND coalesce(json_extract(new.record, '$.stock'), 1) > 0)
        IS NOT (coalesce(json_extract(old.record, '$.in_stock'), 1) <> 0 AND coalesce(json_extract(old.record, '$.stock'), 1) > 0));
