-- Where jobs run. What jobs have read, and what runs have changed, is told apart by environment; without any of them, and in
-- what is older, its name is empty.
CREATE TABLE environment (
    name      text PRIMARY KEY,
    title     text        NOT NULL,
    live      boolean     NOT NULL,
    document  text        NOT NULL,
    saved_at  timestamptz NOT NULL,
    saved_by  text        NOT NULL
);

-- The version of a job that runs in a live environment: the newest row counts, the others tell what ran before.
CREATE SEQUENCE job_promotion_seq;
CREATE TABLE job_promotion (
    id           bigint      PRIMARY KEY DEFAULT nextval('job_promotion_seq'),
    job_id       bigint      NOT NULL REFERENCES job,
    environment  text        NOT NULL,
    version      integer     NOT NULL,
    note         text        NOT NULL,
    promoted_at  timestamptz NOT NULL,
    promoted_by  text        NOT NULL
);
CREATE INDEX job_promotion_of_job ON job_promotion (job_id, environment, id);

ALTER TABLE run ADD COLUMN environment text NOT NULL DEFAULT '';
DROP INDEX run_one_at_a_time;
CREATE UNIQUE INDEX run_one_at_a_time ON run (job_id, environment) WHERE state IN ('waiting', 'running', 'held');
CREATE INDEX run_by_environment ON run (environment, id) WHERE environment <> '';

ALTER TABLE taken_file ADD COLUMN environment text NOT NULL DEFAULT '';
ALTER TABLE taken_file DROP CONSTRAINT taken_file_pkey, ADD PRIMARY KEY (job_id, environment, hash);

ALTER TABLE job_watermark ADD COLUMN environment text NOT NULL DEFAULT '';
ALTER TABLE job_watermark DROP CONSTRAINT job_watermark_pkey, ADD PRIMARY KEY (job_id, environment);

ALTER TABLE key_history ADD COLUMN environment text NOT NULL DEFAULT '';
DROP INDEX key_history_of_records;
CREATE INDEX key_history_of_records ON key_history (environment, connection, records, key_fields, run_id);
