-- Cameras with mounts, aims, focus, framing locks, saved views and locks by group. Settings that are neither keys nor cuts
-- are written as JSON, each by its own model in the core.
ALTER TABLE camera
  ADD COLUMN IF NOT EXISTS tint INT NOT NULL DEFAULT 0 AFTER role,
  ADD COLUMN IF NOT EXISTS pattern INT NOT NULL DEFAULT 0 AFTER tint,
  ADD COLUMN IF NOT EXISTS locks VARCHAR(32) CHARACTER SET ascii NOT NULL DEFAULT '' AFTER pattern,
  ADD COLUMN IF NOT EXISTS shift_x DOUBLE NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS shift_y DOUBLE NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS far_m DOUBLE NULL,
  ADD COLUMN IF NOT EXISTS orthographic_height_m DOUBLE NULL,
  ADD COLUMN IF NOT EXISTS circle_mm DOUBLE NULL,
  ADD COLUMN IF NOT EXISTS shutter_deg DOUBLE NOT NULL DEFAULT 180,
  ADD COLUMN IF NOT EXISTS mount TEXT NOT NULL DEFAULT '{"kind":"free"}',
  ADD COLUMN IF NOT EXISTS aim TEXT NULL,
  ADD COLUMN IF NOT EXISTS focus TEXT NULL,
  ADD COLUMN IF NOT EXISTS framing TEXT NULL;
-- needs camera.locked
UPDATE camera SET locks = 'place,angles,lens' WHERE locked;
UPDATE camera c
  JOIN (SELECT id, ROW_NUMBER() OVER (PARTITION BY scene_id ORDER BY place) - 1 AS number FROM camera) n ON n.id = c.id
  SET c.pattern = n.number MOD 6, c.tint = n.number DIV 6 MOD 3;

-- What room is wanted around a head, in shares of the frame.
ALTER TABLE scene
  ADD COLUMN IF NOT EXISTS headroom_least DOUBLE NOT NULL DEFAULT 0.02,
  ADD COLUMN IF NOT EXISTS headroom_most DOUBLE NOT NULL DEFAULT 0.34,
  ADD COLUMN IF NOT EXISTS lead_least DOUBLE NOT NULL DEFAULT 0.3;

-- What was moved and not keyed is told channel by channel.
ALTER TABLE camera_channel ADD COLUMN IF NOT EXISTS unkeyed_value DOUBLE NULL;
-- needs camera.unkeyed_x
UPDATE camera_channel h JOIN camera c ON c.id = h.camera_id SET h.unkeyed_value = CASE h.channel
  WHEN 'x' THEN c.unkeyed_x WHEN 'y' THEN c.unkeyed_y WHEN 'z' THEN c.unkeyed_z WHEN 'pan' THEN c.unkeyed_pan
  WHEN 'tilt' THEN c.unkeyed_tilt WHEN 'roll' THEN c.unkeyed_roll WHEN 'focal_mm' THEN c.unkeyed_focal_mm END;
ALTER TABLE camera
  DROP COLUMN IF EXISTS locked, DROP COLUMN IF EXISTS unkeyed_x, DROP COLUMN IF EXISTS unkeyed_y, DROP COLUMN IF EXISTS unkeyed_z, DROP COLUMN IF EXISTS unkeyed_pan,
  DROP COLUMN IF EXISTS unkeyed_tilt, DROP COLUMN IF EXISTS unkeyed_roll, DROP COLUMN IF EXISTS unkeyed_focal_mm;

CREATE TABLE IF NOT EXISTS camera_view (
  id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  camera_id CHAR(36) CHARACTER SET ascii NOT NULL,
  place INT NOT NULL,
  name VARCHAR(120) NOT NULL,
  channel_values TEXT NOT NULL,
  mount TEXT NOT NULL,
  KEY (camera_id),
  FOREIGN KEY (camera_id) REFERENCES camera (id)
) ENGINE=InnoDB;

ALTER TABLE scene_character ADD COLUMN IF NOT EXISTS front_deg DOUBLE NULL;

-- Journal entries speak of columns that are gone: what was done before cannot be undone any more.
DELETE FROM journal;
UPDATE scene_standing SET journal_head = 0;
