-- Other scenes that play inside a scene.
CREATE TABLE IF NOT EXISTS scene_block (
  id CHAR(36) CHARACTER SET ascii PRIMARY KEY,
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  place INT NOT NULL,
  name VARCHAR(120) NOT NULL,
  inner_id CHAR(36) CHARACTER SET ascii NOT NULL,
  start_frame INT NOT NULL,
  x DOUBLE NOT NULL,
  y DOUBLE NOT NULL,
  z DOUBLE NOT NULL,
  turn DOUBLE NOT NULL,
  bends TEXT NULL,
  KEY (inner_id),
  FOREIGN KEY (scene_id) REFERENCES scene (id),
  FOREIGN KEY (inner_id) REFERENCES scene (id)
) ENGINE=InnoDB;
