-- Up Migration
-- What fits is asked for by kind and size, in a library of any length.
CREATE INDEX assembly_size ON assembly (kind, diameter);
DROP INDEX assembly_kind;
CREATE INDEX assembly_gauge_length ON assembly (gauge_length, diameter);

-- A proposal is open until it was applied, refused or overtaken. It is told beside it, and kept by the entry that ends it, so that what waits is
-- found without reading all that ever was.
ALTER TABLE proposal ADD COLUMN open boolean NOT NULL DEFAULT true;
UPDATE proposal p SET open = false WHERE EXISTS (SELECT 1 FROM ledger l WHERE l.proposal_id = p.id AND l.kind = 'correction'
  AND l.stage IN ('applied', 'refused', 'superseded'));
CREATE INDEX proposal_open ON proposal (id) WHERE open;
CREATE FUNCTION ledger_closes() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  UPDATE proposal SET open = false WHERE id = NEW.proposal_id AND open;
  RETURN NULL;
END
$$;
CREATE TRIGGER ledger_closes AFTER INSERT ON ledger FOR EACH ROW
  WHEN (NEW.kind = 'correction' AND NEW.stage IN ('applied', 'refused', 'superseded'))
  EXECUTE FUNCTION ledger_closes();

-- Each proposal's state comes from its own entries: whoever asks for some of them has no others read.
CREATE OR REPLACE VIEW proposal_state AS
SELECT p.id, s.state, s.approved_at, s.applied_at, s.approved_by, s.applied_by, s.took, s.took_words, s.judged_entry, s.cleared_entry, p.open
FROM proposal p CROSS JOIN LATERAL (
  SELECT CASE WHEN bool_or(l.stage = 'applied') THEN 'applied'
              WHEN bool_or(l.stage = 'refused') THEN 'refused'
              WHEN bool_or(l.stage = 'superseded') THEN 'superseded'
              WHEN bool_or(l.stage = 'approved') THEN 'approved'
              ELSE 'proposed' END AS state,
    max(l.at) FILTER (WHERE l.stage = 'approved') AS approved_at,
    max(l.at) FILTER (WHERE l.stage = 'applied') AS applied_at,
    max(l.person_id) FILTER (WHERE l.stage = 'approved') AS approved_by,
    max(l.person_id) FILTER (WHERE l.stage = 'applied') AS applied_by,
    (array_agg(l.detail ->> 'verdict' ORDER BY l.id DESC) FILTER (WHERE l.stage = 'judged'))[1] AS took,
    (array_agg(l.said ORDER BY l.id DESC) FILTER (WHERE l.stage = 'judged'))[1] AS took_words,
    max(l.id) FILTER (WHERE l.stage = 'judged') AS judged_entry,
    max(l.id) FILTER (WHERE l.stage = 'cleared') AS cleared_entry
  FROM ledger l WHERE l.proposal_id = p.id AND l.kind = 'correction') s;

-- Withdrawing looks at what is open.
CREATE OR REPLACE FUNCTION ledger_withdraw() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public, pg_temp AS $$
BEGIN
  INSERT INTO ledger (kind, stage, person_id, machine_id, proposal_id, tool, said)
  SELECT 'correction', 'superseded', NEW.person_id, NEW.machine_id, p.id, f.tool, 'Withdrawn: ' || NEW.said
  FROM proposal p JOIN feature f ON f.id = p.feature_id JOIN register g ON g.id = p.register_id
  WHERE p.open AND p.id IS DISTINCT FROM NEW.proposal_id
    AND (p.register_id = NEW.register_id
         OR NEW.kind <> 'register' AND g.machine_id = NEW.machine_id
            AND NEW.tool IN (g.row, CASE WHEN g.row = f.row THEN f.tool WHEN g.row = f.other_row THEN f.other_tool END))
  -- somebody else may be ending it at this moment
  ON CONFLICT DO NOTHING;
  RETURN NULL;
END
$$;

-- An entry says what it is about, not which one it is: of equal ones in one transaction a single line is sent, however many there are.
CREATE OR REPLACE FUNCTION ledger_tell() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  PERFORM pg_notify('tin', json_build_object('kind', NEW.kind, 'machine', NEW.machine_id)::text);
  RETURN NULL;
END
$$;
