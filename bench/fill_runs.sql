-- Runs with long ledgers, as the service keeps them: :jobs jobs, :runs runs, :chunks chunks each, with ten changed fields, two
-- steps and one write. Chunks lie in the order in which runs at the same time would have written them.
SET synchronous_commit = off;
INSERT INTO job SELECT n, 'stays-' || n, 1 FROM generate_series(1, :jobs) n;
INSERT INTO job_version SELECT n, n, 1, 'Overnight stays of region ' || n, '', repeat('# map' || E'\n', 200), false, '[]', now(), 'bench'
  FROM generate_series(1, :jobs) n;
INSERT INTO run (id, job_id, job_name, job_version, state, epoch, stop_requested, beyond_limit, note, reasons, write_name,
    target_connection, target_records, target_description, fields, key_fields, columns, source_name, parameters, rows_read,
    started_by, created_at, started_at, ended_at, balanced, totals, tally, changed_fields, open_rejects)
  SELECT n, 1 + n % :jobs, 'stays-' || 1 + n % :jobs, 1, 'finished', 1, false, false, '', '[]', 'stay', 'register', 'stay',
    repeat('a description of the target ', 40), '["guest","hut","day"]', '["guest","day"]', '[]', 'stays.csv', '{}',
    :chunks * 10000, 'bench', now() - (:runs - n) * interval '1 hour', now(), now(), true,
    format('{"counts":{"read":%s,"skipped":0,"rejected":%s,"inserted":%s,"updated":0,"unchanged":0,"deleted":0,"issued":0,"refused":0,"warned":0},"elsewhere":0,"inDoubt":0}',
      :chunks * 10000, :chunks, :chunks * 9999),
    '{"steps":[],"writes":[],"elsewhere":0,"sources":0,"refused":0}', '{"beds":10000}', :chunks
  FROM generate_series(1, :runs) n;
UPDATE run_number SET last = :runs;
INSERT INTO ledger_chunk (run_id, stage, batch, version, first_row, last_row, state, field_counts, read, skipped, rejected,
    inserted, updated, unchanged, deleted, issued, refused, warned)
  SELECT r, 1, b, 1, b * 10000 + 1, (b + 1) * 10000, 'done', '{"beds":10}', 10000, 0, 1, 9999, 0, 0, 0, 0, 0, 0
  FROM generate_series(0, :chunks - 1) b, generate_series(1, :runs) r;
ANALYZE;
