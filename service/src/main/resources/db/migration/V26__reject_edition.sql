-- Counts the decisions about a reject, so that a sheet that was written before one of them doesn't overwrite it.
ALTER TABLE reject ADD COLUMN edition integer NOT NULL DEFAULT 0;
