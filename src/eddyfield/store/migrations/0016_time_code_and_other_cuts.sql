-- The time code of a scene, handles of shots, and cuts that are kept beside the one that is shown.
ALTER TABLE scene ADD COLUMN IF NOT EXISTS timecode_start INT NOT NULL DEFAULT 0;
ALTER TABLE scene ADD COLUMN IF NOT EXISTS timecode_drops BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE scene ADD COLUMN IF NOT EXISTS cut_name VARCHAR(120) NOT NULL DEFAULT '';
ALTER TABLE cut_entry ADD COLUMN IF NOT EXISTS handle_before INT NOT NULL DEFAULT 0;
ALTER TABLE cut_entry ADD COLUMN IF NOT EXISTS handle_after INT NOT NULL DEFAULT 0;

CREATE TABLE IF NOT EXISTS other_cut (
  id CHAR(36) CHARACTER SET ascii NOT NULL,
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  place INT NOT NULL,
  name VARCHAR(120) NOT NULL,
  PRIMARY KEY (id),
  KEY (scene_id),
  FOREIGN KEY (scene_id) REFERENCES scene (id)
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS other_cut_entry (
  cut_id CHAR(36) CHARACTER SET ascii NOT NULL,
  first_frame INT NOT NULL,
  camera_id CHAR(36) CHARACTER SET ascii NOT NULL,
  name VARCHAR(120) NOT NULL,
  note VARCHAR(2000) NOT NULL,
  state VARCHAR(16) CHARACTER SET ascii NOT NULL,
  locked BOOLEAN NOT NULL,
  transition_kind VARCHAR(16) CHARACTER SET ascii NOT NULL,
  transition_frames INT NOT NULL,
  transition_before INT NOT NULL,
  transition_ease VARCHAR(24) CHARACTER SET ascii NOT NULL,
  transition_colour CHAR(7) CHARACTER SET ascii NOT NULL,
  handle_before INT NOT NULL,
  handle_after INT NOT NULL,
  PRIMARY KEY (cut_id, first_frame),
  FOREIGN KEY (cut_id) REFERENCES other_cut (id),
  FOREIGN KEY (camera_id) REFERENCES camera (id)
) ENGINE=InnoDB;
