-- An id is taken in the transaction that uses it. What a process holds in stock outlives a crash of the database, which
-- may give the same numbers again: then ids stood twice, or were negative and not listed.
ALTER SEQUENCE connection_seq INCREMENT BY 1;
ALTER SEQUENCE job_seq INCREMENT BY 1;
ALTER SEQUENCE job_version_seq INCREMENT BY 1;
ALTER SEQUENCE shared_document_seq INCREMENT BY 1;
ALTER SEQUENCE shared_version_seq INCREMENT BY 1;
ALTER SEQUENCE activity_seq INCREMENT BY 1;
ALTER SEQUENCE reject_seq INCREMENT BY 1;
-- What was not listed is listed again.
UPDATE reject SET id = nextval('reject_seq') WHERE id <= 0;
UPDATE activity SET id = nextval('activity_seq') WHERE id <= 0;
