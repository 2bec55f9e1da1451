-- Readings that somebody lets stand, each for a reason.
CREATE TABLE IF NOT EXISTS accepted_reading (
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  kind VARCHAR(48) CHARACTER SET ascii NOT NULL,
  character_id VARCHAR(36) CHARACTER SET ascii NOT NULL,
  camera_id VARCHAR(36) CHARACTER SET ascii NOT NULL,
  joint VARCHAR(120) NOT NULL,
  first_frame INT NOT NULL,
  last_frame INT NOT NULL,
  size DOUBLE NOT NULL,
  reason VARCHAR(400) NOT NULL,
  PRIMARY KEY (scene_id, kind, character_id, camera_id, joint, first_frame),
  FOREIGN KEY (scene_id) REFERENCES scene (id)
) ENGINE=InnoDB;
