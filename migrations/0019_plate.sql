-- Up Migration
-- What the plate says of the changer as a whole, and what each cell of a tray takes; recorded by people at the machine.
ALTER TABLE machine
  -- grams of all tools together, and kilogram millimetres out of balance
  ADD COLUMN heaviest_all double precision CHECK (heaviest_all > 0),
  ADD COLUMN unbalance    double precision CHECK (unbalance > 0),
  -- the diameter that a turret's tools may swing, nanometres
  ADD COLUMN swing        bigint CHECK (swing > 0);
-- the largest diameter that goes into this pocket, where pockets differ; nanometres
ALTER TABLE place ADD COLUMN cell bigint CHECK (cell > 0);
GRANT UPDATE (highest_tool, longest, widest, widest_alone, heaviest, moment, heaviest_all, unbalance, swing, knob) ON machine TO tin_app;
GRANT UPDATE (cell) ON place TO tin_app;

-- A holder larger than its cell, and a T beyond the control's range, whatever the code above does.
CREATE FUNCTION plate_rules() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  broken text;
BEGIN
  SELECT CASE
      WHEN s.tool > m.highest_tool THEN format('T%s stands in %s, whose control goes to T%s', s.tool, m.name, m.highest_tool)
      ELSE format('%s is larger than the cell of pocket %s', a.number, p.number)
    END INTO broken
  FROM placement s JOIN place p ON p.id = s.place_id JOIN machine m ON m.id = s.machine_id JOIN assembly a ON a.id = s.assembly_id
  WHERE s.machine_id = CASE TG_TABLE_NAME WHEN 'machine' THEN (to_jsonb(NEW) ->> 'id')::integer ELSE (to_jsonb(NEW) ->> 'machine_id')::integer END
    AND (s.tool > m.highest_tool OR greatest(a.diameter, a.holder_diameter, coalesce(a.widest, 0)) > p.cell)
  LIMIT 1;
  IF broken IS NOT NULL THEN
    RAISE EXCEPTION '%', broken USING ERRCODE = 'TA009';
  END IF;
  RETURN NULL;
END
$$;
CREATE TRIGGER plate_rules AFTER INSERT OR UPDATE ON placement FOR EACH ROW EXECUTE FUNCTION plate_rules();
CREATE TRIGGER plate_rules AFTER UPDATE OF cell ON place FOR EACH ROW EXECUTE FUNCTION plate_rules();
CREATE TRIGGER plate_rules AFTER UPDATE OF highest_tool ON machine FOR EACH ROW EXECUTE FUNCTION plate_rules();
