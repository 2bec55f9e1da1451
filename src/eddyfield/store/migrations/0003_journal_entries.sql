-- Rows of journal entries, compressed, in parts that fit into any packet. Entries that were made before keep theirs in place.
CREATE TABLE IF NOT EXISTS journal_rows (
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  number BIGINT NOT NULL,
  part INT NOT NULL,
  data MEDIUMBLOB NOT NULL,
  PRIMARY KEY (scene_id, number, part),
  FOREIGN KEY (scene_id) REFERENCES scene (id)
) ENGINE=InnoDB;

ALTER TABLE journal
  MODIFY COLUMN rows_before LONGTEXT NULL,
  MODIFY COLUMN rows_after LONGTEXT NULL;

-- Requests that were answered, so that one that is sent again is not done twice: undo and redo as well.
CREATE TABLE IF NOT EXISTS answered_request (
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  request_id CHAR(36) CHARACTER SET ascii NOT NULL,
  at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (scene_id, request_id),
  KEY (at),
  FOREIGN KEY (scene_id) REFERENCES scene (id)
) ENGINE=InnoDB;
INSERT IGNORE INTO answered_request (scene_id, request_id, at)
  SELECT scene_id, request_id, at FROM journal WHERE request_id IS NOT NULL;
