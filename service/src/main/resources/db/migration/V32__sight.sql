-- whether the holder of a token is shown sensitive values
ALTER TABLE access_token ADD COLUMN sees_sensitive boolean NOT NULL DEFAULT false;
