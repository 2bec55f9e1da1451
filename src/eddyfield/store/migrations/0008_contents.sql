-- Characters, props and set pieces are placed, shown and held; what stood as its file has it goes on doing so.
ALTER TABLE scene_character ADD COLUMN IF NOT EXISTS showing TEXT NULL;
ALTER TABLE set_piece
  ADD COLUMN IF NOT EXISTS kind VARCHAR(16) CHARACTER SET ascii NOT NULL DEFAULT 'set piece' AFTER name,
  ADD COLUMN IF NOT EXISTS start_frame INT NOT NULL DEFAULT 1,
  ADD COLUMN IF NOT EXISTS showing TEXT NULL;

CREATE TABLE IF NOT EXISTS prop_hold (
  piece_id CHAR(36) CHARACTER SET ascii NOT NULL,
  first_frame INT NOT NULL,
  character_id CHAR(36) CHARACTER SET ascii NULL,
  joint TEXT NULL,
  PRIMARY KEY (piece_id, first_frame),
  FOREIGN KEY (piece_id) REFERENCES set_piece (id)
) ENGINE=InnoDB;

-- Channels and keys of the places of characters and pieces, which have no table in common.
CREATE TABLE IF NOT EXISTS placed_channel (
  thing_id CHAR(36) CHARACTER SET ascii NOT NULL,
  channel VARCHAR(16) CHARACTER SET ascii NOT NULL,
  scene_id CHAR(36) CHARACTER SET ascii NOT NULL,
  default_value DOUBLE NOT NULL,
  PRIMARY KEY (thing_id, channel),
  KEY (scene_id),
  FOREIGN KEY (scene_id) REFERENCES scene (id)
) ENGINE=InnoDB;

CREATE TABLE IF NOT EXISTS placed_key (
  thing_id CHAR(36) CHARACTER SET ascii NOT NULL,
  channel VARCHAR(16) CHARACTER SET ascii NOT NULL,
  frame_time VARCHAR(48) CHARACTER SET ascii NOT NULL,
  value DOUBLE NOT NULL,
  shape VARCHAR(8) CHARACTER SET ascii NOT NULL,
  in_frames DOUBLE NULL,
  in_value DOUBLE NULL,
  out_frames DOUBLE NULL,
  out_value DOUBLE NULL,
  PRIMARY KEY (thing_id, channel, frame_time),
  FOREIGN KEY (thing_id, channel) REFERENCES placed_channel (thing_id, channel)
) ENGINE=InnoDB;
