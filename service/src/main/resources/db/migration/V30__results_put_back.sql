-- results that are put beside the file that was read: none, wanted, done or failed
ALTER TABLE run ADD COLUMN put_back text NOT NULL DEFAULT 'none';
ALTER TABLE run ADD COLUMN put_back_note text NOT NULL DEFAULT '';
ALTER TABLE run ADD COLUMN put_back_tries integer NOT NULL DEFAULT 0;
ALTER TABLE run ADD COLUMN put_back_due timestamptz;
CREATE INDEX run_put_back ON run (put_back_due) WHERE put_back = 'wanted';
