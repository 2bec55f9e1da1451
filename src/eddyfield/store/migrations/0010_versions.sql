-- All versions of a performance that were brought in stay known.
ALTER TABLE scene_character ADD COLUMN IF NOT EXISTS versions MEDIUMTEXT NULL;
