-- Up Migration
-- The check of lengths that was written last for a machine: what the control was handed, and the tools as they were on record then.
CREATE TABLE safety_net (
  machine_id integer PRIMARY KEY REFERENCES machine,
  text       text NOT NULL CHECK (length(text) <= 2000000),
  tolerance  bigint NOT NULL CHECK (tolerance > 0),
  tools      jsonb NOT NULL,
  person_id  integer NOT NULL REFERENCES person,
  at         timestamptz NOT NULL DEFAULT tin_now()
);
CREATE INDEX safety_net_person ON safety_net (person_id);
GRANT SELECT, INSERT, UPDATE ON safety_net TO tin_app;
INSERT INTO ledger_stage (kind, stage) VALUES ('machine', 'safetyNet');
