-- Equal corrections are looked for among all rejects.
CREATE INDEX reject_corrected ON reject (id DESC) WHERE corrections <> '{}';
