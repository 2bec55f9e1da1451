-- Performances and scenes inside begin at exact times; a curve arrives at keys that rule their segment by a handle of theirs.
ALTER TABLE scene_character MODIFY start_frame VARCHAR(64) CHARACTER SET ascii NOT NULL;
ALTER TABLE set_piece MODIFY start_frame VARCHAR(64) CHARACTER SET ascii NOT NULL DEFAULT '1';
ALTER TABLE scene_block MODIFY start_frame VARCHAR(64) CHARACTER SET ascii NOT NULL;
UPDATE camera_key SET in_frames = NULL, in_value = NULL WHERE shape IN ('hold', 'linear');
UPDATE placed_key SET in_frames = NULL, in_value = NULL WHERE shape IN ('hold', 'linear');
UPDATE left_key SET in_frames = NULL, in_value = NULL WHERE shape IN ('hold', 'linear');
