-- Thread charts of the user's own; those that ship with the application are files.
CREATE TABLE chart (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  -- Grows by one with every save; a save that names an older one is refused.
  revision INTEGER NOT NULL DEFAULT 1,
  created_at TEXT NOT NULL,
  deleted_at TEXT
) STRICT;

CREATE TABLE chart_thread (
  chart_id TEXT NOT NULL REFERENCES chart (id) ON DELETE CASCADE,
  position INTEGER NOT NULL,
  code TEXT NOT NULL,
  name TEXT NOT NULL,
  hex TEXT NOT NULL,
  weight REAL NOT NULL,
  finish TEXT NOT NULL,
  PRIMARY KEY (chart_id, position),
  UNIQUE (chart_id, code)
) STRICT, WITHOUT ROWID;

-- What is in the drawer, of shipped charts and own ones alike.
CREATE TABLE stash (
  chart_id TEXT NOT NULL,
  code TEXT NOT NULL,
  spools INTEGER NOT NULL CHECK (spools >= 0),
  low_at INTEGER NOT NULL DEFAULT 0 CHECK (low_at >= 0),
  PRIMARY KEY (chart_id, code)
) STRICT, WITHOUT ROWID;
