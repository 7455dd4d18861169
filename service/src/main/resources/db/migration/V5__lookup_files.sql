-- Files in which a run looks records up are kept with it as well; null for the files that it reads.
ALTER TABLE run_source ADD COLUMN lookup text;
