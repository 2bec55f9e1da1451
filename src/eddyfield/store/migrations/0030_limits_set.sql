-- How often the production's limits were set; by whom last, and from which window: what other windows and processes are told.
CREATE TABLE IF NOT EXISTS production_limits_set (
  only_row BOOLEAN NOT NULL DEFAULT TRUE PRIMARY KEY,
  number BIGINT NOT NULL,
  who VARCHAR(120) NOT NULL,
  window_id CHAR(36) CHARACTER SET ascii NULL
) ENGINE=InnoDB;
INSERT IGNORE INTO production_limits_set (only_row, number, who) VALUES (TRUE, 0, '');
