-- Who is inside of what, and which mails there are, is counted from indexes alone, however many they are.
CREATE INDEX occasion_inside_counted ON occasion_inside (occasion, step, version, entered, due);
CREATE INDEX outbox_of_state ON outbox (shop, state, made_at);
