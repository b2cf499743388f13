-- Up Migration
-- Magazines: what is declared of a pocket, calls through the spindle, and change times.
ALTER TABLE place
  ADD COLUMN wide      boolean NOT NULL DEFAULT false,
  ADD COLUMN heavy     boolean NOT NULL DEFAULT false,
  -- the T that a declared pocket is tied to for good
  ADD COLUMN tied_tool integer CHECK (tied_tool > 0),
  ADD CONSTRAINT a_wide_pocket_is_tied CHECK (wide = (tied_tool IS NOT NULL));
CREATE UNIQUE INDEX one_tied_pocket_for_a_tool ON place (machine_id, tied_tool) WHERE tied_tool IS NOT NULL;

ALTER TABLE machine
  -- whether what the record says of the spindle is known to be true
  ADD COLUMN spindle_sure   boolean NOT NULL DEFAULT true,
  -- the pocket called last: the one at the spindle
  ADD COLUMN at_pocket      integer,
  ADD COLUMN arm_seconds    double precision NOT NULL DEFAULT 3 CHECK (arm_seconds > 0),
  ADD COLUMN pocket_seconds double precision NOT NULL DEFAULT 0.3 CHECK (pocket_seconds >= 0),
  ADD COLUMN heavy_factor   double precision NOT NULL DEFAULT 1.5 CHECK (heavy_factor >= 1);
GRANT UPDATE (arm_seconds, pocket_seconds, heavy_factor) ON machine TO tin_app;

-- Pockets change by an entry and by nothing else.
REVOKE UPDATE (in_service, reserved) ON place FROM tin_app;
ALTER TABLE ledger DROP CONSTRAINT ledger_kind_check;
ALTER TABLE ledger ADD CONSTRAINT ledger_kind_check CHECK (kind IN ('register', 'life', 'placement', 'correction', 'reading',
  'assembly', 'parts', 'program', 'machine', 'leaf', 'people', 'component', 'stock', 'pocket'));
DO $$
DECLARE
  old text;
BEGIN
  SELECT conname INTO STRICT old FROM pg_constraint
  WHERE conrelid = 'ledger'::regclass AND contype = 'c' AND pg_get_constraintdef(oid) LIKE '%placement%' AND conname <> 'ledger_kind_check';
  EXECUTE format('ALTER TABLE ledger DROP CONSTRAINT %I', old);
END
$$;
ALTER TABLE ledger ADD CONSTRAINT ledger_placement_check CHECK (kind <> 'placement' OR (place_id IS NOT NULL AND machine_id IS NOT NULL
  AND (stage = 'called' OR (assembly_id IS NOT NULL AND stage IN ('in', 'out')))));
ALTER TABLE ledger ADD CONSTRAINT ledger_pocket_check CHECK (kind <> 'pocket' OR place_id IS NOT NULL);
CREATE INDEX ledger_place ON ledger (place_id, id) WHERE place_id IS NOT NULL;

-- An exchange moves two tools in one statement.
ALTER TABLE placement DROP CONSTRAINT placement_pkey;
ALTER TABLE placement ADD CONSTRAINT one_assembly_in_a_place PRIMARY KEY (place_id) DEFERRABLE INITIALLY IMMEDIATE;

-- The pockets beside a pocket: round a ring or chain, along a rack, around it in a tray (as the drawing lays it out).
CREATE FUNCTION pocket_neighbours(changer_kind text, places integer, pocket integer) RETURNS integer[] LANGUAGE sql IMMUTABLE AS $$
  SELECT coalesce(array_agg(DISTINCT n), '{}')
  FROM (SELECT ceil(sqrt(places * 1.8))::integer AS c) tray,
    unnest(CASE
      WHEN changer_kind = 'rack' THEN ARRAY[pocket - 1, pocket + 1]
      WHEN changer_kind = 'tray' THEN ARRAY[
        CASE WHEN (pocket - 1) % c > 0 THEN pocket - 1 END, CASE WHEN (pocket - 1) % c < c - 1 THEN pocket + 1 END, pocket - c, pocket + c]
      ELSE ARRAY[(pocket + places - 2) % places + 1, pocket % places + 1] END) n
  WHERE n BETWEEN 1 AND places AND n <> pocket
$$;

-- What must never be beside a declared pocket, whatever the code above does.
CREATE FUNCTION magazine_rules() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  broken text;
BEGIN
  SELECT CASE
      WHEN p.wide AND b.wide THEN format('pockets %s and %s are both declared wide', p.number, b.number)
      WHEN s.place_id IS NOT NULL THEN format('pocket %s is beside the wide pocket %s', b.number, p.number)
    END INTO broken
  FROM place p JOIN machine m ON m.id = p.machine_id
    JOIN place b ON b.machine_id = p.machine_id AND b.number = ANY (pocket_neighbours(m.changer_kind, m.places, p.number))
    LEFT JOIN placement s ON s.place_id = b.id
  WHERE p.wide AND p.machine_id = NEW.machine_id AND (b.wide OR s.place_id IS NOT NULL) LIMIT 1;
  IF broken IS NOT NULL THEN
    RAISE EXCEPTION '%', broken USING ERRCODE = 'TA006';
  END IF;
  SELECT format('T%s is tied to pocket %s', p.tied_tool, p.number) INTO broken
  FROM place p JOIN placement s ON s.machine_id = p.machine_id AND s.tool = p.tied_tool JOIN place q ON q.id = s.place_id
  WHERE p.machine_id = NEW.machine_id AND p.tied_tool IS NOT NULL AND q.kind = 'pocket' AND q.id <> p.id LIMIT 1;
  IF broken IS NULL THEN
    SELECT format('pocket %s is tied to T%s', p.number, p.tied_tool) INTO broken
    FROM place p JOIN placement s ON s.place_id = p.id WHERE p.machine_id = NEW.machine_id AND p.tied_tool <> s.tool LIMIT 1;
  END IF;
  IF broken IS NULL THEN
    SELECT format('pocket %s is out of service', p.number) INTO broken
    FROM place p JOIN placement s ON s.place_id = p.id WHERE p.machine_id = NEW.machine_id AND NOT p.in_service LIMIT 1;
  END IF;
  IF broken IS NOT NULL THEN
    RAISE EXCEPTION '%', broken USING ERRCODE = 'TA007';
  END IF;
  RETURN NULL;
END
$$;
CREATE TRIGGER magazine_rules AFTER INSERT OR UPDATE ON placement FOR EACH ROW EXECUTE FUNCTION magazine_rules();
CREATE TRIGGER magazine_rules AFTER UPDATE ON place FOR EACH ROW EXECUTE FUNCTION magazine_rules();

CREATE FUNCTION ledger_magazine() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  spindle integer;
  moved   integer;
BEGIN
  IF NEW.kind = 'placement' AND NEW.stage = 'called' THEN
    SELECT id INTO STRICT spindle FROM place WHERE machine_id = NEW.machine_id AND kind = 'spindle';
    PERFORM 1 FROM machine WHERE id = NEW.machine_id FOR UPDATE;
    IF (SELECT s.assembly_id FROM placement s WHERE s.place_id = spindle) IS DISTINCT FROM (NEW.detail ->> 'spindle')::integer
       OR (SELECT s.assembly_id FROM placement s WHERE s.place_id = NEW.place_id) IS DISTINCT FROM (NEW.detail ->> 'pocket')::integer THEN
      RAISE EXCEPTION 'the map of machine % is another by now', NEW.machine_id USING ERRCODE = 'TA008';
    END IF;
    UPDATE placement SET place_id = CASE WHEN place_id = spindle THEN NEW.place_id ELSE spindle END
    WHERE place_id IN (spindle, NEW.place_id);
    UPDATE machine SET at_pocket = (SELECT number FROM place WHERE id = NEW.place_id) WHERE id = NEW.machine_id;
  ELSIF NEW.kind = 'pocket' THEN
    UPDATE place SET
      wide = CASE NEW.stage WHEN 'declared' THEN true WHEN 'undeclared' THEN false ELSE wide END,
      tied_tool = CASE NEW.stage WHEN 'declared' THEN NEW.tool WHEN 'undeclared' THEN NULL ELSE tied_tool END,
      heavy = CASE NEW.stage WHEN 'heavy' THEN true WHEN 'light' THEN false ELSE heavy END,
      reserved = CASE NEW.stage WHEN 'reserved' THEN true WHEN 'released' THEN false ELSE reserved END,
      in_service = CASE NEW.stage WHEN 'inService' THEN true WHEN 'outOfService' THEN false ELSE in_service END
    WHERE id = NEW.place_id;
    GET DIAGNOSTICS moved = ROW_COUNT;
    IF moved = 0 OR NEW.stage NOT IN ('declared', 'undeclared', 'heavy', 'light', 'reserved', 'released', 'inService', 'outOfService') THEN
      RAISE EXCEPTION 'no such change of a pocket' USING ERRCODE = 'TA007';
    END IF;
  ELSIF NEW.kind = 'machine' AND NEW.stage IN ('spindleUnsure', 'spindleSure') THEN
    UPDATE machine SET spindle_sure = (NEW.stage = 'spindleSure') WHERE id = NEW.machine_id;
  END IF;
  RETURN NEW;
END
$$;
-- after ledger_apply, which leaves these entries alone
CREATE TRIGGER ledger_magazine BEFORE INSERT ON ledger FOR EACH ROW EXECUTE FUNCTION ledger_magazine();

CREATE OR REPLACE FUNCTION ledger_apply() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  present bigint;
BEGIN
  NEW.at := tin_now();
  IF NEW.kind = 'register' THEN
    SELECT value INTO present FROM register WHERE id = NEW.register_id FOR UPDATE;
    IF present IS DISTINCT FROM NEW.before_value THEN
      RAISE EXCEPTION 'register % holds %, not %', NEW.register_id, present, NEW.before_value USING ERRCODE = 'TA001';
    END IF;
    UPDATE register SET value = NEW.after_value WHERE id = NEW.register_id;
  ELSIF NEW.kind = 'life' THEN
    SELECT value INTO present FROM life_counter WHERE id = NEW.counter_id FOR UPDATE;
    IF present IS DISTINCT FROM NEW.before_value THEN
      RAISE EXCEPTION 'counter % holds %, not %', NEW.counter_id, present, NEW.before_value USING ERRCODE = 'TA002';
    END IF;
    UPDATE life_counter SET value = NEW.after_value WHERE id = NEW.counter_id;
  ELSIF NEW.kind = 'placement' AND NEW.stage = 'in' THEN
    INSERT INTO placement (place_id, machine_id, assembly_id, tool, since)
    VALUES (NEW.place_id, NEW.machine_id, NEW.assembly_id, NEW.tool, NEW.at);
  ELSIF NEW.kind = 'placement' AND NEW.stage = 'out' THEN
    DELETE FROM placement WHERE place_id = NEW.place_id AND assembly_id = NEW.assembly_id;
    IF NOT FOUND THEN
      RAISE EXCEPTION 'assembly % is not in place %', NEW.assembly_id, NEW.place_id USING ERRCODE = 'TA003';
    END IF;
  ELSIF NEW.kind = 'assembly' AND NEW.stage = 'flag' THEN
    UPDATE assembly SET flag = NEW.detail ->> 'flag' WHERE id = NEW.assembly_id;
  ELSIF NEW.kind = 'parts' THEN
    UPDATE job SET made = made + (NEW.detail ->> 'parts')::integer WHERE id = NEW.job_id AND made = (NEW.detail ->> 'before')::integer;
    IF NOT FOUND THEN
      RAISE EXCEPTION 'job % no longer stands at % parts', NEW.job_id, NEW.detail ->> 'before' USING ERRCODE = 'TA004';
    END IF;
  END IF;
  RETURN NEW;
END
$$;
