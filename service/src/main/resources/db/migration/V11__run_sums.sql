-- What the ledger of a run adds up to, kept in its row, so that looking at it costs the same however long it was. Null in
-- runs of earlier versions, which are summed when somebody looks.
ALTER TABLE run ADD COLUMN totals text;
ALTER TABLE run ADD COLUMN tally text;
ALTER TABLE run ADD COLUMN changed_fields text;
ALTER TABLE run ADD COLUMN open_rejects bigint NOT NULL DEFAULT 0;
ALTER TABLE run ADD COLUMN foreseen_rejects bigint NOT NULL DEFAULT 0;
UPDATE run SET open_rejects = (SELECT count(*) FROM reject WHERE run_id = run.id AND reject.state = 'open'),
    foreseen_rejects = (SELECT count(*) FROM reject WHERE run_id = run.id AND reject.state = 'foreseen');
