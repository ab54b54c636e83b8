-- A rule has a draft, which its form changes, and what was published, which emails use.
ALTER TABLE rules ADD COLUMN published TEXT;
UPDATE rules SET published = document;
