-- Up Migration
-- A job is paused and taken up again, stopped short with a reason, taken off the list before it was begun, and moved in its list.
ALTER TABLE job DROP CONSTRAINT job_state_check;
ALTER TABLE job ADD CONSTRAINT job_state_check CHECK (state IN ('waiting', 'running', 'paused', 'done', 'removed'));
-- where it stands in its machine's list, and why it was paused, stopped or taken off
ALTER TABLE job ADD COLUMN place integer;
ALTER TABLE job ADD COLUMN why text NOT NULL DEFAULT '';
UPDATE job SET place = id;
ALTER TABLE job ALTER COLUMN place SET NOT NULL;
ALTER TABLE job ADD CONSTRAINT job_paused_for_a_reason CHECK (state NOT IN ('paused', 'removed') OR why <> '');
ALTER TABLE job ADD CONSTRAINT job_removed_before_it_was_begun CHECK (state <> 'removed' OR made = 0);
CREATE INDEX job_of_machine ON job (machine_id, place) WHERE state NOT IN ('done', 'removed');
GRANT INSERT (place), UPDATE (place, why) ON job TO tin_app;
INSERT INTO ledger_stage (kind, stage) VALUES
  ('program', 'paused'), ('program', 'taken up'), ('program', 'stopped'), ('program', 'removed'), ('program', 'reordered'), ('program', 'job changed');
