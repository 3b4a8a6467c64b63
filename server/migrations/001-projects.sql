-- Pictures are stored once, under the hash of their content.
CREATE TABLE picture (
  hash TEXT PRIMARY KEY,
  width INTEGER NOT NULL,
  height INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('raster', 'svg')),
  -- Pixels as PNG, turned upright, without metadata.
  png BLOB NOT NULL,
  -- Source of vector artwork; null for raster pictures.
  source BLOB,
  created_at TEXT NOT NULL
) STRICT;

CREATE TABLE project (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  picture_hash TEXT NOT NULL REFERENCES picture (hash),
  recipe TEXT NOT NULL,
  -- Grows by one with every save; a save that names an older one is refused.
  revision INTEGER NOT NULL DEFAULT 1,
  -- How many entries of the history are in force; those after it have been undone.
  position INTEGER NOT NULL DEFAULT 0,
  created_at TEXT NOT NULL,
  updated_at TEXT NOT NULL,
  deleted_at TEXT
) STRICT;

CREATE INDEX project_by_update ON project (deleted_at, updated_at);

-- Changes of a project in order, as patches that lead forwards and back.
CREATE TABLE history (
  project_id TEXT NOT NULL REFERENCES project (id) ON DELETE CASCADE,
  sequence INTEGER NOT NULL,
  label TEXT NOT NULL,
  patches TEXT NOT NULL,
  inverse TEXT NOT NULL,
  PRIMARY KEY (project_id, sequence)
) STRICT, WITHOUT ROWID;

-- Last picture of the stitches, for the shelf, with the figures that belong to it.
CREATE TABLE preview (
  project_id TEXT PRIMARY KEY REFERENCES project (id) ON DELETE CASCADE,
  png BLOB NOT NULL,
  figures TEXT NOT NULL
) STRICT;
