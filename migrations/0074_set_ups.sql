-- Up Migration
-- A new set-up begins a new story: what parts of the one before measured is no evidence for it. A program is set up anew when it is begun
-- or taken up on a machine that has run another program, or another revision of it, since; where fixtures stay on their pallets only another
-- revision is another set-up. Such an entry says how many parts were cut until then, as those do that move a register.
DROP TRIGGER ledger_1_cut ON ledger;
CREATE TRIGGER ledger_1_cut BEFORE INSERT ON ledger FOR EACH ROW
  WHEN (NEW.machine_id IS NOT NULL AND (NEW.kind IN ('register', 'placement')
        OR NEW.kind = 'life' AND NEW.stage = 'renewed' OR NEW.kind = 'assembly' AND NEW.stage IN ('indexed', 'reground')
        OR NEW.kind = 'program' AND NEW.stage IN ('started', 'taken up')))
  EXECUTE FUNCTION ledger_1_cut();

CREATE INDEX ledger_begun ON ledger (machine_id, id) WHERE kind = 'program' AND stage IN ('started', 'taken up');

-- Whether the program of such an entry was set up anew with it.
CREATE FUNCTION set_up_anew(machine integer, program integer, entry bigint) RETURNS boolean LANGUAGE sql STABLE AS $$
  SELECT coalesce((SELECT b.program_id <> program FROM ledger b
                   WHERE b.machine_id = machine AND b.kind = 'program' AND b.stage IN ('started', 'taken up') AND b.id < entry
                     AND (NOT EXISTS (SELECT 1 FROM pallet p WHERE p.machine_id = machine)
                          OR (SELECT o.number FROM program o WHERE o.id = b.program_id) = (SELECT o.number FROM program o WHERE o.id = program))
                   ORDER BY b.id DESC LIMIT 1), false)
$$;

-- What was worked out from the set-up before ends with it.
CREATE FUNCTION ledger_set_up() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  IF set_up_anew(NEW.machine_id, NEW.program_id, NEW.id) THEN
    INSERT INTO ledger (kind, stage, person_id, machine_id, proposal_id, tool, said)
    SELECT 'correction', 'superseded', NEW.person_id, NEW.machine_id, p.id, f.tool, 'Withdrawn, a new set-up: ' || NEW.said
    FROM proposal p JOIN feature f ON f.id = p.feature_id
    WHERE p.open AND f.machine_id = NEW.machine_id AND f.program_number = (SELECT o.number FROM program o WHERE o.id = NEW.program_id)
    -- somebody else may be ending it at this moment
    ON CONFLICT DO NOTHING;
  END IF;
  RETURN NULL;
END
$$;
CREATE TRIGGER ledger_set_up AFTER INSERT ON ledger FOR EACH ROW
  WHEN (NEW.kind = 'program' AND NEW.stage IN ('started', 'taken up') AND NEW.program_id IS NOT NULL)
  EXECUTE FUNCTION ledger_set_up();
