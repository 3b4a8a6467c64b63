-- The practice machine: how it is set, and the jobs it was given.
CREATE TABLE machine (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  needles INTEGER NOT NULL,
  hoop TEXT NOT NULL,
  speed INTEGER NOT NULL,
  time_scale REAL NOT NULL
) STRICT;

CREATE TABLE machine_job (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  -- The stitch list as it came.
  list TEXT NOT NULL,
  created_at TEXT NOT NULL,
  -- Jobs are sewn in the order they came.
  place INTEGER NOT NULL
) STRICT;

-- Apart from the list, since it changes several times a second.
CREATE TABLE machine_progress (
  job_id TEXT PRIMARY KEY REFERENCES machine_job (id) ON DELETE CASCADE,
  state TEXT NOT NULL,
  -- Rows of the list that are done.
  row INTEGER NOT NULL,
  seconds REAL NOT NULL,
  stops INTEGER NOT NULL,
  breaks INTEGER NOT NULL,
  waits_for TEXT,
  ended INTEGER NOT NULL DEFAULT 0
) STRICT, WITHOUT ROWID;
