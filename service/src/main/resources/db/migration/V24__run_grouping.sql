-- what becomes of the other rows of a group when one is refused; runs before have not told
ALTER TABLE run ADD COLUMN grouping text NOT NULL DEFAULT 'TOGETHER';
