-- Whether a run that writes plans everything before, because it removes records or a limit counts what it changes.
ALTER TABLE run ADD COLUMN planned_first boolean NOT NULL DEFAULT false;

-- Which rows a run is about, and how many it writes before it is held; null for all.
ALTER TABLE run ADD COLUMN chosen_rows text;
ALTER TABLE run ADD COLUMN chosen_where text;
ALTER TABLE run ADD COLUMN first_rows bigint;
