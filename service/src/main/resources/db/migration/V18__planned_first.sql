-- Whether a run that writes plans everything before, because it removes records or a limit counts what it changes.
ALTER TABLE run ADD COLUMN planned_first boolean NOT NULL DEFAULT false;
