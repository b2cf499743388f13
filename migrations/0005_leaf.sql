-- Up Migration
-- A renewal of a tool: its steps are entries of the ledger (kind assembly, stage step), so that anybody can go on.
CREATE TABLE renewal (
  id          integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  assembly_id integer NOT NULL REFERENCES assembly,
  started_by  integer NOT NULL REFERENCES person,
  started_at  timestamptz NOT NULL DEFAULT tin_now(),
  finished_at timestamptz
);
CREATE UNIQUE INDEX one_open_renewal_of_an_assembly ON renewal (assembly_id) WHERE finished_at IS NULL;

CREATE TABLE renewal_step (
  renewal_id integer NOT NULL REFERENCES renewal,
  step       text NOT NULL CHECK (step IN ('changed', 'lifeSet', 'flagCleared', 'measured', 'wearZeroed')),
  person_id  integer NOT NULL REFERENCES person,
  at         timestamptz NOT NULL DEFAULT tin_now(),
  PRIMARY KEY (renewal_id, step)
);

-- Notes and open questions on a shift's page. A question stays on every page until somebody answers it.
CREATE TABLE leaf_note (
  id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  leaf      text NOT NULL,
  kind      text NOT NULL CHECK (kind IN ('note', 'question')),
  machine_id integer REFERENCES machine,
  person_id integer NOT NULL REFERENCES person,
  at        timestamptz NOT NULL DEFAULT tin_now(),
  text      text NOT NULL CHECK (length(text) BETWEEN 1 AND 1000)
);
CREATE TABLE leaf_answer (
  note_id   bigint PRIMARY KEY REFERENCES leaf_note,
  person_id integer NOT NULL REFERENCES person,
  at        timestamptz NOT NULL DEFAULT tin_now(),
  text      text NOT NULL CHECK (length(text) BETWEEN 1 AND 1000)
);

-- The two signatures under a leaf: who leaves and who comes.
CREATE TABLE leaf_signature (
  leaf      text NOT NULL,
  side      text NOT NULL CHECK (side IN ('leaving', 'coming')),
  person_id integer NOT NULL REFERENCES person,
  at        timestamptz NOT NULL DEFAULT tin_now(),
  state     jsonb NOT NULL,
  PRIMARY KEY (leaf, side),
  CONSTRAINT two_people_sign UNIQUE (leaf, person_id)
);
