-- Up Migration
-- What a program asks for under a T, where somebody wrote it down; otherwise it is read from the program's own comments.
CREATE TABLE definition (
  id             integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id     integer NOT NULL REFERENCES machine,
  program_number text NOT NULL,
  tool           integer NOT NULL CHECK (tool > 0),
  kind           text NOT NULL,
  diameter       bigint CHECK (diameter > 0),
  corner_radius  bigint CHECK (corner_radius >= 0),
  reach          bigint CHECK (reach > 0),
  teeth          integer CHECK (teeth > 0),
  thread         text NOT NULL DEFAULT '',
  least_life     double precision CHECK (least_life >= 0 AND least_life <= 1),
  written_by     integer NOT NULL REFERENCES person,
  UNIQUE (machine_id, program_number, tool)
);
GRANT SELECT, INSERT ON definition TO tin_app;
GRANT UPDATE (kind, diameter, corner_radius, reach, teeth, thread, least_life, written_by) ON definition TO tin_app;

-- A look-alike that was merged into another line: its references moved there, its stock too. It stays, and is not offered.
ALTER TABLE component ADD COLUMN merged_into integer REFERENCES component CHECK (merged_into <> id);
GRANT UPDATE (merged_into, minimum) ON component TO tin_app;
