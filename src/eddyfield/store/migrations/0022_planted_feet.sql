-- Whether feet stay where they stand while the body rides.
ALTER TABLE scene_character ADD COLUMN IF NOT EXISTS ride_plants TINYINT NOT NULL DEFAULT 0;
