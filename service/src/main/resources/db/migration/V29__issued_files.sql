-- the files that a run has delivered
ALTER TABLE run ADD COLUMN issued text NOT NULL DEFAULT '[]';
