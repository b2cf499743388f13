-- Up Migration
-- A collet nut is a piece of its own, and a double turning holder carries two tools.
ALTER TABLE assembly_part DROP CONSTRAINT assembly_part_role_check;
ALTER TABLE assembly_part ADD CONSTRAINT assembly_part_role_check
  CHECK (role IN ('knob', 'holder', 'extension', 'nut', 'adapter', 'cutter', 'second', 'insert'));
