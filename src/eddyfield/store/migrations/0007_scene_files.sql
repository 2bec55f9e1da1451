-- Every file that a scene has named: what took the place of another can be undone as long as the scene is there.
CREATE TABLE IF NOT EXISTS scene_file (
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  digest CHAR(64) CHARACTER SET ascii NOT NULL,
  PRIMARY KEY (scene_id, digest),
  KEY (digest)
) ENGINE=InnoDB;
INSERT IGNORE INTO scene_file (scene_id, digest) SELECT scene_id, digest FROM scene_character;
INSERT IGNORE INTO scene_file (scene_id, digest) SELECT scene_id, digest FROM set_piece;
