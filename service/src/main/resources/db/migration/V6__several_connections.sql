-- A batch can be written in several connections: each is asked by itself what became of it.
ALTER TABLE ledger_chunk ADD COLUMN tokens text NOT NULL DEFAULT '{}';
UPDATE ledger_chunk SET tokens = json_build_object('0', token)::text WHERE token IS NOT NULL;
ALTER TABLE ledger_chunk DROP COLUMN token;
