-- Who set the production's limits last, and from which window: what other windows and processes are told.
CREATE TABLE IF NOT EXISTS production_limits_set (
  number BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  who VARCHAR(120) NOT NULL,
  window_id CHAR(36) CHARACTER SET ascii NULL,
  at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3)
) ENGINE=InnoDB;
