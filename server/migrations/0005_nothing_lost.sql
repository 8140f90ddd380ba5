-- The text of a machine stands last in its row: what the list shows is read without it, so that a text that is damaged
-- costs its own machine and no other.
CREATE TABLE machine_next (
  id           TEXT PRIMARY KEY,
  name         TEXT NOT NULL,
  description  TEXT NOT NULL,
  revision     INTEGER NOT NULL CHECK (revision > 0),
  created_at   TEXT NOT NULL,
  updated_at   TEXT NOT NULL,
  deleted_at   TEXT,
  document     TEXT NOT NULL
) STRICT;

INSERT INTO machine_next (id, name, description, revision, created_at, updated_at, deleted_at, document)
  SELECT id, name, coalesce(CASE WHEN json_valid(document) THEN json_extract(document, '$.description') END, ''),
         revision, created_at, updated_at, deleted_at, document
    FROM machine ORDER BY created_at, rowid;

-- Documents of revisions: text of older ledgers, deflated text since.
CREATE TABLE revision_next (
  machine_id  TEXT NOT NULL REFERENCES machine_next (id) ON DELETE CASCADE,
  revision    INTEGER NOT NULL,
  label       TEXT NOT NULL,
  -- The window it came from, and what it changed, in lines (JSON).
  origin      TEXT,
  lines       TEXT,
  created_at  TEXT NOT NULL,
  document    ANY NOT NULL,
  PRIMARY KEY (machine_id, revision)
) STRICT;

INSERT INTO revision_next (machine_id, revision, label, created_at, document)
  SELECT machine_id, revision, label, created_at, document FROM revision WHERE machine_id IN (SELECT id FROM machine_next);

DROP TABLE revision;
DROP TABLE machine;
ALTER TABLE machine_next RENAME TO machine;
ALTER TABLE revision_next RENAME TO revision;

CREATE INDEX machine_live ON machine (created_at) WHERE deleted_at IS NULL;

-- Edits that are in a machine: one that comes a second time, after an answer was lost, is known by its id.
CREATE TABLE edit (
  machine_id  TEXT NOT NULL REFERENCES machine (id) ON DELETE CASCADE,
  id          TEXT NOT NULL,
  revision    INTEGER NOT NULL,
  at          TEXT NOT NULL,
  PRIMARY KEY (machine_id, id)
) STRICT, WITHOUT ROWID;

-- What the list says of a machine, worked out from one revision by one version of the rules.
CREATE TABLE overview (
  machine_id  TEXT PRIMARY KEY REFERENCES machine (id) ON DELETE CASCADE,
  revision    INTEGER NOT NULL,
  rules       TEXT NOT NULL,
  body        TEXT NOT NULL
) STRICT;
