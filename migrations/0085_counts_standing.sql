-- Up Migration
-- Counts of a job's parts that stand: one that was taken back is none. What a device kept until it could be sent was told when it was
-- typed, `ago` seconds before it arrived.
CREATE UNIQUE INDEX ledger_count_taken_back ON ledger (((detail ->> 'of')::bigint)) WHERE kind = 'parts' AND stage = 'taken back';
CREATE VIEW count_standing AS
  SELECT l.id, l.job_id, l.machine_id, l.person_id, l.stage, l.at,
         l.at - make_interval(secs => coalesce((l.detail ->> 'ago')::integer, 0)) AS told_at,
         (l.detail ->> 'before')::integer AS before, (l.detail ->> 'parts')::integer AS parts
  FROM ledger l
  WHERE l.kind = 'parts' AND l.stage IN ('made', 'broken off')
    AND NOT EXISTS (SELECT 1 FROM ledger u WHERE u.kind = 'parts' AND u.stage = 'taken back' AND (u.detail ->> 'of')::bigint = l.id);
GRANT SELECT ON count_standing TO tin_app;

CREATE OR REPLACE VIEW job_told AS
  SELECT j.id AS job_id, coalesce(t.at, j.set_up_at) AS at
  FROM job j LEFT JOIN LATERAL (
    SELECT e.at FROM (
      (SELECT b.id, b.at FROM job_begun b WHERE b.job_id = j.id AND b.stage <> 'set up' ORDER BY b.id DESC LIMIT 1)
      UNION ALL
      (SELECT c.id, c.told_at FROM count_standing c WHERE c.job_id = j.id AND c.stage = 'made' ORDER BY c.id DESC LIMIT 1)) e
    ORDER BY e.id DESC LIMIT 1) t ON true;

-- what a shift counted is asked for by when it was told, which may be up to a week before it arrived
CREATE INDEX ledger_parts_at ON ledger (at) WHERE kind = 'parts';
