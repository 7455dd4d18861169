-- A run exists before what it reads is fetched. Runs of earlier versions had it fetched before they were kept.
ALTER TABLE run ADD COLUMN gathered boolean NOT NULL DEFAULT true;
