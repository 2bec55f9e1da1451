-- How a channel goes on before its first key and after its last.
ALTER TABLE camera_channel ADD COLUMN IF NOT EXISTS before_keys VARCHAR(8) CHARACTER SET ascii NOT NULL DEFAULT 'hold';
ALTER TABLE camera_channel ADD COLUMN IF NOT EXISTS after_keys VARCHAR(8) CHARACTER SET ascii NOT NULL DEFAULT 'hold';
ALTER TABLE left_channel ADD COLUMN IF NOT EXISTS before_keys VARCHAR(8) CHARACTER SET ascii NOT NULL DEFAULT 'hold';
ALTER TABLE left_channel ADD COLUMN IF NOT EXISTS after_keys VARCHAR(8) CHARACTER SET ascii NOT NULL DEFAULT 'hold';
ALTER TABLE placed_channel ADD COLUMN IF NOT EXISTS before_keys VARCHAR(8) CHARACTER SET ascii NOT NULL DEFAULT 'hold';
ALTER TABLE placed_channel ADD COLUMN IF NOT EXISTS after_keys VARCHAR(8) CHARACTER SET ascii NOT NULL DEFAULT 'hold';
