-- Pins are called by what is printed on the board first: "U1 GPIO 23" has become "U1 D23 (GPIO 23)". A wire is known by
-- its ends, so the ticks go along; the highest number first, since " GPIO 2" begins " GPIO 23" too.
WITH RECURSIVE renamed (id, wire, number) AS (
  SELECT rowid, wire, 99 FROM wires
  UNION ALL
  SELECT id, replace(wire, ' GPIO ' || number, ' D' || number || ' (GPIO ' || number || ')'), number - 1
  FROM renamed WHERE number >= 0
)
UPDATE wires SET wire = (SELECT renamed.wire FROM renamed WHERE renamed.id = wires.rowid AND renamed.number = -1);
