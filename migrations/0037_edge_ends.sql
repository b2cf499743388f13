-- Up Migration
-- How each edge ended, told with one tap at its renewal: what life limits are learnt from.
CREATE TABLE edge_end (
  id             integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  assembly_id    integer NOT NULL REFERENCES assembly,
  basis          text NOT NULL CHECK (basis IN ('pieces', 'holes', 'minutes')),
  -- what it had cut, and the limit it was cutting under, in units of its counter
  used           bigint NOT NULL CHECK (used >= 0),
  life_limit     bigint NOT NULL CHECK (life_limit > 0),
  ended          text NOT NULL CHECK (ended IN ('good', 'worn', 'chipped', 'broken', 'early', 'unknown')),
  sign           text CHECK (sign IN ('size', 'finish', 'burr', 'load')),
  flank          bigint CHECK (flank > 0),
  -- the program that it cut most for, on which machine
  machine_id     integer REFERENCES machine,
  program_number text,
  person_id      integer NOT NULL REFERENCES person,
  at             timestamptz NOT NULL DEFAULT tin_now(),
  CHECK (sign IS NULL OR ended = 'worn')
);
CREATE INDEX edge_end_assembly ON edge_end (assembly_id);
CREATE INDEX edge_end_machine ON edge_end (machine_id);
CREATE INDEX edge_end_person ON edge_end (person_id);
GRANT SELECT, INSERT ON edge_end TO tin_app;
