-- Up Migration
-- Life may be counted by the wear that was corrected since the edge was renewed, in nanometres.
ALTER TABLE life_counter DROP CONSTRAINT life_counter_basis_check;
ALTER TABLE life_counter ADD CONSTRAINT life_counter_basis_check CHECK (basis IN ('pieces', 'holes', 'minutes', 'wear'));
ALTER TABLE edge_end DROP CONSTRAINT edge_end_basis_check;
ALTER TABLE edge_end ADD CONSTRAINT edge_end_basis_check CHECK (basis IN ('pieces', 'holes', 'minutes', 'wear'));
-- of one that is counted by wear: the corrections that count (none: those of the row that moved most), and what a part took
ALTER TABLE life_counter ADD COLUMN watched text CHECK (watched IN ('lengthWear', 'cutterWear', 'xWear', 'zWear'));
ALTER TABLE life_counter ADD COLUMN watched_feature integer REFERENCES feature;
ALTER TABLE life_counter ADD COLUMN per_part bigint CHECK (per_part > 0);
ALTER TABLE life_counter ADD CHECK (watched IS NULL OR watched_feature IS NULL);
CREATE INDEX life_counter_watched_feature ON life_counter (watched_feature) WHERE watched_feature IS NOT NULL;
GRANT INSERT (watched, watched_feature) ON life_counter TO tin_app;
GRANT UPDATE (watched, watched_feature, per_part) ON life_counter TO tin_app;

-- counts of a job's parts, and what was taken back of them
CREATE INDEX ledger_parts ON ledger (job_id, id) WHERE kind = 'parts';
CREATE INDEX ledger_parts_of_machine ON ledger (machine_id, at) WHERE kind = 'parts';

INSERT INTO ledger_stage (kind, stage) VALUES ('life', 'corrected'), ('life', 'read off'), ('parts', 'broken off');
