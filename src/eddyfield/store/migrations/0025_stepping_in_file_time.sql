-- Whether poses are held by a grid in the performance's own time.
ALTER TABLE scene_character ADD COLUMN IF NOT EXISTS step_in_file_time TINYINT NOT NULL DEFAULT 0;
