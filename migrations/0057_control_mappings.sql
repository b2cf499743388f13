-- Up Migration
-- How tables of a machine's control are laid out that are not in its own words: told once on a sample, kept by a name.
CREATE TABLE control_mapping (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id integer NOT NULL REFERENCES machine,
  name       text NOT NULL CHECK (length(name) BETWEEN 1 AND 60),
  mapping    jsonb NOT NULL,
  person_id  integer NOT NULL REFERENCES person,
  at         timestamptz NOT NULL DEFAULT tin_now(),
  UNIQUE (machine_id, name)
);
CREATE INDEX control_mapping_person ON control_mapping (person_id);
GRANT SELECT, INSERT, DELETE ON control_mapping TO tin_app;
GRANT UPDATE (mapping, person_id, at) ON control_mapping TO tin_app;
INSERT INTO ledger_stage (kind, stage) VALUES ('machine', 'tableMapped');
