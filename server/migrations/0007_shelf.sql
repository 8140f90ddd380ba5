-- Everything on the shelf is one list: parts with their ratings, wire by the metre, fuses, connectors, each with how many there are.
CREATE TABLE shelf_item (
  id          TEXT PRIMARY KEY,
  -- part, wire, fuse or connector.
  sort        TEXT NOT NULL,
  name        TEXT NOT NULL,
  created_at  TEXT NOT NULL,
  updated_at  TEXT NOT NULL,
  document    TEXT NOT NULL
) STRICT;

INSERT INTO shelf_item (id, sort, name, created_at, updated_at, document)
  SELECT id, 'part', name, created_at, created_at,
         json_object('thing', json_object('sort', 'part', 'part', json(document)), 'count', NULL, 'cost', NULL, 'note', '', 'quirks', '')
    FROM shelf_part;

-- The list of sizes, fuses and connectors that was kept for all machines: they lie on the shelf, nobody counted how many.
INSERT INTO shelf_item (id, sort, name, created_at, updated_at, document)
  SELECT lower(printf('%s-%s-%s-%s-%s', hex(randomblob(4)), hex(randomblob(2)), hex(randomblob(2)), hex(randomblob(2)), hex(randomblob(6)))),
         json_extract(thing, '$.sort'), name, strftime('%Y-%m-%dT%H:%M:%fZ', 'now'), strftime('%Y-%m-%dT%H:%M:%fZ', 'now'),
         json_object('thing', json(thing), 'count', NULL, 'cost', NULL, 'note', '', 'quirks', '')
    FROM (
      SELECT value AS name, json_object('sort', 'wire', 'gauge', value, 'insulation', 'pvc80') AS thing
        FROM shelf_stock, json_each(shelf_stock.document, '$.gauges')
      UNION ALL
      SELECT json_extract(value, '$.ratingA') || ' A',
             json_object('sort', 'fuse', 'family', json_extract(value, '$.family'), 'ratingA', json_extract(value, '$.ratingA'))
        FROM shelf_stock, json_each(shelf_stock.document, '$.fuses')
      UNION ALL
      SELECT value, json_object('sort', 'connector', 'family', value)
        FROM shelf_stock, json_each(shelf_stock.document, '$.connectors')
    )
   WHERE EXISTS (SELECT 1 FROM shelf_stock WHERE json_valid(document));

DROP TABLE shelf_part;
DROP TABLE shelf_stock;

CREATE INDEX shelf_item_sort ON shelf_item (sort, name);

-- Machines that are put aside: off the list until they are asked for, and not on the way out as deleted ones are. Apart from the
-- row of the machine, so that the list never reads past its text.
CREATE TABLE archived (
  machine_id  TEXT PRIMARY KEY REFERENCES machine (id) ON DELETE CASCADE,
  at          TEXT NOT NULL
) STRICT;

-- Revisions that were given a name: they stay when the history is thinned.
CREATE TABLE version (
  machine_id  TEXT NOT NULL,
  revision    INTEGER NOT NULL,
  name        TEXT NOT NULL,
  at          TEXT NOT NULL,
  PRIMARY KEY (machine_id, revision),
  FOREIGN KEY (machine_id, revision) REFERENCES revision (machine_id, revision) ON DELETE CASCADE
) STRICT;
