-- Up Migration
-- Bringing a first part to size: what was chosen at its beginning, as it stood then, and what was keyed and measured since. What is
-- next is worked out from these.
CREATE TABLE first_part (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id integer NOT NULL REFERENCES machine,
  program_id integer NOT NULL REFERENCES program,
  job_id     integer REFERENCES job,
  part       integer NOT NULL CHECK (part > 0),
  plan       jsonb NOT NULL,
  features   integer[] NOT NULL,
  registers  integer[] NOT NULL,
  -- the newest entry of the ledger when it was begun: what moves a row later is another's doing
  since      bigint NOT NULL,
  state      text NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'done', 'dropped')),
  begun_by   integer NOT NULL REFERENCES person,
  begun_at   timestamptz NOT NULL DEFAULT tin_now(),
  ended_at   timestamptz,
  CHECK ((state = 'open') = (ended_at IS NULL))
);
CREATE UNIQUE INDEX one_open_first_part_on_a_machine ON first_part (machine_id) WHERE state = 'open';
CREATE INDEX first_part_program ON first_part (program_id);
CREATE INDEX first_part_job ON first_part (job_id);
CREATE INDEX first_part_begun_by ON first_part (begun_by);

CREATE TABLE first_part_event (
  first_part_id integer NOT NULL REFERENCES first_part,
  n             integer NOT NULL CHECK (n > 0),
  event         jsonb NOT NULL,
  said          text NOT NULL,
  person_id     integer NOT NULL REFERENCES person,
  at            timestamptz NOT NULL DEFAULT tin_now(),
  PRIMARY KEY (first_part_id, n)
);
CREATE INDEX first_part_event_person ON first_part_event (person_id);

GRANT SELECT, INSERT ON first_part, first_part_event TO tin_app;
GRANT UPDATE (state, ended_at) ON first_part TO tin_app;
INSERT INTO ledger_stage (kind, stage) VALUES ('machine', 'firstPart');
