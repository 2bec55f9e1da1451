-- Sounds beside the frames, and marks on them.
CREATE TABLE IF NOT EXISTS sound (
  id CHAR(36) CHARACTER SET ascii NOT NULL,
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  place INT NOT NULL,
  name VARCHAR(200) NOT NULL,
  digest CHAR(64) CHARACTER SET ascii NOT NULL,
  start INT NOT NULL,
  first_s DOUBLE NOT NULL,
  last_s DOUBLE NULL,
  gain_db DOUBLE NOT NULL,
  muted BOOLEAN NOT NULL,
  PRIMARY KEY (id),
  KEY (scene_id),
  FOREIGN KEY (scene_id) REFERENCES scene (id)
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS frame_mark (
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  frame INT NOT NULL,
  kind VARCHAR(16) CHARACTER SET ascii NOT NULL,
  text VARCHAR(200) NOT NULL,
  PRIMARY KEY (scene_id, frame, kind),
  FOREIGN KEY (scene_id) REFERENCES scene (id)
) ENGINE=InnoDB;
