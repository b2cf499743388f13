-- Up Migration
-- A renewal that was begun at the wrong tool is dropped: its edge was not changed, and the entries that say so are void: the edge that was
-- there goes on, with all that was measured of it. They stay in the ledger as they were written.
INSERT INTO ledger_stage (kind, stage) VALUES ('assembly', 'renewalDropped');
ALTER TABLE renewal ADD COLUMN dropped boolean NOT NULL DEFAULT false;
CREATE TABLE void_entry (entry bigint PRIMARY KEY);
GRANT SELECT ON void_entry TO tin_app;

CREATE FUNCTION ledger_renewal_dropped() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  begun bigint;
  of_renewal integer;
BEGIN
  UPDATE renewal SET dropped = true, finished_at = NEW.at WHERE assembly_id = NEW.assembly_id AND finished_at IS NULL RETURNING id INTO of_renewal;
  IF of_renewal IS NULL THEN
    RAISE EXCEPTION 'no renewal of assembly % is under way', NEW.assembly_id;
  END IF;
  SELECT max(l.id) INTO begun FROM ledger l WHERE l.assembly_id = NEW.assembly_id AND l.kind = 'assembly' AND l.stage = 'renewal';
  INSERT INTO void_entry (entry)
  SELECT l.id FROM ledger l WHERE l.assembly_id = NEW.assembly_id AND l.id > begun
    AND (l.kind = 'assembly' AND l.stage = 'indexed' OR l.kind = 'life' AND l.stage = 'renewed');
  -- how its edge ended was told of none
  IF EXISTS (SELECT 1 FROM renewal_step t WHERE t.renewal_id = of_renewal AND t.step = 'changed') THEN
    DELETE FROM edge_end WHERE id = (
      SELECT e.id FROM edge_end e JOIN renewal r ON r.id = of_renewal WHERE e.assembly_id = NEW.assembly_id AND e.at >= r.started_at ORDER BY e.id DESC LIMIT 1);
  END IF;
  UPDATE assembly a SET changed_entry = coalesce(c.id, 0), changed_at = c.at
  FROM (SELECT 1) one LEFT JOIN LATERAL (
    SELECT l.id, l.at FROM ledger l WHERE l.assembly_id = NEW.assembly_id AND l.kind = 'assembly' AND l.stage IN ('built', 'indexed', 'reground')
      AND NOT EXISTS (SELECT 1 FROM void_entry v WHERE v.entry = l.id) ORDER BY l.id DESC LIMIT 1) c ON true
  WHERE a.id = NEW.assembly_id;
  RETURN NULL;
END
$$;
CREATE TRIGGER ledger_renewal_dropped AFTER INSERT ON ledger FOR EACH ROW WHEN (NEW.kind = 'assembly' AND NEW.stage = 'renewalDropped')
  EXECUTE FUNCTION ledger_renewal_dropped();
