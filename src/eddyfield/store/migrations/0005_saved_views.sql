-- A saved view brings back the picture: what the camera aimed at, kept sharp and held. Unknown of those saved before.
ALTER TABLE camera_view ADD COLUMN IF NOT EXISTS rigging TEXT NULL;
