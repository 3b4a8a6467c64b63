-- Bulk runs: many pictures through the settings of one project, or each by its own first ones.
CREATE TABLE bulk_run (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  -- Recipe whose picture is exchanged; null gives each picture its own.
  recipe TEXT,
  cancelled INTEGER NOT NULL DEFAULT 0,
  created_at TEXT NOT NULL
) STRICT;

CREATE TABLE bulk_item (
  run_id TEXT NOT NULL REFERENCES bulk_run (id) ON DELETE CASCADE,
  place INTEGER NOT NULL,
  name TEXT NOT NULL,
  -- What is converted; null where the file could not be read.
  picture_hash TEXT,
  -- waiting, making, done, failed
  state TEXT NOT NULL,
  error TEXT,
  project_id TEXT,
  PRIMARY KEY (run_id, place)
) STRICT, WITHOUT ROWID;
