-- Up Migration
-- What a control did when its table was read: execution, program, T, count, alarms, pallet; and the lives that it counted of its tools.
-- Null where the table came in by another road than its agent.
ALTER TABLE control_look ADD COLUMN state jsonb, ADD COLUMN lives jsonb;
-- a look is of the cell's time, as every entry is
ALTER TABLE control_look ALTER COLUMN at SET DEFAULT tin_now();
ALTER TABLE control_answer ALTER COLUMN at SET DEFAULT tin_now();
ALTER TABLE pocket_look ALTER COLUMN at SET DEFAULT tin_now();
ALTER TABLE supply_order ALTER COLUMN made_at SET DEFAULT tin_now();
