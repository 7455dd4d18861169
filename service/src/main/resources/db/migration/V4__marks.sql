-- Columns of a source whose values reach a field that the connection marks as sensitive.
ALTER TABLE run ADD COLUMN sensitive_columns text NOT NULL DEFAULT '[]';
