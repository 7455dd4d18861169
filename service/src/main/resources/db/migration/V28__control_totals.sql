-- what a run's figures add up to, and how many records its targets held before it wrote to them
ALTER TABLE run ADD COLUMN control_totals text;
ALTER TABLE run ADD COLUMN records_before text;
