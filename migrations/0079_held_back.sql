-- Up Migration
-- An approved correction that later parts speak against is held back until its row was read off the control: it is not needed any more, or
-- was keyed already.
INSERT INTO ledger_stage (kind, stage) VALUES ('correction', 'held'), ('correction', 'released');

CREATE OR REPLACE VIEW proposal_state AS
SELECT p.id, s.state, s.approved_at, s.applied_at, s.approved_by, s.applied_by, s.took, s.took_words, s.judged_entry, s.cleared_entry, p.open,
  s.applied_entry,
  coalesce(s.cleared_entry > s.judged_entry, false)
    OR EXISTS (SELECT 1 FROM ledger l WHERE l.register_id = p.register_id AND l.kind = 'register' AND l.id > s.judged_entry)
    OR EXISTS (SELECT 1 FROM control_seen v JOIN register r ON r.id = v.register_id JOIN control_look k ON k.id = v.look_id
               WHERE v.register_id = p.register_id AND v.value = r.value AND k.entry_id >= s.judged_entry) AS read_since,
  -- however the parts are, what the row holds is known: it was read off after it was keyed
  s.cleared_entry IS NOT NULL
    OR EXISTS (SELECT 1 FROM control_seen v JOIN register r ON r.id = v.register_id JOIN control_look k ON k.id = v.look_id
               WHERE v.register_id = p.register_id AND v.value = r.value AND k.entry_id >= s.applied_entry) AS seen,
  -- why it is not to be keyed yet; empty where nothing speaks against it any more
  CASE WHEN s.state = 'approved' THEN nullif(s.held, '') END AS held
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
    (array_agg(CASE l.stage WHEN 'held' THEN l.why ELSE '' END ORDER BY l.id DESC) FILTER (WHERE l.stage IN ('held', 'released')))[1] AS held,
    max(l.id) FILTER (WHERE l.stage = 'judged') AS judged_entry,
    max(l.id) FILTER (WHERE l.stage = 'cleared') AS cleared_entry,
    max(l.id) FILTER (WHERE l.stage = 'applied') AS applied_entry
  FROM ledger l WHERE l.proposal_id = p.id AND l.kind = 'correction') s;
