-- Each person's mail of a template as a number, so that a change of data tells whose mail is another: pairs of 32-bit
-- integers, id and digest. Digests of another version of the template are not compared.
ALTER TABLE template_health ADD COLUMN version INTEGER NOT NULL DEFAULT 0;
ALTER TABLE template_health ADD COLUMN digests BLOB;
UPDATE template_health
SET document = json_set(json_remove(document, '$.variants', '$.moved'), '$.changed', coalesce(document ->> '$.moved', 0));
