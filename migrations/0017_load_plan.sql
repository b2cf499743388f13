-- Up Migration
-- Where a machine is to come to, worked off step by step at the machine. What stands and what is left to do is worked out
-- anew from the ledger's present state each time; only the aim and what was ticked are kept.
CREATE TABLE load_plan (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id integer NOT NULL REFERENCES machine,
  wanted     jsonb NOT NULL,
  made_by    integer NOT NULL REFERENCES person,
  made_at    timestamptz NOT NULL DEFAULT tin_now(),
  closed_by  integer REFERENCES person,
  closed_at  timestamptz,
  outcome    text CHECK (outcome IN ('done', 'dropped')),
  CHECK ((closed_at IS NULL) = (outcome IS NULL) AND (closed_at IS NULL) = (closed_by IS NULL))
);
CREATE UNIQUE INDEX one_open_load_plan_on_a_machine ON load_plan (machine_id) WHERE closed_at IS NULL;
CREATE TABLE load_tick (
  id        integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  plan_id   integer NOT NULL REFERENCES load_plan,
  step      text NOT NULL,
  said      text NOT NULL,
  outcome   text NOT NULL CHECK (outcome IN ('done', 'wrong')),
  why       text NOT NULL DEFAULT '',
  person_id integer NOT NULL REFERENCES person,
  at        timestamptz NOT NULL DEFAULT tin_now()
);
CREATE INDEX load_tick_plan ON load_tick (plan_id, id);
GRANT SELECT, INSERT ON load_plan TO tin_app;
GRANT UPDATE (wanted, closed_by, closed_at, outcome) ON load_plan TO tin_app;
GRANT SELECT, INSERT ON load_tick TO tin_app;
