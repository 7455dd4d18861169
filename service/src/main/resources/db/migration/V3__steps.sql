-- Documents that jobs share: crosswalks, and pieces (formulas and steps). Every save is a version.
CREATE TABLE shared_document (
    id      bigint PRIMARY KEY,
    kind    text    NOT NULL CHECK (kind IN ('crosswalk', 'pieces')),
    name    text    NOT NULL,
    latest  integer NOT NULL,
    UNIQUE (kind, name)
);
CREATE SEQUENCE shared_document_seq INCREMENT BY 50;

CREATE TABLE shared_version (
    id           bigint PRIMARY KEY,
    document_id  bigint      NOT NULL REFERENCES shared_document,
    number       integer     NOT NULL,
    title        text        NOT NULL,
    document     text        NOT NULL,
    saved_at     timestamptz NOT NULL,
    saved_by     text        NOT NULL,
    UNIQUE (document_id, number)
);
CREATE SEQUENCE shared_version_seq INCREMENT BY 50;

-- The versions of shared documents a run was started with; its writes with their fields; its place of the watermark.
ALTER TABLE run ADD COLUMN pins text NOT NULL DEFAULT '{}';
ALTER TABLE run ADD COLUMN writes text NOT NULL DEFAULT '[]';
ALTER TABLE run ADD COLUMN watermark text;
ALTER TABLE run ADD COLUMN read_after text;

-- Steps and further writes of a batch.
ALTER TABLE ledger_chunk ADD COLUMN tally text NOT NULL DEFAULT '{"steps":[],"writes":[],"elsewhere":0}';

-- How far a job has read what changes: the greatest value that a finished run has seen.
CREATE TABLE job_watermark (
    job_id    bigint PRIMARY KEY REFERENCES job,
    value     text        NOT NULL,
    run_id    bigint      NOT NULL REFERENCES run,
    moved_at  timestamptz NOT NULL
);

-- Several rejects can come from one row of the source: they are told apart by their place behind the steps.
ALTER TABLE reject ADD COLUMN position bigint;
UPDATE reject SET position = row_number;
ALTER TABLE reject ALTER COLUMN position SET NOT NULL;
ALTER TABLE reject DROP CONSTRAINT reject_run_id_row_number_key;
ALTER TABLE reject ADD UNIQUE (run_id, position);
