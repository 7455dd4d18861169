-- Runs that are sent to a target which keeps nothing of them, and rejects of which only the target spoke.

ALTER TABLE run DROP CONSTRAINT run_mode_check;
ALTER TABLE run ADD CONSTRAINT run_mode_check CHECK (mode IN ('write', 'dry-run', 'rehearse', 'hold', 'undo'));
ALTER TABLE reject ADD COLUMN by_target boolean NOT NULL DEFAULT false;
