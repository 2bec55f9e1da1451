-- From when on readings are told, where that is not as usual; and how strictly a scene is judged.
CREATE TABLE IF NOT EXISTS production_limit (
  name VARCHAR(40) CHARACTER SET ascii NOT NULL PRIMARY KEY,
  value DOUBLE NOT NULL
) ENGINE=InnoDB;
ALTER TABLE scene ADD COLUMN IF NOT EXISTS strictness VARCHAR(16) NOT NULL DEFAULT 'usual';
