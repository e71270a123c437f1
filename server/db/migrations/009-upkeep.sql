-- What was kept up, and when; the last time of each counts.
CREATE TABLE upkeep_done (
  site_id TEXT NOT NULL REFERENCES sites (id) ON DELETE CASCADE,
  item TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (site_id, item)
) STRICT;
-- An entry that was wrong stays, and a later one says so. A fault names the part that it was.
ALTER TABLE log_entries ADD COLUMN corrects INTEGER REFERENCES log_entries (id) ON DELETE CASCADE;
ALTER TABLE log_entries ADD COLUMN part TEXT;
