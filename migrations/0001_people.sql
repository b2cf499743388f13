-- Up Migration
-- The application's own role. It may add to the ledger and never change it; see 0006_rights.
DO $$
BEGIN
  IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'tin_app') THEN
    CREATE ROLE tin_app NOLOGIN;
  END IF;
END
$$;

CREATE TABLE cell (
  only_one  boolean PRIMARY KEY DEFAULT true CHECK (only_one),
  name      text NOT NULL,
  time_zone text NOT NULL,
  demo      boolean NOT NULL DEFAULT false
);

-- The time that entries carry: the database's own clock. Only in the made-up cell may a session tell its history
-- in the past (tin.at), so that the demo has pages to turn back to; `demo` can't be set on a cell that exists.
CREATE FUNCTION tin_now() RETURNS timestamptz LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  told text := current_setting('tin.at', true);
BEGIN
  IF coalesce(told, '') = '' OR NOT EXISTS (SELECT FROM cell WHERE demo) THEN
    RETURN clock_timestamp();
  END IF;
  RETURN least(told::timestamptz, clock_timestamp());
END
$$;

CREATE TABLE person (
  id       integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  badge    text NOT NULL UNIQUE CHECK (badge ~ '^[0-9]{3,12}$'),
  name     text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
  role     text NOT NULL CHECK (role IN ('lead', 'setter', 'operator', 'inspector', 'crib', 'viewer')),
  pin_hash text NOT NULL,
  active   boolean NOT NULL DEFAULT true
);

CREATE TABLE session (
  token_hash bytea PRIMARY KEY,
  person_id  integer NOT NULL REFERENCES person,
  started_at timestamptz NOT NULL DEFAULT now(),
  seen_at    timestamptz NOT NULL DEFAULT now(),
  expires_at timestamptz NOT NULL
);
CREATE INDEX session_expiry ON session (expires_at);

CREATE TABLE sign_in_attempt (
  id      bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  badge   text NOT NULL,
  address text NOT NULL,
  at      timestamptz NOT NULL DEFAULT now(),
  good    boolean NOT NULL
);
CREATE INDEX sign_in_attempt_badge ON sign_in_attempt (badge, at);
CREATE INDEX sign_in_attempt_address ON sign_in_attempt (address, at);

-- An answer kept with the key of the request that made it: a retry gets the answer, not a second act.
CREATE TABLE once (
  key       uuid PRIMARY KEY,
  person_id integer NOT NULL REFERENCES person,
  act       text NOT NULL,
  request   text NOT NULL,
  answer    jsonb NOT NULL,
  at        timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX once_at ON once (at);
