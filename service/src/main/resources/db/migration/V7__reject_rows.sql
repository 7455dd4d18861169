-- A row that a step made of several rows of the source is rejected for all of them.
ALTER TABLE reject ADD COLUMN rows bigint NOT NULL DEFAULT 1;
