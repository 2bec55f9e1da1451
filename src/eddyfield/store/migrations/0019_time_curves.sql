-- The time of a performance may have a curve.
ALTER TABLE scene_character MODIFY COLUMN timing MEDIUMTEXT NULL;
ALTER TABLE set_piece MODIFY COLUMN timing MEDIUMTEXT NULL;
