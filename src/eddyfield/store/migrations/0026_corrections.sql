-- Corrections that are laid over a performance, one after the other, each a record with its version.
CREATE TABLE IF NOT EXISTS character_correction (
  character_id CHAR(36) CHARACTER SET ascii NOT NULL,
  place INT NOT NULL,
  correction TEXT NOT NULL,
  PRIMARY KEY (character_id, place),
  FOREIGN KEY (character_id) REFERENCES scene_character (id)
) ENGINE=InnoDB;
