-- Up Migration
-- What a change and a failure cost on a machine, as somebody typed it: minutes of a planned change, an hour of the machine, and a failure beside, in hundredths.
CREATE TABLE life_cost (
  machine_id     integer PRIMARY KEY REFERENCES machine,
  change_minutes double precision NOT NULL CHECK (change_minutes > 0),
  hour_cents     bigint NOT NULL CHECK (hour_cents > 0),
  failure_cents  bigint NOT NULL CHECK (failure_cents > 0),
  person_id      integer NOT NULL REFERENCES person,
  at             timestamptz NOT NULL DEFAULT tin_now()
);
CREATE INDEX life_cost_person ON life_cost (person_id);
GRANT SELECT, INSERT ON life_cost TO tin_app;
GRANT UPDATE (change_minutes, hour_cents, failure_cents, person_id, at) ON life_cost TO tin_app;
INSERT INTO ledger_stage (kind, stage) VALUES ('machine', 'lifeCosts');
