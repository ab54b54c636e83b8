-- Whoever is to be put together next is found without looking at all who wait.
CREATE INDEX stale_people_in_turn ON stale_people (shop, id);
