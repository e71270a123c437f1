-- Wires that are soldered, ticked off by what they join.
CREATE TABLE wires (
  site_id TEXT NOT NULL REFERENCES sites (id) ON DELETE CASCADE,
  controller_id TEXT NOT NULL,
  wire TEXT NOT NULL,
  at TEXT NOT NULL,
  PRIMARY KEY (site_id, controller_id, wire)
) STRICT;
