-- What the builder has in the drawers, across machines: one list.
CREATE TABLE shelf_stock (
  id        INTEGER PRIMARY KEY CHECK (id = 1),
  document  TEXT NOT NULL
) STRICT;
