-- Up Migration
-- What may be written is listed here as in src/core/ledger/entry.ts, and each kind of entry has one function that applies it.
CREATE TABLE ledger_stage (
  kind  text NOT NULL,
  stage text NOT NULL,
  PRIMARY KEY (kind, stage)
);
INSERT INTO ledger_stage (kind, stage)
SELECT kind, unnest(stages) FROM (VALUES
  ('register', ARRAY['measured', 'found', 'zeroed', 'transferred', 'rebased', 'corrected']),
  ('life', ARRAY['set', 'renewed', 'used']),
  ('placement', ARRAY['in', 'out', 'called']),
  ('correction', ARRAY['proposed', 'approved', 'refused', 'superseded', 'stopped', 'applied', 'judged']),
  ('reading', ARRAY['taken']),
  ('assembly', ARRAY['added', 'changed', 'built', 'indexed', 'reground', 'preset', 'flag', 'renewal', 'step']),
  ('parts', ARRAY['made']),
  ('program', ARRAY['brought in', 'changed', 'plan', 'cutter', 'defined', 'job', 'started', 'finished']),
  ('machine', ARRAY['added', 'dialect', 'plate', 'cells', 'changeTimes', 'rebased', 'rack', 'fork', 'rackStep',
                    'spindleUnsure', 'spindleSure', 'loadPlanMade', 'loadPlanDone', 'loadPlanDropped']),
  ('leaf', ARRAY['note', 'question', 'answered', 'handed over', 'taken over']),
  ('people', ARRAY['added', 'changed']),
  ('component', ARRAY['added', 'changed', 'merged']),
  ('stock', ARRAY['counted', 'issued', 'returned', 'bought', 'reground', 'merged']),
  ('pocket', ARRAY['declared', 'undeclared', 'heavy', 'light', 'reserved', 'released', 'inService', 'outOfService'])
) AS listed (kind, stages);
GRANT SELECT ON ledger_stage TO tin_app;

ALTER TABLE ledger DROP CONSTRAINT ledger_kind_check;
ALTER TABLE ledger ADD CONSTRAINT ledger_stages FOREIGN KEY (kind, stage) REFERENCES ledger_stage;
-- what an entry of each kind names
ALTER TABLE ledger ADD CONSTRAINT ledger_reading_check CHECK (kind <> 'reading' OR reading_id IS NOT NULL);
ALTER TABLE ledger ADD CONSTRAINT ledger_assembly_check CHECK (kind <> 'assembly' OR (assembly_id IS NOT NULL
  AND (stage <> 'flag' OR detail ? 'flag')));
ALTER TABLE ledger ADD CONSTRAINT ledger_parts_check CHECK (kind <> 'parts' OR (job_id IS NOT NULL AND detail ?& ARRAY['before', 'parts']));
ALTER TABLE ledger ADD CONSTRAINT ledger_machine_check CHECK (kind <> 'machine' OR machine_id IS NOT NULL);
ALTER TABLE ledger DROP CONSTRAINT ledger_pocket_check;
ALTER TABLE ledger ADD CONSTRAINT ledger_pocket_check CHECK (kind <> 'pocket' OR (machine_id IS NOT NULL AND place_id IS NOT NULL
  AND (stage <> 'declared' OR tool IS NOT NULL)));
ALTER TABLE ledger DROP CONSTRAINT ledger_placement_check;
ALTER TABLE ledger ADD CONSTRAINT ledger_placement_check CHECK (kind <> 'placement' OR (place_id IS NOT NULL AND machine_id IS NOT NULL
  AND CASE stage WHEN 'called' THEN detail ?& ARRAY['spindle', 'pocket'] WHEN 'in' THEN assembly_id IS NOT NULL AND tool IS NOT NULL
           ELSE assembly_id IS NOT NULL END));

DROP TRIGGER ledger_apply ON ledger;
DROP TRIGGER ledger_stock ON ledger;
DROP TRIGGER ledger_magazine ON ledger;
DROP TRIGGER ledger_order ON ledger;
DROP FUNCTION ledger_apply();
DROP FUNCTION ledger_stock();
DROP FUNCTION ledger_magazine();
DROP FUNCTION ledger_order();

-- every entry is of now; first by its name, since the others read the time
CREATE FUNCTION ledger_0_now() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  NEW.at := tin_now();
  RETURN NEW;
END
$$;
CREATE TRIGGER ledger_0_now BEFORE INSERT ON ledger FOR EACH ROW EXECUTE FUNCTION ledger_0_now();

CREATE FUNCTION ledger_register() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  present bigint;
BEGIN
  SELECT value INTO present FROM register WHERE id = NEW.register_id FOR UPDATE;
  IF present IS DISTINCT FROM NEW.before_value THEN
    RAISE EXCEPTION 'register % holds %, not %', NEW.register_id, present, NEW.before_value USING ERRCODE = 'TA001';
  END IF;
  UPDATE register SET value = NEW.after_value WHERE id = NEW.register_id;
  RETURN NEW;
END
$$;
CREATE TRIGGER ledger_register BEFORE INSERT ON ledger FOR EACH ROW WHEN (NEW.kind = 'register') EXECUTE FUNCTION ledger_register();

CREATE FUNCTION ledger_life() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  present bigint;
BEGIN
  SELECT value INTO present FROM life_counter WHERE id = NEW.counter_id FOR UPDATE;
  IF present IS DISTINCT FROM NEW.before_value THEN
    RAISE EXCEPTION 'counter % holds %, not %', NEW.counter_id, present, NEW.before_value USING ERRCODE = 'TA002';
  END IF;
  UPDATE life_counter SET value = NEW.after_value WHERE id = NEW.counter_id;
  RETURN NEW;
END
$$;
CREATE TRIGGER ledger_life BEFORE INSERT ON ledger FOR EACH ROW WHEN (NEW.kind = 'life') EXECUTE FUNCTION ledger_life();

CREATE FUNCTION ledger_stock() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  present integer;
BEGIN
  SELECT stock INTO present FROM component WHERE id = NEW.component_id FOR UPDATE;
  IF present IS DISTINCT FROM NEW.before_value THEN
    RAISE EXCEPTION 'component % has %, not %', NEW.component_id, present, NEW.before_value USING ERRCODE = 'TA005';
  END IF;
  UPDATE component SET stock = NEW.after_value WHERE id = NEW.component_id;
  RETURN NEW;
END
$$;
CREATE TRIGGER ledger_stock BEFORE INSERT ON ledger FOR EACH ROW WHEN (NEW.kind = 'stock') EXECUTE FUNCTION ledger_stock();

CREATE FUNCTION ledger_parts() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  UPDATE job SET made = made + (NEW.detail ->> 'parts')::integer WHERE id = NEW.job_id AND made = (NEW.detail ->> 'before')::integer;
  IF NOT FOUND THEN
    RAISE EXCEPTION 'job % no longer stands at % parts', NEW.job_id, NEW.detail ->> 'before' USING ERRCODE = 'TA004';
  END IF;
  RETURN NEW;
END
$$;
CREATE TRIGGER ledger_parts BEFORE INSERT ON ledger FOR EACH ROW WHEN (NEW.kind = 'parts') EXECUTE FUNCTION ledger_parts();

CREATE FUNCTION ledger_assembly() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  IF NEW.stage = 'flag' THEN
    UPDATE assembly SET flag = NEW.detail ->> 'flag' WHERE id = NEW.assembly_id;
  ELSIF NEW.stage IN ('built', 'indexed', 'reground') THEN
    UPDATE assembly SET changed_at = NEW.at, changed_entry = NEW.id WHERE id = NEW.assembly_id;
  END IF;
  RETURN NEW;
END
$$;
CREATE TRIGGER ledger_assembly BEFORE INSERT ON ledger FOR EACH ROW WHEN (NEW.kind = 'assembly') EXECUTE FUNCTION ledger_assembly();

CREATE FUNCTION ledger_placement() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  spindle integer;
BEGIN
  IF NEW.stage = 'in' THEN
    INSERT INTO placement (place_id, machine_id, assembly_id, tool, since, entry)
    VALUES (NEW.place_id, NEW.machine_id, NEW.assembly_id, NEW.tool, NEW.at, NEW.id);
  ELSIF NEW.stage = 'out' THEN
    DELETE FROM placement WHERE place_id = NEW.place_id AND assembly_id = NEW.assembly_id;
    IF NOT FOUND THEN
      RAISE EXCEPTION 'assembly % is not in place %', NEW.assembly_id, NEW.place_id USING ERRCODE = 'TA003';
    END IF;
  ELSE
    SELECT id INTO STRICT spindle FROM place WHERE machine_id = NEW.machine_id AND kind = 'spindle';
    PERFORM 1 FROM machine WHERE id = NEW.machine_id FOR UPDATE;
    IF (SELECT s.assembly_id FROM placement s WHERE s.place_id = spindle) IS DISTINCT FROM (NEW.detail ->> 'spindle')::integer
       OR (SELECT s.assembly_id FROM placement s WHERE s.place_id = NEW.place_id) IS DISTINCT FROM (NEW.detail ->> 'pocket')::integer THEN
      RAISE EXCEPTION 'the map of machine % has changed', NEW.machine_id USING ERRCODE = 'TA008';
    END IF;
    UPDATE placement SET place_id = CASE WHEN place_id = spindle THEN NEW.place_id ELSE spindle END
    WHERE place_id IN (spindle, NEW.place_id);
    UPDATE machine SET at_pocket = (SELECT number FROM place WHERE id = NEW.place_id) WHERE id = NEW.machine_id;
  END IF;
  RETURN NEW;
END
$$;
CREATE TRIGGER ledger_placement BEFORE INSERT ON ledger FOR EACH ROW WHEN (NEW.kind = 'placement') EXECUTE FUNCTION ledger_placement();

CREATE FUNCTION ledger_pocket() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  UPDATE place SET
    wide = CASE NEW.stage WHEN 'declared' THEN true WHEN 'undeclared' THEN false ELSE wide END,
    tied_tool = CASE NEW.stage WHEN 'declared' THEN NEW.tool WHEN 'undeclared' THEN NULL ELSE tied_tool END,
    heavy = CASE NEW.stage WHEN 'heavy' THEN true WHEN 'light' THEN false ELSE heavy END,
    reserved = CASE NEW.stage WHEN 'reserved' THEN true WHEN 'released' THEN false ELSE reserved END,
    in_service = CASE NEW.stage WHEN 'inService' THEN true WHEN 'outOfService' THEN false ELSE in_service END
  WHERE id = NEW.place_id AND machine_id = NEW.machine_id;
  IF NOT FOUND THEN
    RAISE EXCEPTION 'place % is not on machine %', NEW.place_id, NEW.machine_id USING ERRCODE = 'TA007';
  END IF;
  RETURN NEW;
END
$$;
CREATE TRIGGER ledger_pocket BEFORE INSERT ON ledger FOR EACH ROW WHEN (NEW.kind = 'pocket') EXECUTE FUNCTION ledger_pocket();

CREATE FUNCTION ledger_machine() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  IF NEW.stage IN ('spindleUnsure', 'spindleSure') THEN
    UPDATE machine SET spindle_sure = (NEW.stage = 'spindleSure') WHERE id = NEW.machine_id;
  END IF;
  RETURN NEW;
END
$$;
CREATE TRIGGER ledger_machine BEFORE INSERT ON ledger FOR EACH ROW WHEN (NEW.kind = 'machine') EXECUTE FUNCTION ledger_machine();
