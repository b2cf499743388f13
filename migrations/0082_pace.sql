-- Up Migration
-- How long a cycle takes as it was counted lately; null: too little was counted to say.
ALTER TABLE job ADD pace_milliseconds integer CHECK (pace_milliseconds > 0);
GRANT UPDATE (pace_milliseconds) ON job TO tin_app;
