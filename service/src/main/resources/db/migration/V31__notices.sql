-- whom a run tells what has become of it, as its job says
ALTER TABLE run ADD COLUMN tells text NOT NULL DEFAULT '[]';

-- what somebody is told of a run: wanted, sent or failed
CREATE TABLE notice (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    run_id     bigint      NOT NULL REFERENCES run ON DELETE CASCADE,
    -- receivers know by it what they have already
    mark       uuid        NOT NULL DEFAULT gen_random_uuid(),
    connection text        NOT NULL,
    receivers  text        NOT NULL,
    occasions  text        NOT NULL,
    state      text        NOT NULL DEFAULT 'wanted',
    note       text        NOT NULL DEFAULT '',
    tries      integer     NOT NULL DEFAULT 0,
    due        timestamptz NOT NULL,
    made_at    timestamptz NOT NULL,
    told_at    timestamptz
);
CREATE INDEX notice_run ON notice (run_id);
CREATE INDEX notice_due ON notice (due) WHERE state = 'wanted';
