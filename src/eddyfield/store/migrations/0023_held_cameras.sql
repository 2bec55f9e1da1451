-- With whose poses a camera is held.
ALTER TABLE camera ADD COLUMN IF NOT EXISTS steps_with CHAR(36) CHARACTER SET ascii NULL;
