-- How the time of a performance runs, where it is more than a start.
ALTER TABLE scene_character ADD COLUMN IF NOT EXISTS timing VARCHAR(400) NULL;
ALTER TABLE set_piece ADD COLUMN IF NOT EXISTS timing VARCHAR(400) NULL;
