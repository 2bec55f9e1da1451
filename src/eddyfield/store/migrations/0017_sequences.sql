-- Sequences: scenes one after the other. What was changed of one is kept whole, as it is small.
CREATE TABLE IF NOT EXISTS scene_sequence (
  id CHAR(36) CHARACTER SET ascii NOT NULL,
  name VARCHAR(120) NOT NULL,
  timecode_start INT NOT NULL,
  timecode_drops BOOLEAN NOT NULL,
  revision INT NOT NULL,
  changed_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  deleted_at DATETIME(3) NULL,
  PRIMARY KEY (id)
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS sequence_scene (
  sequence_id CHAR(36) CHARACTER SET ascii NOT NULL,
  place INT NOT NULL,
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  PRIMARY KEY (sequence_id, place),
  KEY (scene_id),
  FOREIGN KEY (sequence_id) REFERENCES scene_sequence (id),
  FOREIGN KEY (scene_id) REFERENCES scene (id)
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS sequence_journal (
  sequence_id CHAR(36) CHARACTER SET ascii NOT NULL,
  number INT NOT NULL,
  edit VARCHAR(60) CHARACTER SET ascii NOT NULL,
  arguments TEXT NOT NULL,
  request_id CHAR(36) CHARACTER SET ascii NULL,
  who VARCHAR(60) NOT NULL,
  at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  undone BOOLEAN NOT NULL DEFAULT FALSE,
  before_it MEDIUMTEXT NOT NULL,
  after_it MEDIUMTEXT NOT NULL,
  PRIMARY KEY (sequence_id, number),
  UNIQUE KEY (sequence_id, request_id),
  FOREIGN KEY (sequence_id) REFERENCES scene_sequence (id)
) ENGINE=InnoDB;
