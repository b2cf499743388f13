-- Up Migration
-- The last part on which a feature of a job was measured: at the end of an index also where other features have thousands since.
CREATE INDEX reading_feature_of_job ON reading (job_id, feature_id, part) WHERE job_id IS NOT NULL;
-- What was proposed for a feature, newest first: also what is asked when a feature is taken away.
CREATE INDEX proposal_feature ON proposal (feature_id, id);
