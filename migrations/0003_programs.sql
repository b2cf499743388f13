-- Up Migration
-- A program as it was brought in. A changed file is a new revision; the old one stays.
CREATE TABLE program (
  id              integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id      integer NOT NULL REFERENCES machine,
  number          text NOT NULL,
  title           text NOT NULL,
  file_name       text NOT NULL,
  revision        integer NOT NULL,
  sha256          text NOT NULL,
  text            text NOT NULL,
  lines           integer NOT NULL,
  unit            text NOT NULL,
  remarks         jsonb NOT NULL,
  parts_per_cycle integer NOT NULL DEFAULT 1 CHECK (parts_per_cycle BETWEEN 1 AND 100),
  brought_in_at   timestamptz NOT NULL DEFAULT tin_now(),
  brought_in_by   integer NOT NULL REFERENCES person,
  UNIQUE (machine_id, number, revision)
);

-- What the program does under each tool call, as it was read out of the text.
CREATE TABLE program_call (
  program_id       integer NOT NULL REFERENCES program,
  ord              integer NOT NULL,
  tool             integer NOT NULL,
  line             integer NOT NULL,
  last_line        integer NOT NULL,
  holes            integer NOT NULL,
  cut_milliseconds bigint NOT NULL,
  reading          jsonb NOT NULL,
  PRIMARY KEY (program_id, ord)
);
CREATE INDEX program_call_tool ON program_call (tool);

-- What is measured on the part that a program makes. A feature outlives revisions: it belongs to machine and number.
CREATE TABLE feature (
  id             integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id     integer NOT NULL REFERENCES machine,
  program_number text NOT NULL,
  name           text NOT NULL,
  kind           text NOT NULL,
  nominal        bigint NOT NULL,
  upper          bigint NOT NULL,
  lower          bigint NOT NULL,
  target         bigint NOT NULL,
  tool           integer NOT NULL,
  row            integer NOT NULL,
  policy         text NOT NULL,
  dead_band      bigint NOT NULL,
  average_of     integer NOT NULL,
  operator_limit bigint NOT NULL,
  gauge          text NOT NULL,
  UNIQUE (machine_id, program_number, name),
  CHECK (lower < upper),
  CHECK (target BETWEEN nominal + lower AND nominal + upper)
);

-- What a machine is making or will make, and how long a cycle takes. Parts made are in the ledger.
CREATE TABLE job (
  id                 integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id         integer NOT NULL REFERENCES machine,
  program_id         integer NOT NULL REFERENCES program,
  quantity           integer NOT NULL CHECK (quantity > 0),
  cycle_milliseconds bigint NOT NULL CHECK (cycle_milliseconds > 0),
  state              text NOT NULL CHECK (state IN ('waiting', 'running', 'done')),
  made               integer NOT NULL DEFAULT 0,
  set_up_at          timestamptz
);
CREATE UNIQUE INDEX one_running_job_on_a_machine ON job (machine_id) WHERE state = 'running';
