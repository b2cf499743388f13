-- Up Migration
-- Other systems: tokens by which they ask and write, each in the ledger under a name of its own, and where they are told what happens.
CREATE TABLE api_token (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  -- who stands in the ledger behind what it writes: a person who cannot sign in
  person_id  integer NOT NULL UNIQUE REFERENCES person,
  hash       bytea NOT NULL UNIQUE,
  scopes     text[] NOT NULL CHECK (cardinality(scopes) > 0),
  made_by    integer NOT NULL REFERENCES person,
  made_at    timestamptz NOT NULL DEFAULT tin_now(),
  used_at    timestamptz,
  ended_at   timestamptz
);
CREATE INDEX api_token_made_by ON api_token (made_by);
CREATE TABLE webhook (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  url        text NOT NULL CHECK (length(url) BETWEEN 8 AND 500),
  -- kinds of entries that it is told of
  kinds      text[] NOT NULL CHECK (cardinality(kinds) > 0),
  secret     text NOT NULL,
  made_by    integer NOT NULL REFERENCES person,
  made_at    timestamptz NOT NULL DEFAULT tin_now(),
  -- the queue: told up to this entry, in their order; what could not be told is tried again
  told       bigint NOT NULL,
  tries      integer NOT NULL DEFAULT 0,
  next_at    timestamptz NOT NULL DEFAULT now(),
  problem    text,
  ended_at   timestamptz
);
CREATE INDEX webhook_made_by ON webhook (made_by);
GRANT SELECT, INSERT ON api_token, webhook TO tin_app;
GRANT UPDATE (used_at, ended_at) ON api_token TO tin_app;
GRANT UPDATE (told, tries, next_at, problem, ended_at) ON webhook TO tin_app;
