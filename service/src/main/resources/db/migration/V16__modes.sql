-- What a run is for, who released it, and which one it undoes.

ALTER TABLE run ADD COLUMN mode text NOT NULL DEFAULT 'write' CHECK (mode IN ('write', 'dry-run', 'hold', 'undo'));
ALTER TABLE run ADD COLUMN released_by text;
ALTER TABLE run ADD COLUMN released_at timestamptz;
-- when a held run ends by itself
ALTER TABLE run ADD COLUMN held_until timestamptz;
UPDATE run SET held_until = now() + interval '7 days' WHERE state = 'held';
ALTER TABLE run ADD COLUMN undoes bigint REFERENCES run;
-- which records and fields of the other run are undone; null for all
ALTER TABLE run ADD COLUMN undo_keys text;
ALTER TABLE run ADD COLUMN undo_fields text;
CREATE INDEX run_undoing ON run (undoes) WHERE undoes IS NOT NULL;
CREATE INDEX run_held ON run (held_until) WHERE state = 'held';

-- A ledger has two stages: what is planned (0), and what was written (1).
ALTER TABLE ledger_chunk RENAME COLUMN write_no TO stage;
ALTER TABLE ledger_payload RENAME COLUMN write_no TO stage;
ALTER TABLE ledger_chunk DROP CONSTRAINT ledger_chunk_state_check;
ALTER TABLE ledger_chunk ADD CONSTRAINT ledger_chunk_state_check CHECK (state IN ('planned', 'pending', 'done'));

-- Rows of a held run that a person leaves out, or takes in again: the last word counts.
CREATE TABLE left_out (
    run_id   bigint      NOT NULL REFERENCES run,
    word     integer     NOT NULL,
    rows     text        NOT NULL,
    left_out boolean     NOT NULL,
    said_by  text        NOT NULL,
    said_at  timestamptz NOT NULL,
    PRIMARY KEY (run_id, word)
);
