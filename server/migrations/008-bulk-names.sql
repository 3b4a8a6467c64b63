-- Bulk runs of names: the text that is sewn instead of the model's, and the pictures of the model.
ALTER TABLE bulk_item ADD COLUMN text TEXT;
-- Hashes of the pictures a recipe shows, as JSON; null where each file is its own picture.
ALTER TABLE bulk_run ADD COLUMN pictures TEXT;
