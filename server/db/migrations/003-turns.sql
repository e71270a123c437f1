-- What came after what, also where the clock was set back: a turn is one later than all that were there.
ALTER TABLE credentials ADD COLUMN turn INTEGER NOT NULL DEFAULT 0;
ALTER TABLE flashes ADD COLUMN turn INTEGER NOT NULL DEFAULT 0;
UPDATE credentials SET turn = 1
  + (SELECT count(*) FROM credentials c WHERE c.updated_at < credentials.updated_at)
  + (SELECT count(*) FROM flashes f WHERE f.at < credentials.updated_at);
UPDATE flashes SET turn = 1
  + (SELECT count(*) FROM credentials c WHERE c.updated_at < flashes.at)
  + (SELECT count(*) FROM flashes f WHERE f.at < flashes.at);
