-- Up Migration
-- Where the forks of a linear rack stand, as somebody captured them; the newest of a fork counts.
CREATE TABLE fork_capture (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id integer NOT NULL REFERENCES machine,
  fork       integer NOT NULL CHECK (fork > 0),
  x          bigint NOT NULL,
  y          bigint NOT NULL,
  z          bigint NOT NULL,
  person_id  integer NOT NULL REFERENCES person,
  at         timestamptz NOT NULL DEFAULT tin_now()
);
CREATE INDEX fork_capture_fork ON fork_capture (machine_id, fork, id DESC);
CREATE TABLE rack_setting (
  machine_id      integer PRIMARY KEY REFERENCES machine,
  opening         text NOT NULL DEFAULT '' CHECK (opening IN ('', 'X+', 'X-', 'Y+', 'Y-')),
  slide_in        bigint,
  slide_clear     bigint,
  clearance       bigint CHECK (clearance > 0),
  bump            bigint CHECK (bump >= 0),
  spindle_seconds double precision CHECK (spindle_seconds > 0)
);
-- What was confirmed of a rack, by whom and when; taken back when a fork is captured anew.
CREATE TABLE rack_confirmation (
  machine_id integer NOT NULL REFERENCES machine,
  step       text NOT NULL,
  person_id  integer NOT NULL REFERENCES person,
  at         timestamptz NOT NULL DEFAULT tin_now(),
  PRIMARY KEY (machine_id, step)
);
GRANT SELECT, INSERT ON fork_capture TO tin_app;
GRANT SELECT, INSERT, UPDATE ON rack_setting TO tin_app;
GRANT SELECT, INSERT, DELETE ON rack_confirmation TO tin_app;
