-- The builder's own parts, across machines: sources, converters and drivers that lie on the shelf.
CREATE TABLE shelf_part (
  id          TEXT PRIMARY KEY,
  name        TEXT NOT NULL,
  kind        TEXT NOT NULL,
  document    TEXT NOT NULL,
  created_at  TEXT NOT NULL
) STRICT;

CREATE INDEX shelf_part_kind ON shelf_part (kind, name);
