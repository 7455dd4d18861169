-- Who may call. Of a token only its hash is kept; a retired one keeps its name, for records name it.
CREATE TABLE access_token (
  name text PRIMARY KEY,
  role text NOT NULL,
  hash text NOT NULL UNIQUE,
  made_at timestamptz NOT NULL,
  made_by text NOT NULL,
  last_used_at timestamptz,
  retired_at timestamptz
);
-- What a browser holds instead of a token: a link's code, which opens one session, or the session.
CREATE TABLE access_pass (
  hash text PRIMARY KEY,
  kind text NOT NULL,
  token text NOT NULL REFERENCES access_token,
  expires_at timestamptz NOT NULL
);
-- Who did what.
CREATE SEQUENCE activity_seq INCREMENT BY 50;
CREATE TABLE activity (
  id bigint PRIMARY KEY,
  at timestamptz NOT NULL,
  who text NOT NULL,
  deed text NOT NULL,
  about text NOT NULL,
  status integer NOT NULL
);
