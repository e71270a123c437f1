CREATE TABLE sites (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  revision INTEGER NOT NULL,
  document TEXT NOT NULL,
  created_at TEXT NOT NULL,
  updated_at TEXT NOT NULL
) STRICT;

-- Append only. An undo or redo is an entry too: it names the edit that it concerns.
CREATE TABLE edits (
  site_id TEXT NOT NULL REFERENCES sites (id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('edit', 'undo', 'redo')),
  of_revision INTEGER,
  label TEXT NOT NULL,
  patch TEXT NOT NULL,
  inverse TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (site_id, revision)
) STRICT;

CREATE TABLE builds (
  id INTEGER PRIMARY KEY,
  site_id TEXT NOT NULL REFERENCES sites (id) ON DELETE CASCADE,
  controller_id TEXT NOT NULL,
  number INTEGER NOT NULL,
  revision INTEGER NOT NULL,
  hash TEXT NOT NULL,
  image TEXT NOT NULL,
  at TEXT NOT NULL,
  UNIQUE (site_id, controller_id, number)
) STRICT;

CREATE TABLE artefacts (
  build_id INTEGER NOT NULL REFERENCES builds (id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  position INTEGER NOT NULL,
  text TEXT NOT NULL,
  PRIMARY KEY (build_id, name)
) STRICT;

CREATE TABLE flashes (
  id INTEGER PRIMARY KEY,
  build_id INTEGER NOT NULL REFERENCES builds (id) ON DELETE CASCADE,
  board_package TEXT NOT NULL,
  note TEXT NOT NULL,
  at TEXT NOT NULL
) STRICT;

CREATE TABLE trial_runs (
  id INTEGER PRIMARY KEY,
  site_id TEXT NOT NULL REFERENCES sites (id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  duration_ms INTEGER NOT NULL,
  timeline TEXT NOT NULL,
  at TEXT NOT NULL
) STRICT;

CREATE TABLE test_runs (
  id INTEGER PRIMARY KEY,
  site_id TEXT NOT NULL REFERENCES sites (id) ON DELETE CASCADE,
  controller_id TEXT NOT NULL,
  build_id INTEGER REFERENCES builds (id),
  revision INTEGER NOT NULL,
  at TEXT NOT NULL
) STRICT;

CREATE TABLE test_items (
  run_id INTEGER NOT NULL REFERENCES test_runs (id) ON DELETE CASCADE,
  key TEXT NOT NULL,
  position INTEGER NOT NULL,
  item TEXT NOT NULL,
  outcome TEXT NOT NULL CHECK (outcome IN ('open', 'passed', 'failed', 'skipped')),
  note TEXT NOT NULL,
  at TEXT,
  PRIMARY KEY (run_id, key)
) STRICT;

CREATE TABLE log_entries (
  id INTEGER PRIMARY KEY,
  site_id TEXT NOT NULL REFERENCES sites (id) ON DELETE CASCADE,
  controller_id TEXT,
  kind TEXT NOT NULL CHECK (kind IN ('build', 'flash', 'trial', 'test', 'note', 'fault')),
  text TEXT NOT NULL,
  at TEXT NOT NULL
) STRICT;

CREATE TABLE credentials (
  site_id TEXT NOT NULL REFERENCES sites (id) ON DELETE CASCADE,
  owner TEXT NOT NULL,
  name TEXT NOT NULL,
  nonce BLOB NOT NULL,
  cipher BLOB NOT NULL,
  updated_at TEXT NOT NULL,
  PRIMARY KEY (site_id, owner, name)
) STRICT;

-- Last values that the app-service stand-in holds.
CREATE TABLE held_values (
  site_id TEXT NOT NULL REFERENCES sites (id) ON DELETE CASCADE,
  service_id TEXT NOT NULL,
  point_id TEXT NOT NULL,
  value INTEGER NOT NULL,
  PRIMARY KEY (site_id, service_id, point_id)
) STRICT;

CREATE INDEX log_by_site ON log_entries (site_id, id);
CREATE INDEX builds_by_site ON builds (site_id, id);
CREATE INDEX flashes_by_build ON flashes (build_id, id);
