-- Which window made an edit, and which took it back: undo takes back what a window did itself. And with what arguments.
ALTER TABLE journal
  ADD COLUMN IF NOT EXISTS window_id CHAR(36) CHARACTER SET ascii NULL,
  ADD COLUMN IF NOT EXISTS undone BOOLEAN NOT NULL DEFAULT FALSE,
  ADD COLUMN IF NOT EXISTS undone_by CHAR(36) CHARACTER SET ascii NULL,
  ADD COLUMN IF NOT EXISTS undone_at BIGINT NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS arguments MEDIUMTEXT NULL,
  ADD INDEX IF NOT EXISTS standing (scene_id, undone, number, window_id),
  ADD INDEX IF NOT EXISTS taken_back (scene_id, undone, undone_at, number);
-- needs scene_standing.journal_head
UPDATE journal j JOIN scene_standing s ON s.scene_id = j.scene_id SET j.undone = j.number > s.journal_head;
ALTER TABLE scene_standing DROP COLUMN IF EXISTS journal_head;
UPDATE journal SET who = '' WHERE who = 'local';

-- Every change of a scene in the order of all changes: what other windows are told. Old ones are forgotten.
CREATE TABLE IF NOT EXISTS scene_change (
  number BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  revision BIGINT NOT NULL,
  way VARCHAR(8) CHARACTER SET ascii NOT NULL,
  edit VARCHAR(64) CHARACTER SET ascii NOT NULL,
  who VARCHAR(120) NOT NULL,
  window_id CHAR(36) CHARACTER SET ascii NULL,
  at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  UNIQUE KEY (scene_id, revision),
  FOREIGN KEY (scene_id) REFERENCES scene (id)
) ENGINE=InnoDB;
