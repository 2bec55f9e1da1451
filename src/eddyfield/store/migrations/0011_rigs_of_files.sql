-- A file may hold several rigs, of which one is meant.
ALTER TABLE scene_character ADD COLUMN IF NOT EXISTS rig TEXT NULL AFTER offsets;
ALTER TABLE set_piece ADD COLUMN IF NOT EXISTS rig TEXT NULL AFTER offsets;
