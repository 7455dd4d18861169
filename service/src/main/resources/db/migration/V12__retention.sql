-- Kept things end. The row of a file stays, for runs and the memory of what was loaded refer to it; its bytes go.
ALTER TABLE stored_file ADD COLUMN used_at timestamptz NOT NULL DEFAULT now();
ALTER TABLE stored_file ADD COLUMN removed_at timestamptz;
CREATE INDEX run_source_by_hash ON run_source (hash);
-- when the lines of a run's ledger were removed; its sums stay
ALTER TABLE run ADD COLUMN lines_removed_at timestamptz;
