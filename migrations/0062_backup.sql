-- Up Migration
-- Backups that were made of this cell, so that it can say when the last one was. Written by whoever may read everything, which the application may not.
CREATE TABLE backup (
  id       integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  -- of the clock on the wall: a cell that is played has a clock of its own, and its backups do not
  at       timestamptz NOT NULL DEFAULT now(),
  file     text NOT NULL CHECK (length(file) BETWEEN 1 AND 1000),
  bytes    bigint NOT NULL CHECK (bytes > 0),
  sha256   text NOT NULL CHECK (sha256 ~ '^[0-9a-f]{64}$'),
  -- the last entry of the ledger that is in it
  entry    bigint NOT NULL CHECK (entry >= 0)
);
CREATE INDEX backup_at ON backup (at);
GRANT SELECT ON backup TO tin_app;
