-- Up Migration
-- A reading that was of another part, or of another size, is taken back: it stays as it was typed, and counts for nothing from then on. And
-- what somebody doubts says nothing of how many parts were cut: a part number that was typed wrong put all parts since before the change.
INSERT INTO ledger_stage (kind, stage) VALUES ('reading', 'taken back');

CREATE OR REPLACE FUNCTION ledger_1_cut() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  found jsonb;
BEGIN
  SELECT coalesce(jsonb_object_agg(counted.key, jsonb_build_array(counted.n, counted.n)), '{}') INTO found FROM (
    SELECT j.id::text AS key, greatest(j.made, (SELECT max(r.part) FROM reading r WHERE r.job_id = j.id AND r.doubt IS NULL)) AS n
    FROM job j WHERE j.machine_id = NEW.machine_id AND j.state IN ('waiting', 'running', 'paused')
    UNION ALL
    SELECT 'p' || r.program_id, max(r.part) FROM reading r JOIN feature f ON f.id = r.feature_id
    WHERE f.machine_id = NEW.machine_id AND r.job_id IS NULL AND r.doubt IS NULL GROUP BY r.program_id
  ) counted;
  IF NEW.detail ? 'keyed' THEN
    found := found || jsonb_build_object(NEW.detail -> 'keyed' ->> 'of',
      jsonb_build_array(NEW.detail -> 'keyed' -> 'low', NEW.detail -> 'keyed' -> 'high'));
  END IF;
  NEW.detail := NEW.detail || jsonb_build_object('cut', found,
    'jobs', (SELECT coalesce(max(id), 0) FROM job WHERE machine_id = NEW.machine_id));
  RETURN NEW;
END
$$;

CREATE FUNCTION ledger_reading_back() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  UPDATE reading SET doubt = NEW.said WHERE id = NEW.reading_id AND doubt IS NULL;
  IF NOT FOUND THEN
    RAISE EXCEPTION 'reading % counts for nothing already', NEW.reading_id USING ERRCODE = 'TA011';
  END IF;
  INSERT INTO ledger (kind, stage, person_id, machine_id, proposal_id, tool, said)
  SELECT 'correction', 'superseded', NEW.person_id, NEW.machine_id, p.id, f.tool, 'Withdrawn: ' || NEW.said
  FROM proposal p JOIN feature f ON f.id = p.feature_id WHERE p.open AND p.reading_id = NEW.reading_id
  -- somebody else may be ending it at this moment
  ON CONFLICT DO NOTHING;
  RETURN NULL;
END
$$;
CREATE TRIGGER ledger_reading_back AFTER INSERT ON ledger FOR EACH ROW WHEN (NEW.kind = 'reading' AND NEW.stage = 'taken back')
  EXECUTE FUNCTION ledger_reading_back();
