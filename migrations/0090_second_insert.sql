-- Up Migration
-- The other tool of a double holder has an insert of its own.
ALTER TABLE assembly_part DROP CONSTRAINT assembly_part_role_check;
ALTER TABLE assembly_part ADD CONSTRAINT assembly_part_role_check
  CHECK (role IN ('knob', 'holder', 'extension', 'nut', 'adapter', 'cutter', 'second', 'insert', 'second_insert'));
