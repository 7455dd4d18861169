-- Which rows a run is about, and how many it writes before it is held; null for all.
ALTER TABLE run ADD COLUMN chosen_rows text;
ALTER TABLE run ADD COLUMN chosen_where text;
ALTER TABLE run ADD COLUMN first_rows bigint;
