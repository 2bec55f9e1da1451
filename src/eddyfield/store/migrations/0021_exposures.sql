-- Frames on which a character shows a new pose, where somebody has said so frame by frame.
CREATE TABLE IF NOT EXISTS character_exposure (
  character_id CHAR(36) CHARACTER SET ascii NOT NULL,
  frame INT NOT NULL,
  PRIMARY KEY (character_id, frame),
  FOREIGN KEY (character_id) REFERENCES scene_character (id)
) ENGINE=InnoDB;
