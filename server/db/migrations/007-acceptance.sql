-- Acceptance runs in the simulated house, each with the tables that it holds for; the last one of a site is looked at.
CREATE TABLE acceptance_runs (
  id INTEGER PRIMARY KEY,
  site_id TEXT NOT NULL REFERENCES sites (id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  report TEXT NOT NULL,
  at TEXT NOT NULL
) STRICT;
CREATE INDEX acceptance_runs_by_site ON acceptance_runs (site_id, id);
