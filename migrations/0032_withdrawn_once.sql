-- Up Migration
-- Two entries may end one proposal at the same moment: it is ended once. Some databases have this and the indexes already.
CREATE OR REPLACE FUNCTION ledger_withdraw() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  INSERT INTO ledger (kind, stage, person_id, machine_id, proposal_id, tool, said)
  SELECT 'correction', 'superseded', NEW.person_id, NEW.machine_id, p.id, f.tool, 'Withdrawn: ' || NEW.said
  FROM proposal p JOIN proposal_state s ON s.id = p.id JOIN feature f ON f.id = p.feature_id JOIN register g ON g.id = p.register_id
  WHERE s.state IN ('proposed', 'approved') AND p.id IS DISTINCT FROM NEW.proposal_id
    AND (p.register_id = NEW.register_id
         OR NEW.kind <> 'register' AND g.machine_id = NEW.machine_id
            AND NEW.tool IN (g.row, CASE WHEN g.row = f.row THEN f.tool WHEN g.row = f.other_row THEN f.other_tool END))
  -- somebody else may be ending it at this moment
  ON CONFLICT DO NOTHING;
  RETURN NULL;
END
$$;

-- the last part measured of a job, or of a program's parts without one
CREATE INDEX IF NOT EXISTS reading_job ON reading (job_id, part);
CREATE INDEX IF NOT EXISTS reading_without_job ON reading (program_id, part) WHERE job_id IS NULL;
