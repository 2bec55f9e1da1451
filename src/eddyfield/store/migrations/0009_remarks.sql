-- What others are told beside what was done: that a performance became better or worse, say.
ALTER TABLE scene_change ADD COLUMN IF NOT EXISTS remark VARCHAR(200) NOT NULL DEFAULT '';
