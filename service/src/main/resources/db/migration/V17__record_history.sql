-- In which batches of which run a record was changed, by bits of its key; the lines themselves stay in the ledger.

CREATE SEQUENCE key_history_seq;
CREATE TABLE key_history (
    id         bigint   PRIMARY KEY DEFAULT nextval('key_history_seq'),
    run_id     bigint   NOT NULL REFERENCES run,
    write_no   smallint NOT NULL,
    connection text     NOT NULL,
    records    text     NOT NULL,
    -- the names of the key's fields, in the order of the job
    key_fields text     NOT NULL,
    keys       integer  NOT NULL
);
CREATE INDEX key_history_of_records ON key_history (connection, records, key_fields, run_id);
CREATE INDEX key_history_of_run ON key_history (run_id);

CREATE TABLE key_history_block (
    history_id bigint NOT NULL REFERENCES key_history ON DELETE CASCADE,
    first_hash bigint NOT NULL,
    bytes      bytea  NOT NULL,
    PRIMARY KEY (history_id, first_hash)
);
-- the bytes are packed already, and small enough to lie beside their row
ALTER TABLE key_history_block ALTER COLUMN bytes SET STORAGE PLAIN;

ALTER TABLE run ADD COLUMN indexed boolean NOT NULL DEFAULT false;
CREATE INDEX run_unindexed ON run (id) WHERE NOT indexed AND ended_at IS NOT NULL;
