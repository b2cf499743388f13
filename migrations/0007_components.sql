-- Up Migration
-- What assemblies are built from. Dimensions by their ISO 13399 names: lengths in nanometres, angles in degrees, grams.
CREATE TABLE component (
  id            integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  number        text NOT NULL UNIQUE CHECK (length(number) BETWEEN 1 AND 30),
  name          text NOT NULL,
  kind          text NOT NULL,
  dimensions    jsonb NOT NULL,
  interface     text NOT NULL DEFAULT '',
  series        text NOT NULL DEFAULT '',
  flat          boolean NOT NULL DEFAULT false,
  coolant       boolean NOT NULL DEFAULT false,
  material      text NOT NULL DEFAULT 'steel' CHECK (material IN ('carbide', 'steel')),
  torque        double precision CHECK (torque > 0),
  cost_cents    integer CHECK (cost_cents >= 0),
  edges         integer CHECK (edges BETWEEN 1 AND 16),
  regrinds      integer CHECK (regrinds >= 0),
  shelf         text NOT NULL DEFAULT '',
  minimum       integer NOT NULL DEFAULT 0 CHECK (minimum >= 0),
  reground_from integer REFERENCES component,
  -- kept by the ledger's trigger
  stock         integer NOT NULL DEFAULT 0 CHECK (stock >= 0)
);
CREATE INDEX component_kind ON component (kind);

ALTER TABLE machine
  ADD COLUMN longest bigint,
  ADD COLUMN widest bigint,
  ADD COLUMN widest_alone bigint,
  ADD COLUMN heaviest double precision,
  ADD COLUMN moment double precision,
  ADD COLUMN knob text NOT NULL DEFAULT '',
  ADD COLUMN through_coolant boolean NOT NULL DEFAULT false;

ALTER TABLE assembly
  ADD COLUMN outline jsonb,
  ADD COLUMN widest bigint,
  ADD COLUMN mass double precision,
  ADD COLUMN moment double precision,
  ADD COLUMN speed_limit integer,
  ADD COLUMN override text NOT NULL DEFAULT '',
  -- when its edge or its build last changed: what was measured before that is not its length any more; kept by the trigger
  ADD COLUMN changed_at timestamptz;

CREATE TABLE assembly_part (
  assembly_id  integer NOT NULL REFERENCES assembly,
  role         text NOT NULL CHECK (role IN ('holder', 'extension', 'adapter', 'cutter', 'insert', 'knob')),
  component_id integer NOT NULL REFERENCES component,
  count        integer NOT NULL DEFAULT 1 CHECK (count BETWEEN 1 AND 40),
  edges_used   integer NOT NULL DEFAULT 0,
  PRIMARY KEY (assembly_id, role)
);
CREATE INDEX assembly_part_component ON assembly_part (component_id);

-- A measurement on the presetter, or typed: it is the assembly's, before any machine sees it.
CREATE TABLE presetting (
  id            bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  assembly_id   integer NOT NULL REFERENCES assembly,
  gauge_length  bigint NOT NULL CHECK (gauge_length > 0),
  diameter      bigint CHECK (diameter > 0),
  corner_radius bigint CHECK (corner_radius >= 0),
  run_out       bigint CHECK (run_out >= 0),
  instrument    text NOT NULL,
  person_id     integer NOT NULL REFERENCES person,
  at            timestamptz NOT NULL DEFAULT tin_now()
);
CREATE INDEX presetting_assembly ON presetting (assembly_id, id DESC);

ALTER TABLE ledger ADD COLUMN component_id integer REFERENCES component;
ALTER TABLE ledger DROP CONSTRAINT ledger_kind_check;
ALTER TABLE ledger ADD CONSTRAINT ledger_kind_check CHECK (kind IN ('register', 'life', 'placement', 'correction', 'reading',
  'assembly', 'parts', 'program', 'machine', 'leaf', 'people', 'component', 'stock'));
ALTER TABLE ledger ADD CONSTRAINT ledger_stock_check CHECK ((kind = 'stock') = (component_id IS NOT NULL AND after_value IS NOT NULL));
CREATE INDEX ledger_component ON ledger (component_id, id) WHERE component_id IS NOT NULL;

CREATE FUNCTION ledger_stock() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  present integer;
BEGIN
  IF NEW.kind = 'stock' THEN
    SELECT stock INTO present FROM component WHERE id = NEW.component_id FOR UPDATE;
    IF present IS DISTINCT FROM NEW.before_value THEN
      RAISE EXCEPTION 'component % has %, not %', NEW.component_id, present, NEW.before_value USING ERRCODE = 'TA005';
    END IF;
    UPDATE component SET stock = NEW.after_value WHERE id = NEW.component_id;
  ELSIF NEW.kind = 'assembly' AND NEW.stage IN ('built', 'indexed', 'reground') THEN
    UPDATE assembly SET changed_at = tin_now() WHERE id = NEW.assembly_id;
  END IF;
  RETURN NEW;
END
$$;
CREATE TRIGGER ledger_stock BEFORE INSERT ON ledger FOR EACH ROW EXECUTE FUNCTION ledger_stock();

CREATE OR REPLACE VIEW ledger_disagreement AS
SELECT 'register' AS kind, r.id, r.value, coalesce(sum(l.change_value), 0)::bigint AS summed
FROM register r LEFT JOIN ledger l ON l.register_id = r.id AND l.kind = 'register'
GROUP BY r.id HAVING r.value <> coalesce(sum(l.change_value), 0)
UNION ALL
SELECT 'life', c.id, c.value, coalesce(sum(l.change_value), 0)::bigint
FROM life_counter c LEFT JOIN ledger l ON l.counter_id = c.id AND l.kind = 'life'
GROUP BY c.id HAVING c.value <> coalesce(sum(l.change_value), 0)
UNION ALL
SELECT 'stock', c.id, c.stock::bigint, coalesce(sum(l.change_value), 0)::bigint
FROM component c LEFT JOIN ledger l ON l.component_id = c.id AND l.kind = 'stock'
GROUP BY c.id HAVING c.stock <> coalesce(sum(l.change_value), 0);

GRANT SELECT ON component, assembly_part, presetting TO tin_app;
GRANT INSERT (number, name, kind, dimensions, interface, series, flat, coolant, material, torque, cost_cents, edges, regrinds,
  shelf, minimum, reground_from) ON component TO tin_app;
GRANT UPDATE (name, shelf, minimum, cost_cents, torque) ON component TO tin_app;
GRANT INSERT ON assembly_part, presetting TO tin_app;
GRANT UPDATE (component_id, edges_used) ON assembly_part TO tin_app;
GRANT INSERT (outline, widest, mass, moment, speed_limit, override) ON assembly TO tin_app;
GRANT UPDATE (outline, widest, mass, moment, speed_limit, corner_radius) ON assembly TO tin_app;
GRANT UPDATE (longest, widest, widest_alone, heaviest, moment, knob, through_coolant) ON machine TO tin_app;
