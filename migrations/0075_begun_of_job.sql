-- Up Migration
-- When a job was begun or taken up is asked for each size of a measuring plan.
CREATE INDEX ledger_begun_of_job ON ledger (job_id, id) WHERE kind = 'program' AND stage IN ('started', 'taken up');
