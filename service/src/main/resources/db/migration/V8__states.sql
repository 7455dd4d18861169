-- A run's state is changed by conditional updates on state and epoch alone.
ALTER TABLE run ADD COLUMN defects integer NOT NULL DEFAULT 0;
-- what the run proved when it ended; null while it goes on, and for runs of earlier versions
ALTER TABLE run ADD COLUMN balanced boolean;
-- what the steps made of the rows: which attempt's folder holds it, its SHA-256 and its size
ALTER TABLE run ADD COLUMN shaped_epoch bigint;
ALTER TABLE run ADD COLUMN shaped_hash text;
ALTER TABLE run ADD COLUMN shaped_size bigint;
-- by connection: what it was when the run wrote to it first, and the sessions that attempts have opened there
ALTER TABLE run ADD COLUMN identities text NOT NULL DEFAULT '{}';
ALTER TABLE run ADD COLUMN sessions text NOT NULL DEFAULT '{}';
-- how many rows a batch has at most: a later version may cut otherwise, but not in the middle of a run
ALTER TABLE run ADD COLUMN batch_rows integer NOT NULL DEFAULT 10000;

-- Runs are numbered without gaps, also over a crash of the database, which makes sequences jump.
CREATE TABLE run_number (last bigint NOT NULL);
INSERT INTO run_number SELECT coalesce(max(id), 0) FROM run;
DROP SEQUENCE run_seq;

-- Database and home folder belong together: a service with another home would not find what runs read.
CREATE TABLE installation (id text PRIMARY KEY);

CREATE INDEX ledger_chunk_pending ON ledger_chunk (run_id) WHERE state = 'pending';
