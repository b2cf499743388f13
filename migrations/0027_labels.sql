-- Up Migration
-- A label that was printed is on record, so that those still without one are known.
INSERT INTO ledger_stage (kind, stage) VALUES ('assembly', 'labelled');
CREATE INDEX ledger_labelled ON ledger (assembly_id) WHERE kind = 'assembly' AND stage = 'labelled';
