-- What is typical of the columns that a run has read, for the runs after it.

ALTER TABLE run ADD COLUMN traits text NOT NULL DEFAULT '[]';
