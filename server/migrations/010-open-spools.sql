-- Metres that were sewn from the spool in use; a whole spool of them takes one from the drawer.
ALTER TABLE stash ADD COLUMN used_m REAL NOT NULL DEFAULT 0;
