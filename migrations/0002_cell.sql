-- Up Migration
CREATE TABLE shift_pattern (
  id             integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  name           text NOT NULL UNIQUE CHECK (name ~ '^[A-Za-z][A-Za-z0-9-]{0,19}$'),
  start_minute   integer NOT NULL CHECK (start_minute BETWEEN 0 AND 1439),
  length_minutes integer NOT NULL CHECK (length_minutes BETWEEN 30 AND 1440),
  days           integer[] NOT NULL
);

CREATE TABLE machine (
  id               integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  name             text NOT NULL UNIQUE,
  kind             text NOT NULL CHECK (kind IN ('mill', 'lathe')),
  words            text NOT NULL,
  unit             text NOT NULL CHECK (unit IN ('mm', 'in')),
  changer_kind     text NOT NULL,
  places           integer NOT NULL,
  pitch_mm         double precision NOT NULL,
  interface        text NOT NULL,
  highest_tool     integer NOT NULL,
  highest_speed    integer NOT NULL,
  length_school    text NOT NULL,
  plane_constant   bigint NOT NULL,
  master_length    bigint NOT NULL,
  x_reckoning      text NOT NULL CHECK (x_reckoning IN ('diameter', 'radius')),
  cutter_reckoning text NOT NULL CHECK (cutter_reckoning IN ('diameter', 'radius')),
  increment        bigint NOT NULL CHECK (increment > 0),
  wear_limit       bigint NOT NULL CHECK (wear_limit > 0),
  expiry           text NOT NULL CHECK (expiry IN ('atZero', 'belowZero')),
  dialect          jsonb NOT NULL,
  control_address  text
);

-- Every place a tool can stand in: pockets by their painted numbers, and the spindle as number 0.
CREATE TABLE place (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id integer NOT NULL REFERENCES machine,
  kind       text NOT NULL CHECK (kind IN ('pocket', 'spindle')),
  number     integer NOT NULL,
  in_service boolean NOT NULL DEFAULT true,
  reserved   boolean NOT NULL DEFAULT false,
  UNIQUE (machine_id, number),
  UNIQUE (id, machine_id),
  CHECK ((kind = 'spindle') = (number = 0))
);

CREATE TABLE assembly (
  id              integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  number          text NOT NULL UNIQUE,
  name            text NOT NULL,
  kind            text NOT NULL,
  interface       text NOT NULL,
  holder          text NOT NULL,
  diameter        bigint NOT NULL CHECK (diameter >= 0),
  corner_radius   bigint NOT NULL CHECK (corner_radius >= 0),
  stick_out       bigint NOT NULL,
  gauge_length    bigint NOT NULL,
  holder_diameter bigint NOT NULL,
  teeth           integer NOT NULL,
  -- kept by the ledger's trigger
  flag            text CHECK (flag IN ('broken', 'expired', 'locked'))
);
CREATE INDEX assembly_words ON assembly USING gin (to_tsvector('simple', number || ' ' || name || ' ' || kind || ' ' || holder));

-- What is left of a tool's life: pieces, holes, or milliseconds in cut. The value is kept by the ledger's trigger.
CREATE TABLE life_counter (
  id          integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  assembly_id integer NOT NULL UNIQUE REFERENCES assembly,
  basis       text NOT NULL CHECK (basis IN ('pieces', 'holes', 'minutes')),
  full_life   bigint NOT NULL CHECK (full_life > 0),
  value       bigint NOT NULL DEFAULT 0
);

-- One stored value of a control. Lengths in nanometres; a tip direction is the number itself. Kept by the ledger's trigger.
CREATE TABLE register (
  id         integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  machine_id integer NOT NULL REFERENCES machine,
  row        integer NOT NULL,
  kind       text NOT NULL CHECK (kind IN ('lengthGeometry', 'lengthWear', 'cutterGeometry', 'cutterWear',
                                           'xGeometry', 'zGeometry', 'xWear', 'zWear', 'noseRadius', 'tipDirection')),
  value      bigint NOT NULL DEFAULT 0,
  UNIQUE (machine_id, row, kind)
);

-- Which assembly stands where, under which T. Kept by the ledger's trigger; the constraints are the rules of H4.
CREATE TABLE placement (
  place_id    integer PRIMARY KEY,
  machine_id  integer NOT NULL,
  assembly_id integer NOT NULL REFERENCES assembly,
  tool        integer NOT NULL CHECK (tool > 0),
  since       timestamptz NOT NULL,
  FOREIGN KEY (place_id, machine_id) REFERENCES place (id, machine_id),
  CONSTRAINT one_assembly_in_one_place UNIQUE (assembly_id),
  CONSTRAINT one_tool_number_on_a_machine UNIQUE (machine_id, tool)
);
