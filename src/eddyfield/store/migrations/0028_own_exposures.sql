-- Parts of characters, and props, that show new poses on frames of their own.
ALTER TABLE scene_character ADD COLUMN IF NOT EXISTS parts TEXT NULL;
ALTER TABLE set_piece ADD COLUMN IF NOT EXISTS stepping TEXT NULL;
