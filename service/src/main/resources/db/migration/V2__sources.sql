-- A run reads one or several files; what they were is kept apart from the run.
CREATE TABLE run_source (
    run_id    bigint   NOT NULL REFERENCES run,
    position  smallint NOT NULL,
    hash      text     NOT NULL REFERENCES stored_file,
    name      text     NOT NULL,
    size      bigint   NOT NULL,
    -- the file inside an archive; the name once more where there is none
    member    text     NOT NULL,
    format    text     NOT NULL,
    options   text     NOT NULL,
    PRIMARY KEY (run_id, position)
);
INSERT INTO run_source
    SELECT id, 0, file_hash, file_name, file_size, file_name, 'delimited', format_options FROM run;

ALTER TABLE run ADD COLUMN columns text;
UPDATE run SET columns = (
    SELECT coalesce(json_agg(json_build_object(
               'field', json_build_object('name', name, 'address', ''),
               'reading', json_build_object('kind', 'TEXT', 'pattern', null, 'locale', null),
               'question', '') ORDER BY at), '[]')::text
    FROM json_array_elements_text(header::json) WITH ORDINALITY AS names(name, at));
ALTER TABLE run ALTER COLUMN columns SET NOT NULL;
ALTER TABLE run ADD COLUMN source_name text NOT NULL DEFAULT '';
UPDATE run SET source_name = file_name;
ALTER TABLE run ADD COLUMN warnings text NOT NULL DEFAULT '[]';
ALTER TABLE run DROP COLUMN header, DROP COLUMN format_options, DROP COLUMN file_hash, DROP COLUMN file_name,
    DROP COLUMN file_size;

-- What a finished run of a job has loaded, by content.
CREATE TABLE taken_file (
    job_id    bigint      NOT NULL REFERENCES job,
    hash      text        NOT NULL REFERENCES stored_file,
    run_id    bigint      NOT NULL REFERENCES run,
    taken_at  timestamptz NOT NULL,
    PRIMARY KEY (job_id, hash)
);

-- What a place said about a file when it was fetched, so that it need not be sent again.
CREATE TABLE fetched_file (
    connection  text NOT NULL,
    name        text NOT NULL,
    version     text NOT NULL,
    hash        text NOT NULL REFERENCES stored_file,
    PRIMARY KEY (connection, name)
);

ALTER TABLE reject ADD COLUMN file text NOT NULL DEFAULT '';
ALTER TABLE reject ADD COLUMN sheet text NOT NULL DEFAULT '';
ALTER TABLE reject ADD COLUMN path text NOT NULL DEFAULT '';
UPDATE reject SET file = (SELECT source_name FROM run WHERE run.id = reject.run_id);
