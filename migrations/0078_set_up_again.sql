-- Up Migration
-- A program is also set up anew in the middle of its job: a work offset is moved, a part sits otherwise, jaws are bored again. Whoever does
-- it says so, and what was worked out before ends with it as with any other set-up. Where jobs begin, and where they are set up anew, is
-- asked in one place.
INSERT INTO ledger_stage (kind, stage) VALUES ('program', 'set up');

CREATE VIEW job_begun AS
  SELECT * FROM ledger WHERE kind = 'program' AND stage IN ('started', 'taken up', 'set up') AND program_id IS NOT NULL;
GRANT SELECT ON job_begun TO tin_app;

DROP INDEX ledger_begun;
DROP INDEX ledger_begun_of_job;
CREATE INDEX ledger_begun ON ledger (machine_id, id)
  WHERE kind = 'program' AND stage IN ('started', 'taken up', 'set up') AND program_id IS NOT NULL;
CREATE INDEX ledger_begun_of_job ON ledger (job_id, id)
  WHERE kind = 'program' AND stage IN ('started', 'taken up', 'set up') AND program_id IS NOT NULL;

CREATE OR REPLACE FUNCTION set_up_anew(machine integer, program integer, entry bigint) RETURNS boolean LANGUAGE sql STABLE AS $$
  SELECT (SELECT e.stage = 'set up' FROM ledger e WHERE e.id = entry)
    OR coalesce((SELECT b.program_id <> program FROM job_begun b
                 WHERE b.machine_id = machine AND b.id < entry
                   AND (NOT EXISTS (SELECT 1 FROM pallet p WHERE p.machine_id = machine)
                        OR (SELECT o.number FROM program o WHERE o.id = b.program_id) = (SELECT o.number FROM program o WHERE o.id = program))
                 ORDER BY b.id DESC LIMIT 1), false)
$$;

DROP TRIGGER ledger_1_cut ON ledger;
CREATE TRIGGER ledger_1_cut BEFORE INSERT ON ledger FOR EACH ROW
  WHEN (NEW.machine_id IS NOT NULL AND (NEW.kind IN ('register', 'placement')
        OR NEW.kind = 'life' AND NEW.stage = 'renewed' OR NEW.kind = 'assembly' AND NEW.stage IN ('indexed', 'reground')
        OR NEW.kind = 'program' AND NEW.stage IN ('started', 'taken up', 'set up')))
  EXECUTE FUNCTION ledger_1_cut();

DROP TRIGGER ledger_set_up ON ledger;
CREATE TRIGGER ledger_set_up AFTER INSERT ON ledger FOR EACH ROW
  WHEN (NEW.kind = 'program' AND NEW.stage IN ('started', 'taken up', 'set up') AND NEW.program_id IS NOT NULL)
  EXECUTE FUNCTION ledger_set_up();
