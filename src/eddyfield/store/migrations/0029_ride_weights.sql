-- The weight of Ride over time, where it is keyed.
ALTER TABLE scene_character ADD COLUMN IF NOT EXISTS ride_weights TEXT NULL;
