-- A design may show several pictures, or none.
CREATE TABLE project_picture (
  project_id TEXT NOT NULL REFERENCES project (id) ON DELETE CASCADE,
  -- What the recipe calls it: picture-1, picture-2 ...
  source TEXT NOT NULL,
  picture_hash TEXT NOT NULL REFERENCES picture (hash),
  PRIMARY KEY (project_id, source)
) STRICT, WITHOUT ROWID;

INSERT INTO project_picture (project_id, source, picture_hash) SELECT id, 'picture-1', picture_hash FROM project;

CREATE TABLE project_of_objects (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  recipe TEXT NOT NULL,
  -- Grows by one with every save; a save that names an older one is refused.
  revision INTEGER NOT NULL DEFAULT 1,
  -- How many entries of the history are in force; those after it have been undone.
  position INTEGER NOT NULL DEFAULT 0,
  created_at TEXT NOT NULL,
  updated_at TEXT NOT NULL,
  deleted_at TEXT
) STRICT;

INSERT INTO project_of_objects (id, name, recipe, revision, position, created_at, updated_at, deleted_at)
SELECT id, name, recipe, revision, position, created_at, updated_at, deleted_at FROM project ORDER BY rowid;

DROP TABLE project;
ALTER TABLE project_of_objects RENAME TO project;
CREATE INDEX project_by_update ON project (deleted_at, updated_at);

-- Version of the recipe that a change's patches are for.
ALTER TABLE history ADD COLUMN version INTEGER NOT NULL DEFAULT 6;

-- The last finished design of a project, so that it can be shown at once.
CREATE TABLE design (
  project_id TEXT PRIMARY KEY REFERENCES project (id) ON DELETE CASCADE,
  -- Names the recipe, pictures, threads and core that it was made from.
  key TEXT NOT NULL,
  packed BLOB NOT NULL
) STRICT;
