-- Up Migration
-- A size lies between two boundaries: the tool and row that cut its other end, where that is cut on the machine.
ALTER TABLE feature ADD COLUMN other_tool integer, ADD COLUMN other_row integer;
ALTER TABLE feature ADD CONSTRAINT feature_other_end CHECK ((other_tool IS NULL) = (other_row IS NULL));
GRANT UPDATE (other_tool, other_row) ON feature TO tin_app;

-- A reading that was questioned is kept as it was typed, with the question; it counts for nothing until it is measured again.
ALTER TABLE reading ADD COLUMN doubt text;
-- the part was put back and cut again: what it shows now was cut with the offsets of when it was measured
ALTER TABLE reading ADD COLUMN recut boolean NOT NULL DEFAULT false;

-- One reading may ask for several rows at once.
ALTER TABLE proposal DROP CONSTRAINT proposal_reading_id_key;
ALTER TABLE proposal ADD CONSTRAINT proposal_of_a_row UNIQUE (reading_id, register_id);
CREATE INDEX proposal_register ON proposal (register_id, id);

-- Whether a correction took is judged again with each part; the last word counts. A lead or a read-back clears a row.
DROP INDEX a_correction_is_judged_once;
INSERT INTO ledger_stage (kind, stage) VALUES ('correction', 'cleared'), ('reading', 'questioned');
DROP VIEW proposal_state;
CREATE VIEW proposal_state AS
SELECT p.id,
       CASE
         WHEN bool_or(l.stage = 'applied') THEN 'applied'
         WHEN bool_or(l.stage = 'refused') THEN 'refused'
         WHEN bool_or(l.stage = 'superseded') THEN 'superseded'
         WHEN bool_or(l.stage = 'approved') THEN 'approved'
         ELSE 'proposed'
       END AS state,
       max(l.at) FILTER (WHERE l.stage = 'approved') AS approved_at,
       max(l.at) FILTER (WHERE l.stage = 'applied') AS applied_at,
       max(l.person_id) FILTER (WHERE l.stage = 'approved') AS approved_by,
       max(l.person_id) FILTER (WHERE l.stage = 'applied') AS applied_by,
       (array_agg(l.detail ->> 'verdict' ORDER BY l.id DESC) FILTER (WHERE l.stage = 'judged'))[1] AS took,
       (array_agg(l.said ORDER BY l.id DESC) FILTER (WHERE l.stage = 'judged'))[1] AS took_words,
       max(l.id) FILTER (WHERE l.stage = 'judged') AS judged_entry,
       max(l.id) FILTER (WHERE l.stage = 'cleared') AS cleared_entry
FROM proposal p LEFT JOIN ledger l ON l.proposal_id = p.id AND l.kind = 'correction'
GROUP BY p.id;
GRANT SELECT ON proposal_state TO tin_app;

-- From which part on something holds. Whatever moves a register, changes an edge or puts another tool under a T is entered with
-- the parts cut until then, for each job of the machine that is not finished (by its number) and for parts measured without a job
-- (by the program's, with a p before it): the last part surely cut before, and the last that may have been. Where somebody
-- said between which parts a correction was keyed, that stands for the job. `jobs`: the newest job there was.
CREATE FUNCTION ledger_1_cut() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  found jsonb;
BEGIN
  SELECT coalesce(jsonb_object_agg(counted.key, jsonb_build_array(counted.n, counted.n)), '{}') INTO found FROM (
    SELECT j.id::text AS key, greatest(j.made, (SELECT max(r.part) FROM reading r WHERE r.job_id = j.id)) AS n
    FROM job j WHERE j.machine_id = NEW.machine_id AND j.state IN ('waiting', 'running', 'paused')
    UNION ALL
    SELECT 'p' || r.program_id, max(r.part) FROM reading r JOIN feature f ON f.id = r.feature_id
    WHERE f.machine_id = NEW.machine_id AND r.job_id IS NULL GROUP BY r.program_id
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
CREATE TRIGGER ledger_1_cut BEFORE INSERT ON ledger FOR EACH ROW
  WHEN (NEW.machine_id IS NOT NULL AND (NEW.kind IN ('register', 'placement')
        OR NEW.kind = 'life' AND NEW.stage = 'renewed' OR NEW.kind = 'assembly' AND NEW.stage IN ('indexed', 'reground')))
  EXECUTE FUNCTION ledger_1_cut();

-- A proposal ends with what it was worked out from: its row moved, its edge was changed, another tool stands under its T.
CREATE FUNCTION ledger_withdraw() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  INSERT INTO ledger (kind, stage, person_id, machine_id, proposal_id, tool, said)
  SELECT 'correction', 'superseded', NEW.person_id, NEW.machine_id, p.id, f.tool, 'Withdrawn: ' || NEW.said
  FROM proposal p JOIN proposal_state s ON s.id = p.id JOIN feature f ON f.id = p.feature_id JOIN register g ON g.id = p.register_id
  WHERE s.state IN ('proposed', 'approved') AND p.id IS DISTINCT FROM NEW.proposal_id
    AND (p.register_id = NEW.register_id
         OR NEW.kind <> 'register' AND g.machine_id = NEW.machine_id
            AND NEW.tool IN (g.row, CASE WHEN g.row = f.row THEN f.tool WHEN g.row = f.other_row THEN f.other_tool END));
  RETURN NULL;
END
$$;
CREATE TRIGGER ledger_withdraw AFTER INSERT ON ledger FOR EACH ROW
  WHEN (NEW.machine_id IS NOT NULL AND (NEW.kind = 'register' OR NEW.kind = 'placement' AND NEW.stage IN ('in', 'out')
        OR NEW.kind = 'life' AND NEW.stage = 'renewed' OR NEW.kind = 'assembly' AND NEW.stage IN ('indexed', 'reground')))
  EXECUTE FUNCTION ledger_withdraw();

-- what an edge and a row are asked for
CREATE INDEX ledger_edges ON ledger (machine_id, tool, id)
  WHERE kind = 'placement' OR kind = 'life' AND stage = 'renewed' OR kind = 'assembly' AND stage IN ('indexed', 'reground');
