-- Up Migration
-- Rows that a tool of a machine is used with, by whoever said so: a program that calls it, the group it is a member of, the measuring plan.
-- Four statements each had their own idea of it, and none knew the groups: a renewed spare kept the old edge's geometry in its second row.
CREATE VIEW tool_row AS
  SELECT g.machine_id, c.tool, (u ->> 'row')::integer AS row
  FROM program g JOIN program_call c ON c.program_id = g.id,
    jsonb_array_elements((c.reading -> 'lengthRows') || (c.reading -> 'radiusRows')) u
  WHERE u ->> 'row' IS NOT NULL
  UNION SELECT m.machine_id, m.tool, unnest(m.length_rows || m.radius_rows) FROM group_member m
  UNION SELECT f.machine_id, f.tool, f.row FROM feature f
  UNION SELECT f.machine_id, f.other_tool, f.other_row FROM feature f WHERE f.other_tool IS NOT NULL
  UNION SELECT f.machine_id, f.rough_tool, f.rough_row FROM feature f WHERE f.rough_tool IS NOT NULL;
GRANT SELECT ON tool_row TO tin_app;

-- Who of a group cuts is part of what a part was cut with: a take-over is entered with the parts cut until then, as a new edge is.
CREATE TRIGGER ledger_1_took BEFORE INSERT ON ledger FOR EACH ROW
  WHEN (NEW.machine_id IS NOT NULL AND NEW.kind = 'machine' AND NEW.stage = 'group' AND NEW.detail ? 'took')
  EXECUTE FUNCTION ledger_1_cut();
CREATE INDEX ledger_group ON ledger (machine_id, id) WHERE kind = 'machine' AND stage = 'group';

-- Withdrawing looks at what is open. A member's own rows are not always those that the plan names; and one that another took over from
-- does not cut any more: what waited to be keyed for it would move nothing on the next part.
CREATE OR REPLACE FUNCTION ledger_withdraw() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  ended integer := CASE WHEN NEW.kind = 'machine' THEN (NEW.detail -> 'took' ->> 'from')::integer ELSE NEW.tool END;
BEGIN
  INSERT INTO ledger (kind, stage, person_id, machine_id, proposal_id, tool, said)
  SELECT 'correction', 'superseded', NEW.person_id, NEW.machine_id, p.id, f.tool, 'Withdrawn: ' || NEW.said
  FROM proposal p JOIN feature f ON f.id = p.feature_id JOIN register g ON g.id = p.register_id
  WHERE p.open AND p.id IS DISTINCT FROM NEW.proposal_id
    AND (p.register_id = NEW.register_id
         OR NEW.kind <> 'register' AND g.machine_id = NEW.machine_id
            AND (ended IN (g.row, CASE WHEN g.row = f.row THEN f.tool WHEN g.row = f.other_row THEN f.other_tool END)
                 OR EXISTS (SELECT 1 FROM group_member m WHERE m.machine_id = NEW.machine_id AND m.tool = ended
                            AND g.row = ANY (m.length_rows || m.radius_rows))))
  -- somebody else may be ending it at this moment
  ON CONFLICT DO NOTHING;
  RETURN NULL;
END
$$;
CREATE TRIGGER ledger_withdraw_took AFTER INSERT ON ledger FOR EACH ROW
  WHEN (NEW.machine_id IS NOT NULL AND NEW.kind = 'machine' AND NEW.stage = 'group' AND NEW.detail ? 'took')
  EXECUTE FUNCTION ledger_withdraw();
