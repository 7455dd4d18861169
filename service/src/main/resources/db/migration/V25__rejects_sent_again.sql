-- The run whose rejected rows are sent again.
ALTER TABLE run ADD COLUMN resubmits bigint REFERENCES run;

-- What people decided about a reject, and the runs that send its row again, or have sent it.
ALTER TABLE reject
    ADD COLUMN attempts    integer NOT NULL DEFAULT 1,
    ADD COLUMN corrections text    NOT NULL DEFAULT '{}',
    ADD COLUMN note        text    NOT NULL DEFAULT '',
    ADD COLUMN decided_by  text    NOT NULL DEFAULT '',
    ADD COLUMN decided_at  timestamptz,
    ADD COLUMN sent_by     bigint REFERENCES run,
    ADD COLUMN again_in    bigint REFERENCES run,
    ADD COLUMN closed_by   bigint REFERENCES run;
CREATE INDEX reject_again ON reject (again_in, id) WHERE again_in IS NOT NULL;
CREATE INDEX reject_sent ON reject (sent_by, row_number) WHERE sent_by IS NOT NULL;
