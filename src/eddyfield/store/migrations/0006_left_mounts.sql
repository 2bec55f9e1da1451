-- The mounts that a camera was on before, as it left them: trying another one loses nothing.
CREATE TABLE IF NOT EXISTS left_mount (
  camera_id CHAR(36) CHARACTER SET ascii NOT NULL,
  kind VARCHAR(16) CHARACTER SET ascii NOT NULL,
  mount TEXT NOT NULL,
  carried_over TEXT NULL,
  PRIMARY KEY (camera_id, kind),
  FOREIGN KEY (camera_id) REFERENCES camera (id)
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS left_channel (
  camera_id CHAR(36) CHARACTER SET ascii NOT NULL,
  kind VARCHAR(16) CHARACTER SET ascii NOT NULL,
  channel VARCHAR(16) CHARACTER SET ascii NOT NULL,
  default_value DOUBLE NOT NULL,
  unkeyed_value DOUBLE NULL,
  PRIMARY KEY (camera_id, kind, channel),
  FOREIGN KEY (camera_id, kind) REFERENCES left_mount (camera_id, kind)
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS left_key (
  camera_id CHAR(36) CHARACTER SET ascii NOT NULL,
  kind VARCHAR(16) CHARACTER SET ascii NOT NULL,
  channel VARCHAR(16) CHARACTER SET ascii NOT NULL,
  frame_time VARCHAR(48) CHARACTER SET ascii NOT NULL,
  value DOUBLE NOT NULL,
  shape VARCHAR(8) CHARACTER SET ascii NOT NULL,
  in_frames DOUBLE NULL,
  in_value DOUBLE NULL,
  out_frames DOUBLE NULL,
  out_value DOUBLE NULL,
  PRIMARY KEY (camera_id, kind, channel, frame_time),
  FOREIGN KEY (camera_id, kind, channel) REFERENCES left_channel (camera_id, kind, channel)
) ENGINE=InnoDB;
