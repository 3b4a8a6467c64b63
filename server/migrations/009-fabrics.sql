-- Fabrics of the user's own: a known one, and what was measured on it (JSON, as in recipes).
CREATE TABLE own_fabric (
  id TEXT PRIMARY KEY,
  fabric TEXT NOT NULL,
  hex TEXT NOT NULL,
  measured TEXT NOT NULL CHECK (json_valid(measured)),
  created_at TEXT NOT NULL,
  deleted_at TEXT
) STRICT;
