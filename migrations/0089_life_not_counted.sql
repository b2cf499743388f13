-- Up Migration
-- A tool may be taken out of life management: its counter stays with what it counted, and is of no tool any more. Counted again it gets another.
ALTER TABLE life_counter ALTER COLUMN assembly_id DROP NOT NULL;
GRANT UPDATE (assembly_id) ON life_counter TO tin_app;
CREATE FUNCTION counter_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.assembly_id IS NOT NULL AND NEW.assembly_id IS DISTINCT FROM OLD.assembly_id THEN
    RAISE EXCEPTION 'a counter counts one tool' USING ERRCODE = 'check_violation';
  END IF;
  RETURN NEW;
END $$;
CREATE TRIGGER counter_stays BEFORE UPDATE OF assembly_id ON life_counter FOR EACH ROW EXECUTE FUNCTION counter_stays();
