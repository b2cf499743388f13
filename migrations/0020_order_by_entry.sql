-- Up Migration
-- "Later than" is asked of entries, never of the clock: a server's clock may be put back, and what was cut before a correction
-- must not be taken for what was cut after it. Placements, changes of an edge, presettings and readings keep their number in
-- the one order of the ledger.
ALTER TABLE placement ADD COLUMN entry bigint NOT NULL DEFAULT 0;
ALTER TABLE assembly ADD COLUMN changed_entry bigint NOT NULL DEFAULT 0;
ALTER TABLE presetting ADD COLUMN entry bigint NOT NULL DEFAULT 0;
ALTER TABLE reading ADD COLUMN entry bigint NOT NULL DEFAULT 0;

UPDATE placement s SET entry = coalesce((SELECT max(l.id) FROM ledger l
  WHERE l.kind = 'placement' AND l.stage = 'in' AND l.assembly_id = s.assembly_id), 0);
UPDATE assembly a SET changed_entry = coalesce((SELECT max(l.id) FROM ledger l
  WHERE l.kind = 'assembly' AND l.stage IN ('built', 'indexed', 'reground') AND l.assembly_id = a.id), 0)
WHERE changed_at IS NOT NULL;
-- the old ones by the clock, which is all that is known of them
UPDATE presetting p SET entry = coalesce((SELECT max(l.id) FROM ledger l WHERE l.assembly_id = p.assembly_id AND l.at <= p.at), 0);
UPDATE reading r SET entry = coalesce((SELECT max(l.id) FROM ledger l WHERE l.kind = 'reading' AND l.reading_id = r.id), 0);

-- the next number in the ledger's order, for what is no entry itself
CREATE FUNCTION next_in_order() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  NEW.entry := nextval(pg_get_serial_sequence('ledger', 'id'));
  RETURN NEW;
END
$$;
CREATE TRIGGER next_in_order BEFORE INSERT ON presetting FOR EACH ROW EXECUTE FUNCTION next_in_order();
CREATE TRIGGER next_in_order BEFORE INSERT ON reading FOR EACH ROW EXECUTE FUNCTION next_in_order();

CREATE FUNCTION ledger_order() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  IF NEW.kind = 'placement' AND NEW.stage = 'in' THEN
    UPDATE placement SET entry = NEW.id WHERE place_id = NEW.place_id AND assembly_id = NEW.assembly_id;
  ELSIF NEW.kind = 'assembly' AND NEW.stage IN ('built', 'indexed', 'reground') THEN
    UPDATE assembly SET changed_entry = NEW.id WHERE id = NEW.assembly_id;
  END IF;
  RETURN NEW;
END
$$;
-- by its name after ledger_apply, which puts the tool in its place
CREATE TRIGGER ledger_order BEFORE INSERT ON ledger FOR EACH ROW EXECUTE FUNCTION ledger_order();

CREATE INDEX ledger_measured ON ledger (assembly_id, machine_id, id) WHERE kind = 'register' AND stage = 'measured';
