-- Files by content: bytes live in chunks, so that no statement carries a whole file.
CREATE TABLE IF NOT EXISTS blob_file (
  digest CHAR(64) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  name VARCHAR(255) NOT NULL,
  size BIGINT NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3)
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS blob_chunk (
  digest CHAR(64) CHARACTER SET ascii NOT NULL,
  number INT NOT NULL,
  data MEDIUMBLOB NOT NULL,
  PRIMARY KEY (digest, number),
  FOREIGN KEY (digest) REFERENCES blob_file (digest)
) ENGINE=InnoDB;

-- A scene and its standing: `revision` counts every change, `journal_head` is the last entry that is applied.
CREATE TABLE IF NOT EXISTS scene (
  id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  name VARCHAR(120) NOT NULL,
  rate VARCHAR(24) CHARACTER SET ascii NOT NULL,
  first_frame INT NOT NULL,
  last_frame INT NOT NULL,
  width INT NOT NULL,
  height INT NOT NULL,
  pixel_aspect DOUBLE NOT NULL
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS scene_standing (
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  revision BIGINT NOT NULL,
  journal_head BIGINT NOT NULL,
  deleted_at DATETIME(3) NULL,
  changed_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  thumbnail MEDIUMBLOB NULL,
  FOREIGN KEY (scene_id) REFERENCES scene (id)
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS camera (
  id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  place INT NOT NULL,
  name VARCHAR(120) NOT NULL,
  role VARCHAR(16) CHARACTER SET ascii NOT NULL,
  locked BOOLEAN NOT NULL,
  back_width_mm DOUBLE NOT NULL,
  back_height_mm DOUBLE NOT NULL,
  gate VARCHAR(16) CHARACTER SET ascii NOT NULL,
  squeeze DOUBLE NOT NULL,
  near_m DOUBLE NOT NULL,
  unkeyed_x DOUBLE NULL,
  unkeyed_y DOUBLE NULL,
  unkeyed_z DOUBLE NULL,
  unkeyed_pan DOUBLE NULL,
  unkeyed_tilt DOUBLE NULL,
  unkeyed_roll DOUBLE NULL,
  unkeyed_focal_mm DOUBLE NULL,
  KEY (scene_id),
  FOREIGN KEY (scene_id) REFERENCES scene (id)
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS camera_channel (
  camera_id CHAR(36) CHARACTER SET ascii NOT NULL,
  channel VARCHAR(16) CHARACTER SET ascii NOT NULL,
  default_value DOUBLE NOT NULL,
  PRIMARY KEY (camera_id, channel),
  FOREIGN KEY (camera_id) REFERENCES camera (id)
) ENGINE=InnoDB;

-- Key times are exact fractions of a frame, written as text ("2003/2").
CREATE TABLE IF NOT EXISTS camera_key (
  camera_id CHAR(36) CHARACTER SET ascii NOT NULL,
  channel VARCHAR(16) CHARACTER SET ascii NOT NULL,
  frame_time VARCHAR(48) CHARACTER SET ascii NOT NULL,
  value DOUBLE NOT NULL,
  shape VARCHAR(8) CHARACTER SET ascii NOT NULL,
  in_frames DOUBLE NULL,
  in_value DOUBLE NULL,
  out_frames DOUBLE NULL,
  out_value DOUBLE NULL,
  PRIMARY KEY (camera_id, channel, frame_time),
  FOREIGN KEY (camera_id, channel) REFERENCES camera_channel (camera_id, channel)
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS scene_character (
  id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  place INT NOT NULL,
  name VARCHAR(120) NOT NULL,
  digest CHAR(64) CHARACTER SET ascii NOT NULL,
  format VARCHAR(16) CHARACTER SET ascii NOT NULL,
  scale DOUBLE NOT NULL,
  animation TEXT NULL,
  offsets VARCHAR(8) CHARACTER SET ascii NOT NULL,
  start_frame INT NOT NULL,
  step INT NOT NULL,
  step_offset INT NOT NULL,
  keep_key_poses BOOLEAN NOT NULL,
  ride_way VARCHAR(16) CHARACTER SET ascii NOT NULL,
  ride_weight DOUBLE NOT NULL,
  ride_anchor TEXT NULL,
  KEY (scene_id),
  FOREIGN KEY (scene_id) REFERENCES scene (id),
  FOREIGN KEY (digest) REFERENCES blob_file (digest)
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS character_foot (
  character_id CHAR(36) CHARACTER SET ascii NOT NULL,
  place INT NOT NULL,
  joint TEXT NOT NULL,
  PRIMARY KEY (character_id, place),
  FOREIGN KEY (character_id) REFERENCES scene_character (id)
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS set_piece (
  id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  place INT NOT NULL,
  name VARCHAR(120) NOT NULL,
  digest CHAR(64) CHARACTER SET ascii NOT NULL,
  format VARCHAR(16) CHARACTER SET ascii NOT NULL,
  scale DOUBLE NOT NULL,
  animation TEXT NULL,
  offsets VARCHAR(8) CHARACTER SET ascii NOT NULL,
  KEY (scene_id),
  FOREIGN KEY (scene_id) REFERENCES scene (id),
  FOREIGN KEY (digest) REFERENCES blob_file (digest)
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS cut_entry (
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  first_frame INT NOT NULL,
  camera_id CHAR(36) CHARACTER SET ascii NOT NULL,
  PRIMARY KEY (scene_id, first_frame),
  FOREIGN KEY (scene_id) REFERENCES scene (id),
  FOREIGN KEY (camera_id) REFERENCES camera (id)
) ENGINE=InnoDB;

-- What changed: the rows before and after, so that undo and redo put back the very same rows.
CREATE TABLE IF NOT EXISTS journal (
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  number BIGINT NOT NULL,
  edit VARCHAR(64) CHARACTER SET ascii NOT NULL,
  request_id CHAR(36) CHARACTER SET ascii NULL,
  who VARCHAR(120) NOT NULL,
  at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  rows_before LONGTEXT NOT NULL,
  rows_after LONGTEXT NOT NULL,
  PRIMARY KEY (scene_id, number),
  KEY (scene_id, request_id),
  FOREIGN KEY (scene_id) REFERENCES scene (id)
) ENGINE=InnoDB;
