-- The service's own records. Times are UTC. Sequences step by 50 because Hibernate takes ids in blocks.

CREATE TABLE connection (
    id        bigint PRIMARY KEY,
    name      text        NOT NULL UNIQUE,
    title     text        NOT NULL,
    type      text        NOT NULL,
    document  text        NOT NULL,
    saved_at  timestamptz NOT NULL,
    saved_by  text        NOT NULL
);
CREATE SEQUENCE connection_seq INCREMENT BY 50;

-- A file is kept once, under the hash of its content.
CREATE TABLE stored_file (
    hash       text PRIMARY KEY,
    size       bigint      NOT NULL,
    stored_at  timestamptz NOT NULL
);

CREATE TABLE job (
    id       bigint PRIMARY KEY,
    name     text NOT NULL UNIQUE,
    latest   integer NOT NULL
);
CREATE SEQUENCE job_seq INCREMENT BY 50;

-- Every save is a version; versions never change.
CREATE TABLE job_version (
    id        bigint PRIMARY KEY,
    job_id    bigint      NOT NULL REFERENCES job,
    number    integer     NOT NULL,
    title     text        NOT NULL,
    notes     text        NOT NULL,
    document  text        NOT NULL,
    draft     boolean     NOT NULL,
    problems  text        NOT NULL,
    saved_at  timestamptz NOT NULL,
    saved_by  text        NOT NULL,
    UNIQUE (job_id, number)
);
CREATE SEQUENCE job_version_seq INCREMENT BY 50;

CREATE TABLE run (
    id                 bigint PRIMARY KEY,
    job_id             bigint      NOT NULL REFERENCES job,
    job_name           text        NOT NULL,
    job_version        integer     NOT NULL,
    state              text        NOT NULL CHECK (state IN ('waiting', 'running', 'held', 'finished', 'failed', 'stopped', 'discarded')),
    -- raised by whoever takes the run over: a process whose epoch is not this one may write nothing any more
    epoch              bigint      NOT NULL,
    stop_requested     boolean     NOT NULL,
    beyond_limit       boolean     NOT NULL,
    note               text        NOT NULL,
    unreachable_since  timestamptz,
    reasons            text        NOT NULL,
    write_name         text        NOT NULL,
    target_connection  text        NOT NULL,
    target_records     text        NOT NULL,
    -- what the target demanded when the run was started; a run stops when a written field differs
    target_description text        NOT NULL,
    fields             text        NOT NULL,
    key_fields         text        NOT NULL,
    header             text        NOT NULL,
    format_options     text        NOT NULL,
    file_hash          text        NOT NULL REFERENCES stored_file,
    file_name          text        NOT NULL,
    file_size          bigint      NOT NULL,
    parameters         text        NOT NULL,
    rows_read          bigint      NOT NULL,
    started_by         text        NOT NULL,
    created_at         timestamptz NOT NULL,
    started_at         timestamptz,
    ended_at           timestamptz
);
CREATE SEQUENCE run_seq;
-- One job never overlaps itself; a held run blocks too.
CREATE UNIQUE INDEX run_one_at_a_time ON run (job_id) WHERE state IN ('waiting', 'running', 'held');
CREATE INDEX run_by_job ON run (job_name, id);

-- The ledger: a header per run, write and batch, and its payload apart. Payloads are never updated.
CREATE TABLE ledger_chunk (
    run_id        bigint   NOT NULL REFERENCES run,
    write_no      smallint NOT NULL,
    batch         integer  NOT NULL,
    version       smallint NOT NULL,
    first_row     bigint   NOT NULL,
    last_row      bigint   NOT NULL,
    state         text     NOT NULL CHECK (state IN ('pending', 'done')),
    token         text,
    field_counts  text     NOT NULL,
    read          bigint   NOT NULL,
    skipped       bigint   NOT NULL,
    rejected      bigint   NOT NULL,
    inserted      bigint   NOT NULL,
    updated       bigint   NOT NULL,
    unchanged     bigint   NOT NULL,
    deleted       bigint   NOT NULL,
    issued        bigint   NOT NULL,
    refused       bigint   NOT NULL,
    warned        bigint   NOT NULL,
    PRIMARY KEY (run_id, write_no, batch)
);

CREATE TABLE ledger_payload (
    run_id    bigint   NOT NULL,
    write_no  smallint NOT NULL,
    batch     integer  NOT NULL,
    rows      bytea    NOT NULL,
    rejects   bytea    NOT NULL,
    PRIMARY KEY (run_id, write_no, batch)
);
-- the payload is packed already: the database need not try again
ALTER TABLE ledger_payload ALTER COLUMN rows SET STORAGE EXTERNAL;
ALTER TABLE ledger_payload ALTER COLUMN rejects SET STORAGE EXTERNAL;

CREATE TABLE reject (
    id          bigint PRIMARY KEY,
    run_id      bigint      NOT NULL REFERENCES run,
    row_number  bigint      NOT NULL,
    line        bigint      NOT NULL,
    key         text        NOT NULL,
    raw         text        NOT NULL,
    problems    text        NOT NULL,
    code        text        NOT NULL,
    field       text        NOT NULL,
    state       text        NOT NULL,
    created_at  timestamptz NOT NULL,
    UNIQUE (run_id, row_number)
);
CREATE SEQUENCE reject_seq INCREMENT BY 50;
CREATE INDEX reject_by_run ON reject (run_id, id);

-- The scheduler's table, as its library describes it.
CREATE TABLE scheduled_tasks (
    task_name             text        NOT NULL,
    task_instance         text        NOT NULL,
    task_data             bytea,
    execution_time        timestamptz NOT NULL,
    picked                boolean     NOT NULL,
    picked_by             text,
    last_success          timestamptz,
    last_failure          timestamptz,
    consecutive_failures  integer,
    last_heartbeat        timestamptz,
    version               bigint      NOT NULL,
    priority              smallint,
    PRIMARY KEY (task_name, task_instance)
);
CREATE INDEX execution_time_idx ON scheduled_tasks (execution_time);
CREATE INDEX last_heartbeat_idx ON scheduled_tasks (last_heartbeat);
CREATE INDEX priority_execution_time_idx ON scheduled_tasks (priority DESC, execution_time ASC);
