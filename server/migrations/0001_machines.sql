CREATE TABLE machine (
  id          TEXT PRIMARY KEY,
  name        TEXT NOT NULL,
  document    TEXT NOT NULL,
  revision    INTEGER NOT NULL CHECK (revision > 0),
  created_at  TEXT NOT NULL,
  updated_at  TEXT NOT NULL,
  deleted_at  TEXT,
  parts       INTEGER NOT NULL,
  main_v      REAL,
  worst_a     REAL,
  stops       INTEGER NOT NULL,
  fixes       INTEGER NOT NULL,
  watches     INTEGER NOT NULL,
  asks        INTEGER NOT NULL
) STRICT;

CREATE TABLE revision (
  machine_id  TEXT NOT NULL REFERENCES machine (id) ON DELETE CASCADE,
  revision    INTEGER NOT NULL,
  label       TEXT NOT NULL,
  document    TEXT NOT NULL,
  created_at  TEXT NOT NULL,
  PRIMARY KEY (machine_id, revision)
) STRICT;

CREATE INDEX machine_live ON machine (updated_at) WHERE deleted_at IS NULL;
