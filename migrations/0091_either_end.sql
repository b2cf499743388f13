-- Up Migration
-- A correction is worked out from a size, and a size may be between two tools: it ends when either of them has another edge, when the row
-- of either moves otherwise than it was counted with, and when the geometry of its own row is measured anew. One that was approved before
-- another was worked out is counted in it, and those of one reading belong together.
CREATE OR REPLACE FUNCTION ledger_withdraw() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
DECLARE
  ended integer := CASE WHEN NEW.kind = 'machine' THEN (NEW.detail -> 'took' ->> 'from')::integer ELSE NEW.tool END;
BEGIN
  INSERT INTO ledger (kind, stage, person_id, machine_id, proposal_id, tool, said)
  SELECT 'correction', 'superseded', NEW.person_id, NEW.machine_id, p.id, f.tool, 'Withdrawn: ' || NEW.said
  FROM proposal p JOIN feature f ON f.id = p.feature_id JOIN register g ON g.id = p.register_id
  WHERE p.open AND p.id IS DISTINCT FROM NEW.proposal_id AND g.machine_id = NEW.machine_id
    AND (p.register_id = NEW.register_id
         OR NEW.kind = 'register'
            AND EXISTS (SELECT 1 FROM register n WHERE n.id = NEW.register_id AND n.machine_id = g.machine_id
                        AND n.kind IN (g.kind, replace(g.kind, 'Wear', 'Geometry'))
                        AND (n.row = g.row OR g.row IN (f.row, f.other_row) AND n.row IN (f.row, f.other_row)))
            AND NOT EXISTS (SELECT 1 FROM proposal q JOIN reading r ON r.id = q.reading_id
                            WHERE q.id = NEW.proposal_id AND NEW.stage = 'corrected'
                              AND (q.reading_id = p.reading_id
                                   OR EXISTS (SELECT 1 FROM ledger a WHERE a.proposal_id = p.id AND a.kind = 'correction'
                                              AND a.stage = 'approved' AND a.id <= r.entry)))
         OR NEW.kind <> 'register'
            AND (ended = g.row
                 OR g.row IN (f.row, f.other_row) AND ended IN (f.tool, f.other_tool)
                 OR EXISTS (SELECT 1 FROM group_member m WHERE m.machine_id = NEW.machine_id AND m.tool = ended
                            AND g.row = ANY (m.length_rows || m.radius_rows))
                 -- the other end, where the tools of a group cut it in turn
                 OR EXISTS (SELECT 1 FROM group_member m JOIN tool_group t ON t.id = m.group_id JOIN group_member o ON o.group_id = t.id
                            WHERE m.machine_id = NEW.machine_id AND m.tool = ended AND (NEW.kind = 'machine' OR t.in_use = ended)
                              AND (t.number IN (f.tool, f.other_tool) OR o.tool IN (f.tool, f.other_tool)))))
  -- somebody else may be ending it at this moment
  ON CONFLICT DO NOTHING;
  RETURN NULL;
END
$$;
