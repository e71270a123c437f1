-- What boards have said of themselves, so that a new start of the server knows them again.
CREATE TABLE heard_boards (
  site_id TEXT NOT NULL REFERENCES sites (id) ON DELETE CASCADE,
  controller_id TEXT NOT NULL,
  first_at TEXT NOT NULL,
  at TEXT NOT NULL,
  hash TEXT,
  said TEXT,
  restarts INTEGER NOT NULL DEFAULT 0,
  PRIMARY KEY (site_id, controller_id)
) STRICT;
-- Changes of each channel are counted from the numbers of its reports: what wears its contact.
CREATE TABLE heard_channels (
  site_id TEXT NOT NULL REFERENCES sites (id) ON DELETE CASCADE,
  controller_id TEXT NOT NULL,
  channel_id TEXT NOT NULL,
  level INTEGER NOT NULL,
  source TEXT,
  seq INTEGER,
  changes INTEGER NOT NULL,
  since TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (site_id, controller_id, channel_id)
) STRICT;
-- A board that has never joined comes in only while its door is open.
CREATE TABLE board_doors (
  site_id TEXT NOT NULL REFERENCES sites (id) ON DELETE CASCADE,
  controller_id TEXT NOT NULL,
  joined_at TEXT,
  open_until TEXT,
  PRIMARY KEY (site_id, controller_id)
) STRICT;
-- What was heard for a test, and who told its outcome: the board by itself, an eye, or a hand.
ALTER TABLE test_items ADD COLUMN heard TEXT NOT NULL DEFAULT '[]';
ALTER TABLE test_items ADD COLUMN told_by TEXT CHECK (told_by IN ('board', 'eye', 'hand'));
