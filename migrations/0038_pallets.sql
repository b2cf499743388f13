-- Up Migration
-- The queue of pallets of a machine: what stands on each, in the order in which they are cut.
CREATE TABLE pallet (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id integer NOT NULL REFERENCES machine,
  number     integer NOT NULL CHECK (number BETWEEN 1 AND 999),
  program_id integer NOT NULL REFERENCES program,
  parts      integer NOT NULL CHECK (parts BETWEEN 1 AND 10000),
  ord        integer NOT NULL,
  -- set aside: it is not cut, and why
  isolated   text,
  UNIQUE (machine_id, number)
);
CREATE INDEX pallet_program ON pallet (program_id);
GRANT SELECT, INSERT, DELETE ON pallet TO tin_app;
GRANT UPDATE (ord, isolated, parts, program_id) ON pallet TO tin_app;

-- what a machine does where a tool cannot cut: it stops, or sets the pallet aside and goes on with the next
ALTER TABLE machine ADD COLUMN night_school text NOT NULL DEFAULT 'stop' CHECK (night_school IN ('stop', 'isolate'));
GRANT UPDATE (night_school) ON machine TO tin_app;

INSERT INTO ledger_stage (kind, stage) VALUES ('machine', 'pallet'), ('machine', 'nightSchool');
