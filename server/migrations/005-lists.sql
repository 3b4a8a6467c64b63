-- A picture may be one of a stitch list; SQLite cannot change a check where it stands.
CREATE TABLE picture_or_list (
  hash TEXT PRIMARY KEY,
  width INTEGER NOT NULL,
  height INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('raster', 'svg', 'list')),
  -- Pixels as PNG, turned upright, without metadata; of a list what it sews.
  png BLOB NOT NULL,
  -- Source of vector artwork, or the list; null for raster pictures.
  source BLOB,
  created_at TEXT NOT NULL
) STRICT;

INSERT INTO picture_or_list (hash, width, height, kind, png, source, created_at)
SELECT hash, width, height, kind, png, source, created_at FROM picture;

DROP TABLE picture;
ALTER TABLE picture_or_list RENAME TO picture;
CREATE INDEX picture_by_age ON picture (created_at);
