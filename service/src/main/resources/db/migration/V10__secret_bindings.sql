-- The host to which a secret was first sent. No other gets it until somebody unbinds the secret.
CREATE TABLE secret_binding (
  reference text PRIMARY KEY,
  host text NOT NULL,
  connection text NOT NULL,
  bound_at timestamptz NOT NULL
);
