-- Up Migration
-- When each job was last told of: counted, begun or taken up. A count that was taken back tells nothing, nor does a cycle that was broken off:
-- nobody says by it how many parts are made. What a device kept until it could be sent was told before it arrived, by as many seconds as `ago`.
CREATE VIEW job_told AS
  SELECT j.id AS job_id, coalesce(t.at, j.set_up_at) AS at
  FROM job j LEFT JOIN LATERAL (
    SELECT e.at FROM (
      (SELECT b.id, b.at FROM job_begun b WHERE b.job_id = j.id AND b.stage <> 'set up' ORDER BY b.id DESC LIMIT 1)
      UNION ALL
      (SELECT l.id, l.at - make_interval(secs => coalesce((l.detail ->> 'ago')::integer, 0)) FROM ledger l WHERE l.kind = 'parts' AND l.job_id = j.id AND l.stage = 'made'
         AND NOT EXISTS (SELECT 1 FROM ledger u WHERE u.kind = 'parts' AND u.job_id = j.id AND u.stage = 'taken back' AND u.id > l.id AND (u.detail ->> 'of')::bigint = l.id)
       ORDER BY l.id DESC LIMIT 1)) e
    ORDER BY e.id DESC LIMIT 1) t ON true;
GRANT SELECT ON job_told TO tin_app;

-- How many hours a machine runs on after the people have gone, with what is loaded: pallets, a bar feeder. None: it stands between shifts.
ALTER TABLE machine ADD runs_on smallint NOT NULL DEFAULT 0 CHECK (runs_on BETWEEN 0 AND 168);
GRANT UPDATE (runs_on) ON machine TO tin_app;
INSERT INTO ledger_stage (kind, stage) VALUES ('machine', 'runsOn');
