-- What was read at a machine. One reading is one row, named once and for all by whoever took it: a queue that sends it twice
-- is known by that name. SI units; value NULL: the meter showed over range; a yes is 1, a no 0.
CREATE TABLE reading (
  machine_id   TEXT NOT NULL REFERENCES machine (id) ON DELETE CASCADE,
  queue_id     TEXT NOT NULL,
  -- Revision of the plan it was held against.
  revision     INTEGER NOT NULL,
  stage        TEXT,
  step         TEXT,
  place        TEXT NOT NULL,
  quantity     TEXT NOT NULL,
  value        REAL,
  unit         TEXT NOT NULL,
  instrument   TEXT NOT NULL,
  -- Expanded (k = 2); NULL: by the instrument's class.
  uncertainty  REAL,
  -- What the plan expected then, and a sum of what of it was read.
  expected     REAL,
  basis        TEXT,
  taken_at     TEXT NOT NULL,
  note         TEXT NOT NULL,
  way          TEXT NOT NULL,
  struck       INTEGER NOT NULL DEFAULT 0 CHECK (struck IN (0, 1)),
  PRIMARY KEY (machine_id, queue_id)
) STRICT;

CREATE INDEX reading_by_time ON reading (machine_id, taken_at);

-- Stages and steps of the bring-up that were left with a reason.
CREATE TABLE waiver (
  machine_id  TEXT NOT NULL REFERENCES machine (id) ON DELETE CASCADE,
  queue_id    TEXT NOT NULL,
  stage       TEXT NOT NULL,
  step        TEXT,
  reason      TEXT NOT NULL,
  at          TEXT NOT NULL,
  ended       INTEGER NOT NULL DEFAULT 0 CHECK (ended IN (0, 1)),
  PRIMARY KEY (machine_id, queue_id)
) STRICT;

-- What there is to read with at a machine, and how often its log has changed: what is worked out of a log is of one version.
CREATE TABLE bench (
  machine_id  TEXT PRIMARY KEY REFERENCES machine (id) ON DELETE CASCADE,
  version     INTEGER NOT NULL,
  kit         TEXT
) STRICT;

-- Phones that may read one machine and add readings to it. Of codes and tokens only their sums are kept.
CREATE TABLE pairing_code (
  code_hash   TEXT PRIMARY KEY,
  machine_id  TEXT NOT NULL REFERENCES machine (id) ON DELETE CASCADE,
  expires_at  TEXT NOT NULL
) STRICT;

CREATE TABLE phone (
  id          TEXT PRIMARY KEY,
  machine_id  TEXT NOT NULL REFERENCES machine (id) ON DELETE CASCADE,
  token_hash  TEXT NOT NULL UNIQUE,
  name        TEXT NOT NULL,
  paired_at   TEXT NOT NULL,
  seen_at     TEXT NOT NULL,
  ended_at    TEXT
) STRICT;

-- An overview counts what was read as well: it is of a revision and of a version of the log.
ALTER TABLE overview ADD COLUMN log INTEGER NOT NULL DEFAULT 0;
